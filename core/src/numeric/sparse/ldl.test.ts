import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { factorLdl, newFactor, planLdl, selectedInverse, solveLdl } from '..';

/** Unknowns, equations, and which unknowns each equation asks for. */
const system = fc.integer({ min: 2, max: 14 }).chain((n) =>
  fc.record({
    n: fc.constant(n),
    equations: fc.array(
      fc.array(
        fc.record({
          at: fc.integer({ min: 0, max: n - 1 }),
          value: fc.double({ min: -2, max: 2, noNaN: true, noDefaultInfinity: true }),
        }),
        { minLength: 1, maxLength: 4 },
      ),
      { maxLength: n },
    ),
    right: fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: 2 * n, maxLength: 2 * n }),
  }),
);

type System = typeof system extends fc.Arbitrary<infer T> ? T : never;

/** The matrix [I Jᵀ; J −0.1 I] as entries and as a dense one. */
function build({ n, equations }: System) {
  const size = n + equations.length;
  const [rows, columns, values]: [number[], number[], number[]] = [[], [], []];
  const dense = Array.from({ length: size }, () => new Float64Array(size));
  const put = (i: number, j: number, value: number) => {
    rows.push(i);
    columns.push(j);
    values.push(value);
    dense[i]![j]! += value;
    if (i !== j) dense[j]![i]! += value;
  };
  for (let i = 0; i < n; i++) put(i, i, 1 + i / 10);
  equations.forEach((own, k) => {
    put(n + k, n + k, -0.1);
    for (const { at, value } of own) put(n + k, at, value);
  });
  return { size, rows, columns, values, dense };
}

/** Gauss-Jordan with pivoting: slow, and nothing in common with what is tested. */
function inverse(dense: Float64Array[]): number[][] {
  const size = dense.length;
  const rows = dense.map((row, i) => [...row, ...Array.from({ length: size }, (_, j) => (i === j ? 1 : 0))]);
  for (let c = 0; c < size; c++) {
    const best = rows.slice(c).reduce((b, row, k) => (Math.abs(row[c]!) > Math.abs(rows[b]![c]!) ? c + k : b), c);
    [rows[c], rows[best]] = [rows[best]!, rows[c]!];
    const pivot = rows[c]![c]!;
    rows[c] = rows[c]!.map((v) => v / pivot);
    for (let r = 0; r < size; r++)
      if (r !== c) {
        const by = rows[r]![c]!;
        rows[r] = rows[r]!.map((v, k) => v - by * rows[c]![k]!);
      }
  }
  return rows.map((row) => row.slice(size));
}

describe('sparse L D Lᵀ', () => {
  it('solves what a dense elimination solves, and gives entries of its inverse', () => {
    fc.assert(
      fc.property(system, (made) => {
        const { size, rows, columns, values, dense } = build(made);
        const factor = newFactor(planLdl(size, rows, columns));
        expect(factorLdl(factor, values)).toBe(true);
        const b = Float64Array.from({ length: size }, (_, k) => made.right[k % made.right.length]!);
        const x = Float64Array.from(b);
        solveLdl(factor, x);
        for (let i = 0; i < size; i++)
          expect(dense[i]!.reduce((sum, v, j) => sum + v * x[j]!, 0)).toBeCloseTo(b[i]!, 8);
        const whole = inverse(dense);
        const at = selectedInverse(factor);
        for (let i = 0; i < size; i++) expect(at(i, i)).toBeCloseTo(whole[i]![i]!, 8);
        for (let k = 0; k < rows.length; k++)
          expect(at(rows[k]!, columns[k]!)).toBeCloseTo(whole[rows[k]!]![columns[k]!]!, 8);
      }),
      { numRuns: 200 },
    );
  });

  it('fills in little where a chain hangs together', () => {
    const size = 400;
    const rows = Array.from({ length: size - 1 }, (_, k) => k + 1);
    const plan = planLdl(
      size,
      rows,
      rows.map((k) => k - 1),
    );
    expect(plan.lStarts[size]).toBe(size - 1);
  });

  it('says when a pivot is nothing', () => {
    const factor = newFactor(planLdl(2, [0, 1, 1], [0, 0, 1]));
    expect(factorLdl(factor, [1, 1, 1])).toBe(false);
  });
});
