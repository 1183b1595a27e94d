import { drawRuler, RULER_KINDS } from '@steady-moth/rig/harder';
import { openReader } from '@steady-moth/rig/letters';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { findAll, findRuler } from '../find';
import { readRulerFigures } from './readRulerFigures';

const picture = new URL('../../../demo/pictures/latch-plate.jpg', import.meta.url);

describe('the figures engraved on a rule in a photograph', () => {
  let reader: Awaited<ReturnType<typeof openReader>>;
  beforeAll(async () => {
    reader = await openReader('scattered');
  }, 60_000);
  afterAll(() => reader.close());

  it.each([0, 180, 90])(
    'are read with the picture turned by %d degrees',
    async (turn) => {
      const { data, info } = await sharp(picture.pathname)
        .rotate(turn)
        .ensureAlpha()
        .raw()
        .toBuffer({ resolveWithObject: true });
      const pixels = { width: info.width, height: info.height, data };
      const ruler = findAll(pixels).find((thing) => thing.kind === 'ruler')!.found;
      const said = (await readRulerFigures(pixels, ruler, reader.read))!;
      expect(said).toMatchObject({ unit: 'cm', spacingMm: 1, orUnit: null, doubt: null });
      expect([said.first, said.last].sort((a, b) => a - b)).toEqual([0, 15]);
      const values = said.figures.map((f) => f.value).sort((a, b) => a - b);
      expect(new Set(values).size).toBe(values.length);
      expect(values.length).toBeGreaterThan(12);
    },
    120_000,
  );

  // The end of its body is its zero: a dark table begins there, and the first figure stands beside it.
  it.each([
    ['steel, half mm', 50],
    ['steel, mm', 52],
    ['inch, sixteenths', 52],
  ])(
    'are read on a ruler whose zero is its end: %s',
    async (name, seed) => {
      const kind = RULER_KINDS.find((k) => k.name === name)!;
      const drawn = drawRuler(kind, seed, true);
      const perMm = 15;
      const { data, info } = await sharp(Buffer.from(drawn.svg(perMm)))
        .blur(0.8)
        .ensureAlpha()
        .raw()
        .toBuffer({ resolveWithObject: true });
      const [x, y] = drawn.feet[drawn.feet.length >> 1]!;
      const pixels = { width: info.width, height: info.height, data };
      const ruler = findRuler(pixels, { uPx: perMm * x, vPx: perMm * y });
      if (!ruler.ok) throw new Error(ruler.reason);
      const said = (await readRulerFigures(pixels, ruler, reader.read))!;
      expect(said.spacingMm).toBeCloseTo(kind.spacingMm, 9);
      expect(said.doubt).toBeNull();
      const unitMm = { mm: 1, cm: 10, in: 25.4 }[kind.unit];
      // What it reads at its ends lies where the drawing has that reading.
      for (const [pick, reading] of [
        [ruler.from, said.first],
        [ruler.to, said.last],
      ] as const) {
        const n = Math.round(((reading - drawn.firstReading) * unitMm) / kind.spacingMm);
        const foot = drawn.feet[n]!;
        expect(Math.hypot(pick.uPx / perMm - foot[0], pick.vPx / perMm - foot[1])).toBeLessThan(10 * kind.spacingMm);
      }
    },
    120_000,
  );
});
