import { type CoinKind, harderCoin } from '@steady-moth/rig/harder';
import { shoot } from '@steady-moth/rig/render';
import { describe, expect, it } from 'vitest';
import { buildCamera, pictureOf } from '../../../../rig/src/camera';
import { offEllipse } from '../../fit';
import type { Pixels } from '../../raster';
import { findDisc } from '..';

/** A coin of a kind, small, as the camera saw it; and the radius of its rim there, px. */
function coinOf(kind: CoinKind, seed: number) {
  const { scene, coin } = harderCoin(kind, seed);
  const camera = buildCamera(scene.camera);
  const at = (x: number, y: number) =>
    pictureOf(camera, { x: coin.lie.x + x, y: coin.lie.y + y, z: coin.thickness / 2 })!;
  const middle = at(0, 0);
  const r = coin.diameterMm / 2;
  const size = [at(r, 0), at(-r, 0), at(0, r), at(0, -r)].reduce(
    (sum, [u, v]) => sum + Math.hypot(u - middle[0], v - middle[1]) / 4,
    0,
  );
  const half = Math.ceil(1.8 * size);
  const frame = {
    left: Math.round(middle[0]) - half,
    top: Math.round(middle[1]) - half,
    width: 2 * half,
    height: 2 * half,
  };
  const { pixels: rgb } = shoot(scene, frame);
  const data = new Uint8ClampedArray(16 * half * half).fill(255);
  for (let k = 0; k < 4 * half * half; k++) data.set(rgb.subarray(3 * k, 3 * k + 3), 4 * k);
  const pixels: Pixels = { width: 2 * half, height: 2 * half, data };
  return { pixels, size, click: { uPx: half + 0.2 * size, vPx: half - 0.1 * size } };
}

describe('a coin that misleads', () => {
  it.each([
    ['two metals, gold ring, on oak', 302],
    ['gold on blue-gray', 101],
    ['copper on oak', 102],
    ['worn silver on white', 102],
    ['bronze on slate', 101],
    ['gray on gray, a hard shadow beside it', 103],
    ['engraved ring and milled rim, on wood', 304],
  ] as const)('is found by its own rim: %s', (kind, seed) => {
    const { pixels, size, click } = coinOf(kind, seed);
    const found = findDisc(pixels, click);
    if (!found.ok) throw new Error(found.reason);
    const share = Math.sqrt(found.ellipse.a * found.ellipse.b) / size;
    // Its near wall shows below the rim: up to two percent more than the rim alone.
    expect(share).toBeGreaterThan(0.98);
    expect(share).toBeLessThan(1.045);
    // What makes the picture true are the places of the rim: they lie on that ellipse, not on a shadow beside it.
    const off = found.rim.map((p) => Math.abs(offEllipse(found.ellipse, { x: p.uPx, y: p.vPx })));
    expect(Math.max(...off)).toBeLessThan(Math.max(1.5, 0.015 * size));
  });
});
