import fc from 'fast-check';
import { expect, it } from 'vitest';
import { detrended, repeats } from './repeat';

const profile = fc.array(fc.double({ min: 0, max: 255, noNaN: true }), { minLength: 30, maxLength: 120 });

it('takes the mean of the samples to both sides off each', () => {
  fc.assert(
    fc.property(profile, fc.integer({ min: 1, max: 40 }), (values, reach) => {
      const found = detrended(Float64Array.from(values), reach);
      for (const [k, v] of values.entries()) {
        const about = values.slice(Math.max(0, k - reach), k + reach + 1);
        expect(found[k]).toBeCloseTo(v - about.reduce((a, b) => a + b) / about.length, 8);
      }
    }),
  );
});

it('is the correlation of a profile with itself, later on', () => {
  fc.assert(
    fc.property(profile, (values) => {
      const raw = values.map((v) => v - 127);
      const found = repeats(Float64Array.from(raw), 3, 15);
      expect(found).toHaveLength(17);
      expect(found.slice(0, 3)).toEqual([1, 1, 1]);
      for (let lag = 3; lag <= 15; lag++) {
        const [here, later] = [raw.slice(0, raw.length - lag), raw.slice(lag)];
        const sum = (f: (k: number) => number) => here.reduce((s, _, k) => s + f(k), 0);
        const size = sum((k) => here[k]! ** 2) * sum((k) => later[k]! ** 2);
        expect(found[lag]).toBeCloseTo(sum((k) => here[k]! * later[k]!) / Math.sqrt(size || 1), 6);
      }
    }),
  );
});

it('finds the period of a wave', () => {
  const wave = Float64Array.from({ length: 300 }, (_, k) => Math.sin((2 * Math.PI * k) / 12) + k / 50);
  const found = repeats(detrended(wave, 40), 3, 20);
  expect(found.indexOf(Math.max(...found.slice(8)))).toBe(12);
});
