import type { Vec2 } from '../../geometry';
import { factorCholesky, solveCholesky } from '../../numeric';

/** A crossing by its column and row, and where it was seen, px. */
interface Seen {
  i: number;
  j: number;
  at: Vec2;
}

/** Neighbours so far away in columns and rows foretell a crossing, by a quadratic through them. */
const REACH = 2;
const TERMS = 6;
const FEWEST_NEIGHBOURS = 9;
/** Wild is what lies further off than so many robust σ of all, and so many px: σ of a crossing is below a tenth. */
const WILD = { sigmas: 5, px: 0.6 } as const;
const MOST_ROUNDS = 12;

/**
 * A grid's crossings without the wild ones: those that do not lie where their neighbours foretell them, whatever they
 * themselves look like (a scratch, a letter, the edge of what lies on the grid). The worst of each neighbourhood goes
 * first, since it makes those around it look wrong as well.
 *
 * Out: the same crossings in their order, less the wild ones. A crossing with too few neighbours is kept.
 */
export function withoutWild<T extends Seen>(all: readonly T[]): T[] {
  let kept = [...all];
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const places = new Map(kept.map((f) => [keyOf(f.i, f.j), f]));
    const off = new Map(kept.map((f) => [f, offOf(f, places)]));
    const sorted = [...off.values()].filter((o) => o !== null).sort((a, b) => a - b);
    const limit = Math.max(WILD.px, WILD.sigmas * 1.4826 * (sorted[sorted.length >> 1] ?? 0));
    const wild = new Set(
      kept.filter((f) => {
        const own = off.get(f) ?? 0;
        return own > limit && neighboursOf(f, places).every((n) => (off.get(n) ?? 0) <= own);
      }),
    );
    if (wild.size === 0) break;
    kept = kept.filter((f) => !wild.has(f));
  }
  return kept;
}

const keyOf = (i: number, j: number): number => (i + 5000) * 20_000 + j + 5000;

function neighboursOf<T extends Seen>({ i, j }: T, places: ReadonlyMap<number, T>): T[] {
  const found: T[] = [];
  for (let di = -REACH; di <= REACH; di++)
    for (let dj = -REACH; dj <= REACH; dj++) {
      const other = di === 0 && dj === 0 ? undefined : places.get(keyOf(i + di, j + dj));
      if (other) found.push(other);
    }
  return found;
}

/** How far a crossing lies from where a quadratic through its neighbours has it, px; null where they do not tell. */
function offOf<T extends Seen>(f: T, places: ReadonlyMap<number, T>): number | null {
  const near = neighboursOf(f, places);
  if (near.length < FEWEST_NEIGHBOURS) return null;
  const matrix = new Float64Array(TERMS * TERMS);
  const [toX, toY] = [new Float64Array(TERMS), new Float64Array(TERMS)];
  for (const n of near) {
    const [di, dj] = [n.i - f.i, n.j - f.j];
    const terms = [1, di, dj, di * di, di * dj, dj * dj];
    for (let r = 0; r < TERMS; r++) {
      toX[r]! += terms[r]! * (n.at.x - f.at.x);
      toY[r]! += terms[r]! * (n.at.y - f.at.y);
      for (let c = 0; c < TERMS; c++) matrix[r * TERMS + c]! += terms[r]! * terms[c]!;
    }
  }
  // Neighbours all on one side do not make a quadratic.
  if (!factorCholesky(matrix, TERMS)) return null;
  solveCholesky(matrix, TERMS, toX);
  solveCholesky(matrix, TERMS, toY);
  return Math.hypot(toX[0]!, toY[0]!);
}
