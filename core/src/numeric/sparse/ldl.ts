import { minimumDegreeOrder } from './minimumDegree';

/** How a symmetric matrix is factored as L D Lᵀ: worked out once for all matrices with the same entries. */
export interface LdlPlan {
  size: number;
  /** Place of each row in the order of elimination, and back. */
  placeOf: Int32Array;
  order: Int32Array;
  /** The upper triangle in that order, by columns: where each begins, and the rows in it. */
  starts: Int32Array;
  rows: Int32Array;
  /** For each entry that was named: where its value goes. */
  slots: Int32Array;
  parent: Int32Array;
  /** L by columns, without its diagonal of ones: where each column begins. */
  lStarts: Int32Array;
}

/** A matrix factored as L D Lᵀ, in the order of its plan. */
export interface LdlFactor {
  plan: LdlPlan;
  lRows: Int32Array;
  lValues: Float64Array;
  d: Float64Array;
}

/**
 * Plans the factoring of symmetric matrices that have values at these entries alone, each named once or more, on either
 * side of the diagonal; those named more than once are added up. Every diagonal entry is there, named or not.
 *
 * Source: Davis, Algorithm 849: a concise sparse Cholesky factorization package, ACM TOMS 31 (2005).
 */
export function planLdl(size: number, rows: ArrayLike<number>, columns: ArrayLike<number>): LdlPlan {
  const neighbours: Set<number>[] = Array.from({ length: size }, () => new Set());
  for (let k = 0; k < rows.length; k++) {
    const [i, j] = [rows[k]!, columns[k]!];
    if (i === j) continue;
    neighbours[i]!.add(j);
    neighbours[j]!.add(i);
  }
  const order = minimumDegreeOrder(neighbours);
  const placeOf = new Int32Array(size);
  for (let k = 0; k < size; k++) placeOf[order[k]!] = k;
  const starts = new Int32Array(size + 1);
  const inColumn: number[][] = [];
  for (let c = 0; c < size; c++) {
    const own: number[] = [];
    for (const i of neighbours[order[c]!]!) if (placeOf[i]! < c) own.push(placeOf[i]!);
    own.sort((a, b) => a - b);
    own.push(c);
    inColumn.push(own);
    starts[c + 1] = starts[c]! + own.length;
  }
  const flat = new Int32Array(starts[size]!);
  for (let c = 0; c < size; c++) flat.set(inColumn[c]!, starts[c]!);
  const slots = Int32Array.from({ length: rows.length }, (_, k) => {
    const [i, j] = [placeOf[rows[k]!]!, placeOf[columns[k]!]!];
    const [high, low] = i > j ? [i, j] : [j, i];
    let [from, to] = [starts[high]!, starts[high + 1]! - 1];
    while (from < to) {
      const middle = (from + to) >> 1;
      if (flat[middle]! < low) from = middle + 1;
      else to = middle;
    }
    return from;
  });
  const parent = new Int32Array(size).fill(-1);
  const counts = new Int32Array(size);
  const flag = new Int32Array(size);
  for (let k = 0; k < size; k++) {
    flag[k] = k;
    for (let p = starts[k]!; p < starts[k + 1]!; p++)
      for (let i = flat[p]!; flag[i] !== k; i = parent[i]!) {
        if (parent[i] === -1) parent[i] = k;
        counts[i]! += 1;
        flag[i] = k;
      }
  }
  const lStarts = new Int32Array(size + 1);
  for (let k = 0; k < size; k++) lStarts[k + 1] = lStarts[k]! + counts[k]!;
  return { size, placeOf, order, starts, rows: flat, slots, parent, lStarts };
}

/** Room for the factors of a plan's matrices, to be filled by `factorLdl` as often as wanted. */
export function newFactor(plan: LdlPlan): LdlFactor {
  const count = plan.lStarts[plan.size]!;
  return { plan, lRows: new Int32Array(count), lValues: new Float64Array(count), d: new Float64Array(plan.size) };
}

/**
 * Factors the matrix whose entries, in the order in which the plan named them, have these values.
 * Degenerate: false when a pivot is zero or no number; the factor is then spoilt.
 */
export function factorLdl(factor: LdlFactor, values: ArrayLike<number>): boolean {
  const { plan, lRows, lValues, d } = factor;
  const { size, starts, rows, slots, parent, lStarts } = plan;
  const a = new Float64Array(rows.length);
  for (let k = 0; k < slots.length; k++) a[slots[k]!]! += values[k]!;
  const y = new Float64Array(size);
  const pattern = new Int32Array(size);
  const flag = new Int32Array(size).fill(-1);
  const filled = new Int32Array(size);
  for (let k = 0; k < size; k++) {
    let top = size;
    flag[k] = k;
    for (let p = starts[k]!; p < starts[k + 1]!; p++) {
      let i = rows[p]!;
      y[i]! += a[p]!;
      let length = 0;
      for (; flag[i] !== k; i = parent[i]!) {
        pattern[length++] = i;
        flag[i] = k;
      }
      while (length > 0) pattern[--top] = pattern[--length]!;
    }
    let pivot = y[k]!;
    y[k] = 0;
    for (; top < size; top++) {
      const i = pattern[top]!;
      const value = y[i]!;
      y[i] = 0;
      const end = lStarts[i]! + filled[i]!;
      for (let p = lStarts[i]!; p < end; p++) y[lRows[p]!]! -= lValues[p]! * value;
      const l = value / d[i]!;
      pivot -= l * value;
      lRows[end] = k;
      lValues[end] = l;
      filled[i]! += 1;
    }
    if (!(Math.abs(pivot) > 0) || !Number.isFinite(pivot)) return false;
    d[k] = pivot;
  }
  return true;
}

/** Solves for one right-hand side, in place of it. */
export function solveLdl({ plan, lRows, lValues, d }: LdlFactor, b: Float64Array): void {
  const { size, order, lStarts } = plan;
  const x = new Float64Array(size);
  for (let k = 0; k < size; k++) x[k] = b[order[k]!]!;
  for (let j = 0; j < size; j++) {
    const own = x[j]!;
    if (own !== 0) for (let p = lStarts[j]!; p < lStarts[j + 1]!; p++) x[lRows[p]!]! -= lValues[p]! * own;
  }
  for (let j = size - 1; j >= 0; j--) {
    let own = x[j]! / d[j]!;
    for (let p = lStarts[j]!; p < lStarts[j + 1]!; p++) own -= lValues[p]! * x[lRows[p]!]!;
    x[j] = own;
  }
  for (let k = 0; k < size; k++) b[order[k]!] = x[k]!;
}
