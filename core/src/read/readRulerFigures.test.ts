import { openReader } from '@steady-moth/rig/letters';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { findAll } from '../find';
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
});
