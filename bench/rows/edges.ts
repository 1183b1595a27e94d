import { locateEdge } from '../../core/src/edge';
import { erf } from '../../core/src/edge/erf';
import { normalRandom, seededRandom } from '../../core/src/numeric';
import type { Pixels } from '../../core/src/raster';

export interface EdgeRow {
  scenes: number;
  found: number;
  biasPx: number;
  rmsPx: number;
  /** Share of errors within the ± told. */
  held: number;
}

/** 111 and 151 of 255: a contrast of 40. */
const DARK = 0.1589;
const BRIGHT = 0.3095;
const SIZE = 90;

/**
 * A blurred edge by its closed form, straight or round, at every angle and phase, with noise 3 of 255: how far the
 * located place lies from the true one. The light of a round edge has the shift of its half-level built in.
 */
export function measureEdges(blurPx: number, radiusPx: number | null, firstSeed: number, scenes: number): EdgeRow {
  const errors: number[] = [];
  let held = 0;
  for (let k = 0; k < scenes; k++) {
    const random = seededRandom(firstSeed + k);
    const normal = normalRandom(random);
    const angle = 2 * Math.PI * random();
    const [cx, cy] = [SIZE / 2 + random(), SIZE / 2 + random()];
    // Signed distance from the true edge, positive on the bright side.
    const centre =
      radiusPx === null ? null : { x: cx - radiusPx * Math.cos(angle), y: cy - radiusPx * Math.sin(angle) };
    const away = (u: number, v: number) =>
      centre && radiusPx !== null
        ? Math.hypot(u - centre.x, v - centre.y) - radiusPx
        : (u - cx) * Math.cos(angle) + (v - cy) * Math.sin(angle);
    const shift = radiusPx === null ? 0 : blurPx ** 2 / (2 * radiusPx);
    const light = (d: number) => DARK + ((BRIGHT - DARK) / 2) * (1 + erf((d + shift) / (Math.SQRT2 * blurPx)));
    const pixels = draw((u, v) => light(away(u, v)), normal);
    const found = locateEdge(pixels, cx + 2 * random() - 1, cy + 2 * random() - 1);
    if (!found) continue;
    const error = away(found.uPx, found.vPx);
    errors.push(error);
    if (Math.abs(error) <= 2 * found.sigmaPx) held += 1;
  }
  const n = errors.length;
  return {
    scenes,
    found: n,
    biasPx: errors.reduce((a, b) => a + b, 0) / n,
    rmsPx: Math.sqrt(errors.reduce((a, b) => a + b * b, 0) / n),
    held: held / n,
  };
}

function draw(light: (u: number, v: number) => number, normal: () => number): Pixels {
  const data = new Uint8ClampedArray(SIZE * SIZE * 4).fill(255);
  for (let y = 0; y < SIZE; y++)
    for (let x = 0; x < SIZE; x++) {
      const l = light(x + 0.5, y + 0.5);
      const s = 255 * (1.055 * l ** (1 / 2.4) - 0.055) + 3 * normal();
      data.fill(s, (y * SIZE + x) * 4, (y * SIZE + x) * 4 + 3);
    }
  return { width: SIZE, height: SIZE, data };
}
