import type { PicturePoint } from '../calibration';
import type { Run, TracedPoint } from './document';

/** Which of two edges close together a run lies on: of a closed one by its inside, of an open one as it was drawn. */
export type EdgeSide = 'inner' | 'outer' | 'left' | 'right';

export interface EdgeFollowed {
  side: EdgeSide;
  /** Points that had another edge close by, and lie on that side of it. */
  held: string[];
  /** Points that lie on the other edge. */
  strays: string[];
}

type Points = Readonly<Record<string, TracedPoint>>;

/** Another edge this nearly ahead is on neither side: sine of 20°. */
const LEAST_ASIDE = Math.sin(Math.PI / 9);

/**
 * Which edge a run follows where two run close together: face edge or foot, either rim of a hole, either line of a
 * chamfer. Told by the side on which the other one lies, which is the same all the way round.
 *
 * In: a run and the points; out: the side most of its points agree on. Degenerate: where no point had another edge
 * close by, null.
 */
export function edgeFollowed(run: Run, points: Points): EdgeFollowed | null {
  const right: string[] = [];
  const left: string[] = [];
  run.points.forEach((id, k) => {
    const other = points[id]?.beside;
    if (!other) return;
    const onRight = run.kind === 'circle' ? liesInside(run, points, id) : isRightOf(run, points, k, other);
    if (onRight !== null) (onRight ? right : left).push(id);
  });
  if (right.length + left.length === 0) return null;
  const otherOnRight = right.length >= left.length;
  const [held, strays] = otherOnRight ? [right, left] : [left, right];
  return { side: sideOf(run, points, otherOnRight), held, strays };
}

/**
 * Which of the edges near the next point of a run is the one that it follows so far.
 *
 * In: an open run, the end it grows at, and the places on those edges, the likeliest first; out: the index of the first
 * that has the others on the same side as the run has, 0 where nothing speaks for another.
 */
export function edgeKept(
  run: Run | null,
  points: Points,
  end: 'head' | 'tail',
  candidates: readonly PicturePoint[],
): number {
  if (run?.kind !== 'chain' || candidates.length < 2) return 0;
  const last = points[(end === 'tail' ? run.points.at(-1) : run.points[0]) ?? ''];
  if (!last) return 0;
  const known = edgeFollowed(run, points);
  const index = candidates.findIndex((at) => {
    const other = nearestOther(candidates, at);
    const [from, to] = end === 'tail' ? [last, at] : [at, last];
    const here = rightOf(from, to, at, other);
    // With only one point yet, its own side is known as soon as there is a direction.
    const before = known ? known.side === 'left' : last.beside ? rightOf(from, to, last, last.beside) : null;
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
function isRightOf(
  run: Extract<Run, { kind: 'chain' }>,
  points: Points,
  k: number,
  other: PicturePoint,
): boolean | null {
  const here = points[run.points[k]];
  const count = run.points.length;
  const before = run.closed || k > 0 ? points[run.points[(k + count - 1) % count]] : undefined;
  const after = run.closed || k + 1 < count ? points[run.points[(k + 1) % count]] : undefined;
  const sines = [before && aside(before, here, here, other), after && aside(here, after, here, other)].filter(
    (s): s is number => s !== undefined,
  );
  const most = sines.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0);
  return Math.abs(most) < LEAST_ASIDE ? null : most > 0;
}

function liesInside(run: Run, points: Points, id: string): boolean | null {
  const here = points[id];
  const all = run.points.map((p) => points[p]);
  if (!here.beside || all.some((p) => p.picture !== here.picture)) return null;
  const u = all.reduce((sum, p) => sum + p.uPx, 0) / all.length;
  const v = all.reduce((sum, p) => sum + p.vPx, 0) / all.length;
  return Math.hypot(here.beside.uPx - u, here.beside.vPx - v) < Math.hypot(here.uPx - u, here.vPx - v);
}

function sideOf(run: Run, points: Points, otherOnRight: boolean): EdgeSide {
  if (run.kind === 'circle') return otherOnRight ? 'outer' : 'inner';
  const all = run.points.map((id) => points[id]);
  if (!run.closed || all.some((p) => p.picture !== all[0].picture)) return otherOnRight ? 'left' : 'right';
  const twiceArea = all.reduce((sum, p, k) => {
    const next = all[(k + 1) % all.length];
    return sum + p.uPx * next.vPx - next.uPx * p.vPx;
  }, 0);
  // With v running down, a positive area is gone round clockwise, its inside on the right.
  return otherOnRight === twiceArea > 0 ? 'outer' : 'inner';
}
