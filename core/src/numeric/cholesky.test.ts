import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { factorCholesky, solveCholesky } from './cholesky';
import { normalRandom, seededRandom } from './random';

/** A symmetric positive definite matrix, B Bᵀ and a little on the diagonal, row by row. */
function definite(size: number, seed: number, lift: number): Float64Array {
  const normal = normalRandom(seededRandom(seed));
  const b = Array.from({ length: size }, () => Array.from({ length: size }, normal));
  const a = new Float64Array(size * size);
  for (let i = 0; i < size; i++)
    for (let j = 0; j < size; j++)
      a[i * size + j] = b[i]!.reduce((sum, v, k) => sum + v * b[j]![k]!, 0) + (i === j ? lift : 0);
  return a;
}

const size = fc.integer({ min: 1, max: 12 });
const seed = fc.integer({ min: 0, max: 1e9 });

describe('factorCholesky', () => {
  it('gives a triangle that squared is the matrix again', () => {
    fc.assert(
      fc.property(size, seed, (n, from) => {
        const a = definite(n, from, 0.5);
        const l = a.slice();
        expect(factorCholesky(l, n)).toBe(true);
        for (let i = 0; i < n; i++)
          for (let j = 0; j <= i; j++) {
            let sum = 0;
            for (let k = 0; k <= j; k++) sum += l[i * n + k]! * l[j * n + k]!;
            expect(sum).toBeCloseTo(a[i * n + j]!, 9);
          }
      }),
    );
  });

  it('solves what it factored', () => {
    fc.assert(
      fc.property(size, seed, (n, from) => {
        const a = definite(n, from, 0.5);
        const normal = normalRandom(seededRandom(from + 1));
        const wanted = Array.from({ length: n }, normal);
        const b = Float64Array.from(wanted, (_, i) => wanted.reduce((sum, x, j) => sum + a[i * n + j]! * x, 0));
        const l = a.slice();
        factorCholesky(l, n);
        solveCholesky(l, n, b);
        for (let k = 0; k < n; k++) expect(b[k]).toBeCloseTo(wanted[k]!, 6);
      }),
    );
  });

  it('refuses what is not definite, or by rounding only', () => {
    expect(factorCholesky(Float64Array.of(1, 2, 2, 1), 2)).toBe(false);
    expect(factorCholesky(Float64Array.of(1, 1, 1, 1), 2)).toBe(false);
    expect(factorCholesky(Float64Array.of(0), 1)).toBe(false);
    expect(factorCholesky(Float64Array.of(Number.NaN), 1)).toBe(false);
    expect(factorCholesky(Float64Array.of(4, 0, 2, 5), 2)).toBe(true);
  });
});
