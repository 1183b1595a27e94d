import type { PicturePoint } from '../calibration';
import { type Observation, observationIn, type Path, type Sketch } from './part';
import { isCircle, observedOf, walkOf } from './walk';

/** Which of two edges close together a path lies on: of a closed one by its inside, of an open one as it was drawn. */
export type EdgeSide = 'inner' | 'outer' | 'left' | 'right';

export interface EdgeFollowed {
  side: EdgeSide;
  /** Points that had another edge close by, and lie on that side of it. */
  held: string[];
  /** Points that lie on the other edge. */
  strays: string[];
}

/** Another edge this nearly ahead is on neither side: sine of 20°. */
const LEAST_ASIDE = Math.sin(Math.PI / 9);

/** A path by what was seen along it: its points, or of a circle the places on its rim. */
interface Line {
  ids: string[];
  at: Observation[];
  closed: boolean;
  round: boolean;
}

function lineOf(sketch: Sketch, path: Path): Line {
  const round = isCircle(sketch, path);
  const ids = round ? observedOf(sketch, path) : (walkOf(sketch, path)?.points ?? []);
  const at = ids.map((id) => observationIn(sketch, id));
  const seen = at.every((o): o is Observation => o !== undefined);
  return seen ? { ids, at, closed: path.closed, round } : { ids: [], at: [], closed: path.closed, round };
}

/**
 * Which edge a path follows where two run close together: face edge or foot, either rim of a hole, either line of a
 * chamfer. Told by the side on which the other one lies, which is the same all the way round.
 *
 * In: a path of a sketch; out: the side most of its points agree on. Degenerate: where no point had another edge close
 * by, null.
 */
export const edgeFollowed = (sketch: Sketch, path: Path): EdgeFollowed | null => followed(lineOf(sketch, path));

function followed(line: Line): EdgeFollowed | null {
  const right: string[] = [];
  const left: string[] = [];
  line.at.forEach(({ neighbouringEdge: other }, k) => {
    if (!other) return;
    const onRight = line.round ? liesInside(line.at, k, other) : isRightOf(line, k, other);
    if (onRight !== null) (onRight ? right : left).push(line.ids[k]!);
  });
  if (right.length + left.length === 0) return null;
  const otherOnRight = right.length >= left.length;
  const [held, strays] = otherOnRight ? [right, left] : [left, right];
  return { side: sideOf(line, otherOnRight), held, strays };
}

/**
 * Which of the edges near the next point of a path is the one that it follows so far.
 *
 * In: what was seen along an open path so far, the end that grows last, and the places on those edges, the likeliest
 * first; out: the index of the first that has the others on the same side as the path has, 0 where nothing speaks for
 * another.
 */
export function edgeKept(
  along: readonly Observation[],
  end: 'head' | 'tail',
  candidates: readonly PicturePoint[],
): number {
  const last = end === 'tail' ? along.at(-1) : along[0];
  if (!last || candidates.length < 2) return 0;
  const known = followed({ ids: along.map((_, k) => String(k)), at: [...along], closed: false, round: false });
  const index = candidates.findIndex((at) => {
    const other = nearestOther(candidates, at);
    const [from, to] = end === 'tail' ? [last, at] : [at, last];
    const here = rightOf(from, to, at, other);
    // With only one point yet, its own side is known as soon as there is a direction.
    const { neighbouringEdge } = last;
    const before = known ? known.side === 'left' : neighbouringEdge ? rightOf(from, to, last, neighbouringEdge) : null;
    return here !== null && before !== null && here === before;
  });
  return Math.max(0, index);
}

/** The nearest of the other places. */
export const nearestOther = <P extends PicturePoint>(all: readonly P[], at: P): P =>
  all
    .filter((p) => p !== at)
    .reduce((a, b) =>
      Math.hypot(b.uPx - at.uPx, b.vPx - at.vPx) < Math.hypot(a.uPx - at.uPx, a.vPx - at.vPx) ? b : a,
    );

/** A place to the right of the way, as seen (v runs down); null where it lies ahead, or there is no way. */
function rightOf(from: PicturePoint, to: PicturePoint, at: PicturePoint, other: PicturePoint): boolean | null {
  const sine = aside(from, to, at, other);
  return Math.abs(sine) < LEAST_ASIDE ? null : sine > 0;
}

function aside(from: PicturePoint, to: PicturePoint, at: PicturePoint, other: PicturePoint): number {
  const [dx, dy] = [to.uPx - from.uPx, to.vPx - from.vPx];
  const [ox, oy] = [other.uPx - at.uPx, other.vPx - at.vPx];
  const scale = Math.hypot(dx, dy) * Math.hypot(ox, oy);
  return scale > 0 ? (dx * oy - dy * ox) / scale : 0;
}

/** By the way to the point or on from it: whichever runs more across. */
function isRightOf({ at, closed }: Line, k: number, other: PicturePoint): boolean | null {
  const here = at[k]!;
  const count = at.length;
  const before = closed || k > 0 ? at[(k + count - 1) % count] : undefined;
  const after = closed || k + 1 < count ? at[(k + 1) % count] : undefined;
  const sines = [before && aside(before, here, here, other), after && aside(here, after, here, other)].filter(
    (s): s is number => s !== undefined,
  );
  const most = sines.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0);
  return Math.abs(most) < LEAST_ASIDE ? null : most > 0;
}

function liesInside(all: readonly Observation[], k: number, other: PicturePoint): boolean | null {
  const here = all[k]!;
  if (all.some((p) => p.picture !== here.picture)) return null;
  const u = all.reduce((sum, p) => sum + p.uPx, 0) / all.length;
  const v = all.reduce((sum, p) => sum + p.vPx, 0) / all.length;
  return Math.hypot(other.uPx - u, other.vPx - v) < Math.hypot(here.uPx - u, here.vPx - v);
}

function sideOf({ at, closed, round }: Line, otherOnRight: boolean): EdgeSide {
  if (round) return otherOnRight ? 'outer' : 'inner';
  if (!closed || at.some((p) => p.picture !== at[0]!.picture)) return otherOnRight ? 'left' : 'right';
  const twiceArea = at.reduce((sum, p, k) => {
    const next = at[(k + 1) % at.length]!;
    return sum + p.uPx * next.vPx - next.uPx * p.vPx;
  }, 0);
  // With v running down, a positive area is gone round clockwise, its inside on the right.
  return otherOnRight === twiceArea > 0 ? 'outer' : 'inner';
}
