import { readRigidTransform, rigidOnto } from '../model/rigidTransform';
import type { Grid, Reference, Sheet } from '../reference/reference';
import type { JoinedInput, PictureId, SharedReference } from './joinedInput';
import { type Alone, ownLandmarks, type Spots, spotsOf } from './startJoined';

/** A crossing must be told from its neighbours by this share of the pitch at most, or it might be another. */
const CLEAR_SHARE = 0.3;
/** Sides this much alike are told apart by nobody, as a share. */
const SQUARE_SHARE = 0.02;

/**
 * Numbers what is shared alike in all pictures. A grid's crossings are numbered from wherever it was clicked on, and a
 * sheet's edges from any corner: which is which is told by what else joins the pictures, once each is true by itself.
 *
 * In: the pictures on their own, the joins; out: the same pictures, grids and sheets of the later ones renumbered.
 * Without another join two pictures are taken to be held the same way up, which is enough for a sheet; a grid needs one
 * common point. Where no numbering fits, the name of the picture.
 */
export function alignShared(
  alone: readonly Alone[],
  { points, references }: Pick<JoinedInput, 'points' | 'references'>,
): Alone[] | PictureId {
  const aligned = [...alone];
  const kindAt = ({ picture, reference }: SharedReference['seen'][number]) =>
    byId(alone, picture)?.input.references.find((y) => y.id === reference)?.kind;
  const numbered = references.filter((j) => kindAt(j.seen[0]!) !== 'grid' && kindAt(j.seen[0]!) !== 'sheet');
  for (const { seen } of references) {
    const first = seen[0]!;
    const others = seen.slice(1);
    const base = byId(aligned, first.picture);
    const mine = base?.input.references.find((y) => y.id === first.reference);
    if (!base || (mine?.kind !== 'grid' && mine?.kind !== 'sheet')) continue;
    for (const s of others) {
      const n = aligned.findIndex((a) => a.id === s.picture);
      const other = aligned[n];
      const theirs = other?.input.references.find((y) => y.id === s.reference);
      if (!other || theirs?.kind !== mine.kind) continue;
      const both = [base, other];
      const spots = spotsOf(both, { points, references: numbered }, [0, 0]).filter(
        (spot) => spot.has(base.id) && spot.has(other.id),
      );
      const renumbered =
        mine.kind === 'grid'
          ? alignGrid(both, [mine, theirs as Grid], spots)
          : alignSheet(both, [mine, theirs as Sheet], spots);
      if (!renumbered) return s.picture;
      aligned[n] = withReference(other, renumbered);
    }
  }
  return aligned;
}

const byId = (alone: readonly Alone[], id: PictureId): Alone | undefined => alone.find((a) => a.id === id);

const withReference = (alone: Alone, changed: Reference): Alone => ({
  ...alone,
  input: { ...alone.input, references: alone.input.references.map((y) => (y.id === changed.id ? changed : y)) },
});

/** Quarter turns of a crossing's numbers. */
const QUARTERS: readonly ((i: number, j: number) => [number, number])[] = [
  (i, j) => [i, j],
  (i, j) => [-j, i],
  (i, j) => [-i, -j],
  (i, j) => [j, -i],
];

function alignGrid(both: readonly Alone[], [mine, theirs]: readonly [Grid, Grid], spots: Spots): Grid | null {
  const [base, other] = both as [Alone, Alone];
  const [p, q] = [originOf(base, mine), originOf(other, theirs)];
  if (!p || !q || spots.length === 0) return null;
  const numbers = spots.map((spot) => ({
    here: inGrid(p, mine.pitchMm, spot.get(base.id) as [number, number]),
    there: inGrid(q, theirs.pitchMm, spot.get(other.id) as [number, number]),
  }));
  let best: { quarter: number; shift: [number, number]; off: number } | null = null;
  for (const [quarter, turn] of QUARTERS.entries()) {
    // One point says nothing of how a picture is turned: then both are taken to be held the same way up.
    if (spots.length === 1 && Math.abs(wrapped(p.turn + (quarter * Math.PI) / 2 - q.turn)) > Math.PI / 4) continue;
    const apart = numbers.map(({ here, there }) => {
      const [i, j] = turn(there[0], there[1]);
      return [here[0] - i, here[1] - j] as const;
    });
    const shift = [0, 1].map((axis) => Math.round(apart.reduce((sum, a) => sum + a[axis]!, 0) / apart.length));
    const off = Math.max(...apart.map(([i, j]) => Math.max(Math.abs(i - shift[0]!), Math.abs(j - shift[1]!))));
    if (!best || off < best.off) best = { quarter, shift: [shift[0]!, shift[1]!], off };
  }
  if (!best || best.off > CLEAR_SHARE) return null;
  const { quarter, shift } = best;
  const crossings = theirs.crossings.map((c) => {
    const [i, j] = QUARTERS[quarter]!(c.i, c.j);
    return { ...c, i: i + shift[0], j: j + shift[1] };
  });
  return { ...theirs, crossings };
}

interface Origin {
  x: number;
  y: number;
  turn: number;
}

function originOf(alone: Alone, { id }: Reference): Origin | null {
  const [a, b] = ownLandmarks(alone, 0, id);
  return a && b ? { x: a[0], y: a[1], turn: Math.atan2(b[1] - a[1], b[0] - a[0]) } : null;
}

/** A place in its picture's own frame by the grid's numbers, between them as well. */
function inGrid({ x, y, turn }: Origin, pitchMm: number, at: readonly [number, number]): [number, number] {
  const [dx, dy] = [(at[0] - x) / pitchMm, (at[1] - y) / pitchMm];
  return [Math.cos(turn) * dx + Math.sin(turn) * dy, Math.cos(turn) * dy - Math.sin(turn) * dx];
}

const wrapped = (angle: number): number => Math.atan2(Math.sin(angle), Math.cos(angle));

function alignSheet(both: readonly Alone[], [mine, theirs]: readonly [Sheet, Sheet], spots: Spots): Sheet | null {
  const [base, other] = both as [Alone, Alone];
  const isSquare = Math.abs(mine.widthMm - mine.heightMm) < SQUARE_SHARE * mine.widthMm;
  let best: { sheet: Sheet; off: number } | null = null;
  for (const turns of isSquare ? [0, 1, 2, 3] : [0, 2]) {
    const edges = theirs.edges.map((_, k) => theirs.edges[(k + turns) % 4]) as Sheet['edges'];
    const sheet = { ...theirs, edges };
    const from = ownLandmarks(withReference(other, sheet), 0, sheet.id).flat();
    const move = rigidOnto(from, ownLandmarks(base, 0, mine.id).flat());
    if (!move) return null;
    const { cos, sin, x, y } = readRigidTransform(move, 0);
    const off = spots.length
      ? spots.reduce((sum, spot) => {
          const [a, b] = [spot.get(base.id)!, spot.get(other.id)!];
          return sum + Math.hypot(cos * b[0] - sin * b[1] + x - a[0], sin * b[0] + cos * b[1] + y - a[1]);
        }, 0)
      : Math.abs(wrapped(move[0]));
    if (!best || off < best.off) best = { sheet, off };
  }
  return best?.sheet ?? null;
}
