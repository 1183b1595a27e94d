import { describe, expect, it } from 'vitest';
import { buildPyramid } from './pyramid';
import { buildWarpGrid, redraw } from './redraw';

/** A ramp: red says u, green says v; bilinear sampling must give the place back. */
function ramp(width: number, height: number) {
  const data = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.set([(x / width) * 255, (y / height) * 255, 7, 255], (y * width + x) * 4);
  return { width, height, data };
}

describe('redraw', () => {
  const pyramid = buildPyramid(ramp(1024, 768));

  it('draws a turned and shrunken picture where the map says', () => {
    const map = (x: number, y: number, out: Float64Array) => {
      out[0] = 500 + 2.6 * (x - 100) + 0.4 * (y - 80);
      out[1] = 380 - 0.4 * (x - 100) + 2.6 * (y - 80);
      return true;
    };
    const out = new Uint8ClampedArray(200 * 160 * 4);
    redraw(pyramid, buildWarpGrid(200, 160, map), 200, 0, 160, out);
    const place = new Float64Array(2);
    for (const [x, y] of [
      [100, 80],
      [30, 40],
      [170, 120],
      [120, 10],
    ]) {
      map(x! + 0.5, y! + 0.5, place);
      const at = (y! * 200 + x!) * 4;
      expect(Math.abs(out[at]! - (place[0]! / 1024) * 255)).toBeLessThan(1.5);
      expect(Math.abs(out[at + 1]! - (place[1]! / 768) * 255)).toBeLessThan(1.5);
      expect(out[at + 3]).toBe(255);
    }
  });

  it('gives the same rows in pieces as in one go, and leaves the outside clear', () => {
    const net = buildWarpGrid(300, 90, (x, y, out) => {
      out[0] = x * 4 - 200;
      out[1] = y * 4;
      return y < 70;
    });
    const whole = new Uint8ClampedArray(300 * 90 * 4);
    const pieces = new Uint8ClampedArray(300 * 90 * 4);
    redraw(pyramid, net, 300, 0, 90, whole);
    for (let y = 0; y < 90; y += 7) redraw(pyramid, net, 300, y, Math.min(90, y + 7), pieces);
    expect(pieces).toEqual(whole);
    expect(whole[(10 * 300 + 10) * 4 + 3]).toBe(0);
    expect(whole[(85 * 300 + 150) * 4 + 3]).toBe(0);
  });
});
