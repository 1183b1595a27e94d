import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import type { Pixels } from '../raster';
import { locateInkCorner } from './inkCorner';

/** A page with strokes on it, as a scanner sees it: paper that is not white, ink that is not black, a little blurred. */
async function page(strokes: string, width: number): Promise<Pixels> {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="600" height="600"><rect width="600" height="600" fill="#f2efe6"/><g fill="none" stroke="#2a2a30" stroke-width="${width}">${strokes}</g></svg>`;
  const { data, info } = await sharp(Buffer.from(svg))
    .blur(0.7)
    .jpeg({ quality: 92 })
    .toBuffer()
    .then((bytes) => sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true }));
  return { width: info.width, height: info.height, data: new Uint8ClampedArray(data) };
}
const far = (angle: number, length = 200): [number, number] => [
  300.4 + length * Math.cos((angle * Math.PI) / 180),
  299.7 + length * Math.sin((angle * Math.PI) / 180),
];
const arms = (...angles: number[]) => angles.map((a) => `<path d="M300.4 299.7 L${far(a).join(' ')}"/>`).join('');

describe('a corner of ink', () => {
  it.each([
    ['a corner', [12, 101]],
    ['a sharp corner', [20, 65]],
    ['a blunt one', [-10, 120]],
    ['one that ends on another', [5, 185, 95]],
    ['a crossing', [33, 213, 118, 298]],
    ['level and plumb', [0, 90]],
  ] as const)('%s lies where the middles of its strokes meet', async (_, angles) => {
    for (const width of [3, 6, 11]) {
      const pixels = await page(arms(...angles), width);
      for (const [du, dv] of [
        [0, 0],
        [6, -3],
        [-5, 6],
      ] as const) {
        const found = locateInkCorner(pixels, 300.4 + du, 299.7 + dv, 14);
        expect(found, `${width} px, from ${du}, ${dv}`).not.toBeNull();
        const off = Math.hypot(found!.uPx - 300.4, found!.vPx - 299.7);
        expect(off, `${width} px, from ${du}, ${dv}`).toBeLessThan(0.6);
        expect(off).toBeLessThan(3 * found!.sigmaPx);
      }
    }
  });

  it.each(['round', 'butt'])(
    'a lone end of a %s stroke lies where the pen ended, or either is in its σ',
    async (cap) => {
      for (const angle of [0, 17, 100, 200])
        for (const width of [3, 5, 8, 12]) {
          const pixels = await page(`<g stroke-linecap="${cap}">${arms(angle)}</g>`, width);
          for (const [du, dv] of [
            [0, 0],
            [4, -3],
            [-3, 4],
          ] as const) {
            const found = locateInkCorner(pixels, 300.4 + du, 299.7 + dv, 14);
            expect(found, `${width} px at ${angle}`).not.toBeNull();
            const off = Math.hypot(found!.uPx - 300.4, found!.vPx - 299.7);
            // Thin ones do not show how they end: half the way between both, and it says so.
            expect(off, `${width} px at ${angle}`).toBeLessThan(width < 6 ? width / 4 + 0.5 : 0.7);
            expect(off).toBeLessThan(2.5 * found!.sigmaPx);
          }
        }
    },
  );

  it('is none along a line, on a round, or in an area', async () => {
    const none = async (strokes: string, width = 5) => locateInkCorner(await page(strokes, width), 300, 300, 14);
    expect(await none(`<path d="M40 250 L560 350"/>`)).toBeNull();
    expect(await none('<circle cx="300" cy="360" r="60"/>')).toBeNull();
    expect(await none('<path d="M200 200 h300 v300 h-300 z" fill="#2a2a30"/>')).toBeNull();
    expect(await none('')).toBeNull();
    // Two strokes that pass by each other do not meet.
    expect(await none('<path d="M100 285 h400"/><path d="M100 315 h400"/>')).toBeNull();
  });

  it('is none further away than it is looked for', async () => {
    expect(locateInkCorner(await page(arms(0, 90), 5), 322, 299, 10)).toBeNull();
  });
});
