import type { LdlFactor } from './ldl';

/**
 * Entries of the inverse of a factored matrix, at the places where its factor has some, without the whole inverse being
 * made: from the last column to the first each follows from those that were found.
 *
 * Out: a function of row and column; undefined where the factor has no entry.
 * Source: Takahashi, Fagan & Chen (1973); Erisman & Tinney, Comm. ACM 18 (1975).
 */
export function selectedInverse({ plan, lRows, lValues, d }: LdlFactor): (i: number, j: number) => number | undefined {
  const { size, placeOf, lStarts } = plan;
  const diagonal = new Float64Array(size);
  const below = new Float64Array(lRows.length);
  // Where a row stands in the column that is being looked at.
  const slot = new Int32Array(size).fill(-1);
  const entry = (r: number, c: number): number => {
    if (r === c) return diagonal[r]!;
    const [low, high] = r < c ? [r, c] : [c, r];
    let [from, to] = [lStarts[low]!, lStarts[low + 1]! - 1];
    while (from <= to) {
      const middle = (from + to) >> 1;
      const row = lRows[middle]!;
      if (row === high) return below[middle]!;
      if (row < high) from = middle + 1;
      else to = middle - 1;
    }
    return Number.NaN;
  };
  for (let j = size - 1; j >= 0; j--) {
    const [from, to] = [lStarts[j]!, lStarts[j + 1]!];
    for (let p = from; p < to; p++) slot[lRows[p]!] = p;
    const sums = new Float64Array(to - from);
    for (let p = from; p < to; p++) {
      const r = lRows[p]!;
      // Columns further right are done: their own entry, and those that this column has in common with them.
      sums[p - from]! += lValues[p]! * diagonal[r]!;
      for (let q = lStarts[r]!; q < lStarts[r + 1]!; q++) {
        const other = slot[lRows[q]!]!;
        if (other < from || other >= to || lRows[other] !== lRows[q]) continue;
        sums[p - from]! += lValues[other]! * below[q]!;
        sums[other - from]! += lValues[p]! * below[q]!;
      }
    }
    let own = 1 / d[j]!;
    for (let p = from; p < to; p++) {
      below[p] = -sums[p - from]!;
      own += lValues[p]! * sums[p - from]!;
    }
    diagonal[j] = own;
    for (let p = from; p < to; p++) slot[lRows[p]!] = -1;
  }
  return (i, j) => {
    const value = entry(placeOf[i]!, placeOf[j]!);
    return Number.isNaN(value) ? undefined : value;
  };
}
