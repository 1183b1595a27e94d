import { describe, expect, it } from 'vitest';
import { normalRandom, seededRandom } from '../numeric';
import type { Pixels } from '../raster';
import { erf } from './erf';
import { locateEdge, locateGraduation, locateLine } from './locate';

/** Light of an ideal scene blurred by σ, integrated over each pixel by the closed form, then as a file holds it. */
function draw(size: number, light: (u: number, v: number) => number, noise: number, seed: number): Pixels {
  const normal = normalRandom(seededRandom(seed));
  const data = new Uint8ClampedArray(size * size * 4).fill(255);
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) {
      const l = light(x + 0.5, y + 0.5);
      const s = l <= 0.0031308 ? 12.92 * l : 1.055 * l ** (1 / 2.4) - 0.055;
      data.fill(Math.round(255 * s + noise * normal()), (y * size + x) * 4, (y * size + x) * 4 + 3);
    }
  return { width: size, height: size, data };
}

const DARK = 0.16;
const BRIGHT = 0.3;
const blurredStep = (d: number, blur: number) => DARK + ((BRIGHT - DARK) / 2) * (1 + erf(d / (Math.SQRT2 * blur)));

describe('locateEdge', () => {
  it.each([0.7, 1.2, 2])('finds a straight edge at blur %s within its scatter, without bias', (blur) => {
    const errors: number[] = [];
    for (let n = 0; n < 60; n++) {
      const angle = n * 0.37;
      const c = 40 + ((n * 0.617) % 1);
      const distance = (u: number, v: number) => (u - c) * Math.cos(angle) + (v - 40) * Math.sin(angle);
      const pixels = draw(80, (u, v) => blurredStep(distance(u, v), blur), 3, n + 1);
      const found = locateEdge(pixels, 41.5, 39);
      if (!found) throw new Error(`nothing at ${angle}`);
      errors.push(distance(found.uPx, found.vPx));
    }
    const mean = errors.reduce((a, b) => a + b) / errors.length;
    const rms = Math.sqrt(errors.reduce((a, b) => a + b * b, 0) / errors.length);
    expect(Math.abs(mean)).toBeLessThan(0.02);
    expect(rms).toBeLessThan(0.07);
  });

  it('takes out the inward shift of a curved edge', () => {
    const errors: number[] = [];
    const light = blurredDisc(40, 1.5);
    for (let n = 0; n < 40; n++) {
      const cx = 60 + ((n * 0.618) % 1);
      const pixels = draw(120, (u, v) => light(Math.hypot(u - cx, v - 60)), 2, n + 100);
      const angle = n * 0.51;
      const found = locateEdge(pixels, cx + 41 * Math.cos(angle), 60 + 41 * Math.sin(angle));
      if (!found) throw new Error('nothing');
      errors.push(Math.hypot(found.uPx - cx, found.vPx - 60) - 40);
    }
    expect(Math.abs(errors.reduce((a, b) => a + b) / errors.length)).toBeLessThan(0.03);
  });

  it.each([6, 9, 14, 20])('finds the rim of a small hole of radius %s all round, without bias', (radius) => {
    const light = blurredDisc(radius, 1.1);
    const away: number[] = [];
    for (let n = 0; n < 48; n++) {
      const cx = 45 + ((n * 0.618) % 1);
      const pixels = draw(90, (u, v) => light(Math.hypot(u - cx, v - 45)), 2, n + 300);
      const angle = n * 0.71;
      const found = locateEdge(pixels, cx + (radius + 1) * Math.cos(angle), 45 + (radius + 1) * Math.sin(angle));
      if (!found) throw new Error(`nothing at ${angle}`);
      away.push(Math.hypot(found.uPx - cx, found.vPx - 45) - radius);
    }
    expect(Math.abs(away.reduce((a, b) => a + b) / away.length)).toBeLessThan(0.06);
    expect(Math.max(...away.map(Math.abs))).toBeLessThan(0.35);
  });

  it.each([1500, 400, 200])('tells what it cannot tell of an edge that bends gently, at radius %s', (radius) => {
    // So large that the half-level's shift, s²/2R, is a hundredth of a pixel at most.
    const BLUR = 2;
    const away: { off: number; sigma: number }[] = [];
    for (let n = 0; n < 80; n++) {
      const angle = n * 0.71;
      const [cx, cy] = [40.3 + ((n * 0.618) % 1) - radius * Math.cos(angle), 40 - radius * Math.sin(angle)];
      const off = (u: number, v: number) => Math.hypot(u - cx, v - cy) - radius;
      const pixels = draw(80, (u, v) => blurredStep(off(u, v) + BLUR ** 2 / (2 * radius), BLUR), 3, n + 900);
      const found = locateEdge(pixels, 40.5, 40.5);
      if (!found) throw new Error(`nothing at ${angle}`);
      away.push({ off: off(found.uPx, found.vPx), sigma: found.sigmaPx });
    }
    expect(Math.abs(away.reduce((sum, a) => sum + a.off, 0) / away.length)).toBeLessThan(0.05);
    expect(Math.sqrt(away.reduce((sum, a) => sum + a.off ** 2, 0) / away.length)).toBeLessThan(0.095);
    expect(away.filter((a) => Math.abs(a.off) < 2 * a.sigma).length / away.length).toBeGreaterThan(0.82);
  });

  it('finds nothing where there is nothing', () => {
    expect(
      locateEdge(
        draw(80, () => 0.2, 0, 1),
        40,
        40,
      ),
    ).toBeNull();
    expect(
      locateEdge(
        draw(80, () => 0.2, 3, 1),
        400,
        40,
      ),
    ).toBeNull();
  });

  it('tells a shadow, softer than any lens makes an edge, by a ± as large as it is too soft', () => {
    const step = (blur: number) => draw(61, (u) => blurredStep(u - 30.5, blur), 3, 5);
    const sharp = locateEdge(step(1.5), 30, 30);
    const soft = locateEdge(step(4.5), 30, 30);
    // Of the sharp one, most is what shade at its foot may make.
    expect(sharp?.sigmaPx).toBeLessThan(0.3);
    expect(soft?.blurPx).toBeGreaterThan(3.5);
    expect(soft?.sigmaPx).toBeGreaterThan(1.2);
  });

  it('points from dark to light', () => {
    const found = locateEdge(
      draw(80, (u) => blurredStep(u - 40, 1), 0, 1),
      41,
      40,
    );
    expect(found?.normal).toBeCloseTo(0, 2);
  });
});

describe('locateStroke', () => {
  const strip = (depth: number) => (u: number) =>
    0.2 + depth * Math.exp(-0.5 * ((u - 45) / 1.1) ** 2) + (u > 45 ? 0.1 : 0);

  it('takes a clear dark stroke, but an edge before a worn bright rim', () => {
    expect(
      locateGraduation(
        draw(90, (u) => 0.5 - 0.4 * Math.exp(-0.5 * ((u - 45) / 1.1) ** 2), 2, 1),
        46,
        45,
      ),
    ).toMatchObject({ kind: 'line', dark: true });
    expect(locateGraduation(draw(90, strip(0.25), 2, 1), 46, 45)?.kind).toBe('edge');
  });

  it('does not take the flank of an edge for a line', () => {
    expect(
      locateLine(
        draw(90, (u) => blurredStep(u - 45, 1), 2, 1),
        44,
        45,
      ),
    ).toBeNull();
  });
});

describe('locateLine', () => {
  it('finds the middle of a dark stroke between its neighbours', () => {
    const errors: number[] = [];
    for (let n = 0; n < 40; n++) {
      const phase = (n * 0.618) % 1;
      const graduation = (d: number) => erf((d + 1.2) / 1.4) - erf((d - 1.2) / 1.4);
      const pixels = draw(
        90,
        (u) => 0.5 - 0.22 * [-36, -18, 0, 18, 36].reduce((s, at) => s + graduation(u - 45 - phase - at), 0),
        3,
        n + 7,
      );
      const found = locateLine(pixels, 47, 45);
      if (!found) throw new Error('nothing');
      errors.push(found.uPx - 45 - phase);
    }
    expect(Math.sqrt(errors.reduce((a, b) => a + b * b, 0) / errors.length)).toBeLessThan(0.04);
  });
});

/** A blurred disc, brighter outside: by quadrature once on a fine radius, independent of any edge model. */
function blurredDisc(radius: number, blur: number): (r: number) => number {
  const step = 0.02;
  const reach = 6 * blur;
  const table = Array.from({ length: Math.ceil((2 * reach) / step) + 2 }, (_, k) =>
    discQuadrature(radius - reach + k * step, radius, blur),
  );
  return (r) => {
    const at = (r - radius + reach) / step;
    if (at <= 0) return DARK;
    if (at >= table.length - 2) return BRIGHT;
    const k = Math.floor(at);
    return table[k]! + (at - k) * (table[k + 1]! - table[k]!);
  };
}

function discQuadrature(r: number, radius: number, blur: number): number {
  let inside = 0;
  let all = 0;
  for (let i = -18; i <= 18; i++)
    for (let j = -18; j <= 18; j++) {
      const x = (i / 4.5) * blur;
      const y = (j / 4.5) * blur;
      const w = Math.exp(-(x * x + y * y) / (2 * blur * blur));
      all += w;
      // Soft between samples, so that the quadrature has no steps of its own.
      const d = radius - Math.hypot(r + x, y);
      inside += w * Math.min(1, Math.max(0, d / (blur / 4.5) + 0.5));
    }
  return BRIGHT + (DARK - BRIGHT) * (inside / all);
}
