import { FUNNEL_BRACKET_SCAN } from '@steady-moth/rig/demo';
import { drawDimensioned } from '@steady-moth/rig/harder';
import { openReader } from '@steady-moth/rig/letters';
import { scannedAt } from '@steady-moth/rig/scan';
import fc from 'fast-check';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Pixels } from '../raster';
import { heldTogether, lengthSaid, type ReadDimension, readDrawing, unitSaid } from './readDrawing';
import { straightPage, turnOfLines } from './straightPage';
import { turnedBack, turnedBy } from './text';

const drawing = new URL('../../../demo/pictures/funnel-bracket.jpg', import.meta.url);

async function load(turn = 0): Promise<Pixels> {
  const { data, info } = await sharp(drawing.pathname)
    .rotate(turn, { background: '#ddd' })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data };
}

/** What the drawing shows, mm on its page: the figure and its two extension lines. */
const TRUE: Record<number, [[number, number], [number, number]]> = {
  80: [
    [60, 32],
    [140, 32],
  ],
  64: [
    [68, 104],
    [132, 104],
  ],
  50: [
    [47, 95],
    [47, 45],
  ],
  32: [
    [47, 172],
    [47, 140],
  ],
};

describe('the dimensions printed on a drawing', () => {
  let pixels: Pixels;
  let read: ReadDimension[];
  beforeAll(async () => {
    pixels = await load();
    const reader = await openReader('rows');
    read = await readDrawing(pixels, reader.read);
    await reader.close();
  }, 120_000);

  it.each(Object.keys(TRUE).map(Number))('%d is read, between its own extension lines to 0.4 px', (value) => {
    const found = read.find((d) => d.value === value)!;
    expect(found.check).toBe('agrees');
    const [p, q] = TRUE[value]!.map(([x, y]) => scannedAt(FUNNEL_BRACKET_SCAN, x, y)) as [
      [number, number],
      [number, number],
    ];
    const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
    const [ux, uy] = [(q[0] - p[0]) / length, (q[1] - p[1]) / length];
    const along = ({ uPx, vPx }: { uPx: number; vPx: number }) => (uPx - p[0]) * ux + (vPx - p[1]) * uy;
    const ends = [along(found.from), along(found.to)].sort((a, b) => a - b);
    expect(Math.abs(ends[0]!)).toBeLessThan(0.4);
    expect(Math.abs(ends[1]! - length)).toBeLessThan(0.4);
  });

  it('no leader, no frame and no centre line is taken for one, and what is wrong is said', () => {
    const agreeing = read.filter((d) => d.check === 'agrees').map((d) => d.value);
    for (const value of agreeing) expect([80, 64, 50, 32, 6, 5]).toContain(value);
    for (const wrong of read.filter((d) => ![80, 64, 50, 32, 6, 5].includes(d.value)))
      expect(wrong.check).toBe('contradicts');
  });

  it('a page is straightened by its lines to a hundredth of a degree per degree', async () => {
    const own = turnOfLines(pixels);
    // The scanner's own turn, to the left where v runs down.
    expect(Math.abs(own + FUNNEL_BRACKET_SCAN.turn)).toBeLessThan(0.001);
    const further = turnOfLines(await load(7));
    expect(Math.abs(further - own - (7 * Math.PI) / 180)).toBeLessThan(0.0015);
    const page = straightPage(pixels);
    const middle = page.toPicture(page.width / 2, page.height / 2);
    expect(Math.hypot(middle.x - pixels.width / 2, middle.y - pixels.height / 2)).toBeLessThan(1);
  }, 60_000);
});

describe('what a figure says', () => {
  it.each([
    ['62.4', 62.4],
    ['62,4', 62.4],
    ['80', 80],
    ['(12)', 12],
    ['8H7', 8],
    ['R6', null],
    ['M8', null],
    ['45°', null],
    ['1:2', null],
    ['0', null],
    ['', null],
    ['3 1/2 in', 3.5],
    ['3 1/2"', 3.5],
    ['1/2', 0.5],
    ['11-3/16"', 11.1875],
    ['2.375 in', 2.375],
    ['28 in', 28],
    ['40 mm', 40],
    ['12 .5', 12.5],
    ['5/3', null],
    ['1/7 in', null],
  ])('%s', (text, value) => {
    expect(lengthSaid(text)).toBe(value);
  });
});

describe('the unit behind a figure', () => {
  it.each([
    ['3 1/2', 'in'],
    ['3.5 in', 'in'],
    ['28"', 'in'],
    ['40 mm', 'mm'],
    ['40', null],
  ])('%s', (text, unit) => {
    expect(unitSaid(text)).toBe(unit);
  });
});

describe('dimensions held against each other', () => {
  const span = (value: number, px: number, isUpright = false, offPx = 0): Omit<ReadDimension, 'check' | 'byOthers'> => {
    const end = { uPx: isUpright ? 100 : 100 + px + offPx, vPx: isUpright ? 100 + px + offPx : 100, sigmaPx: 0.1 };
    return {
      text: String(value),
      value,
      confidence: 95,
      from: { uPx: 100, vPx: 100, sigmaPx: 0.1 },
      to: end,
      at: { uPx: 100, vPx: 90 },
      noted: null,
    };
  };

  it('the wrong one of four stands out, however wrong it is', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 5, max: 20, noNaN: true }),
        fc.array(fc.integer({ min: 200, max: 1500 }), { minLength: 4, maxLength: 4 }),
        fc.integer({ min: 0, max: 3 }),
        fc.constantFrom(0.1, 0.5, 0.9, 1.02, 1.1, 2, 10),
        (perMm, tenths, k, factor) => {
          const said = tenths.map((t) => span(t / 10, (t / 10) * perMm));
          said[k] = { ...said[k]!, value: said[k]!.value * factor };
          const held = heldTogether(said);
          held.forEach((d, j) => {
            expect(d.check === 'agrees').toBe(j !== k);
          });
          expect(held[k]!.byOthers).toBeCloseTo(tenths[k]! / 10, 6);
        },
      ),
    );
  });

  it('one that is wrong by its last figure is not said to agree', () => {
    const held = heldTogether([span(80, 944.88), span(64, 755.9), span(50.1, 590.55)]);
    expect(held.map((d) => d.check)).toEqual(['agrees', 'agrees', 'unsure']);
  });

  it('a scanner that is longer one way than the other is no contradiction', () => {
    const held = heldTogether([span(80, 946.6), span(64, 757.3), span(50, 588.7, true), span(32, 376.8, true)]);
    expect(held.every((d) => d.check === 'agrees')).toBe(true);
  });

  it('two that disagree leave both open, and one alone is not checked', () => {
    expect(heldTogether([span(80, 900), span(64, 900)]).map((d) => d.check)).toEqual(['contradicts', 'contradicts']);
    expect(heldTogether([span(80, 900)])[0]).toMatchObject({ check: 'unsure', byOthers: null });
  });
});

describe('what a note says of the unit', () => {
  let reader: Awaited<ReturnType<typeof openReader>>;
  beforeAll(async () => {
    reader = await openReader('rows');
  }, 60_000);
  afterAll(() => reader.close());

  it.each([
    ['ALL DIMENSIONS IN INCHES', 'in'],
    ['Dimensions are in inches unless noted', 'in'],
    ['ALL DIMENSIONS IN MILLIMETRES', 'mm'],
    ['REMOVE ALL BURRS, PUNCHES AND BENCHES', null],
  ] as const)(
    '%s: %s',
    async (note, unit) => {
      for (const seed of [3, 8]) {
        const drawn = drawDimensioned(seed);
        const perMm = 300 / 25.4;
        const svg = drawn
          .svg(perMm)
          .replace(
            '</svg>',
            `<text x="20" y="${drawn.heightMm - 4}" font-family="Arial" font-size="4">${note}</text></svg>`,
          );
        const { data, info } = await sharp(Buffer.from(svg))
          .flatten({ background: '#fff' })
          .blur(0.8)
          .ensureAlpha()
          .raw()
          .toBuffer({ resolveWithObject: true });
        const read = await readDrawing({ width: info.width, height: info.height, data }, reader.read);
        expect(read.length).toBeGreaterThan(2);
        expect(new Set(read.map((d) => d.noted))).toEqual(new Set([unit]));
      }
    },
    120_000,
  );
});

describe('a picture to be read', () => {
  it('is turned by quarters, and every place of it found again', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 7 }),
        fc.integer({ min: 1, max: 7 }),
        fc.integer({ min: 0, max: 3 }),
        (width, height, quarters) => {
          const image = { width, height, light: Uint8Array.from({ length: width * height }, (_, k) => k) };
          const turned = turnedBy(image, quarters);
          for (let y = 0; y < turned.height; y++)
            for (let x = 0; x < turned.width; x++) {
              const [u, v] = turnedBack(image, quarters, x + 0.5, y + 0.5);
              expect(turned.light[y * turned.width + x]).toBe(image.light[Math.floor(v) * width + Math.floor(u)]);
            }
        },
      ),
    );
  });
});
