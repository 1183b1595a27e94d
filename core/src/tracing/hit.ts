import { type Box, nearestOn, type Vec2 } from '../geometry';
import { type EvaluatedPath, observedOf, walkOf } from '../sketch';
import { boxOfPath, type Traced } from './setting';

/** What lies under a place; `t` is told along the path. */
export type Hit =
  | { kind: 'point'; path: string; point: string }
  | { kind: 'piece'; path: string; curve: string; t: number }
  | { kind: 'circle'; path: string }
  | { kind: 'centre'; path: string };

/** The nearest point within reach, mm, else the nearest piece. */
export function hitTest(
  { paths, placeOf, locked }: Pick<Traced, 'paths' | 'placeOf'> & Partial<Pick<Traced, 'locked'>>,
  at: Vec2,
  reach: number,
): Hit | null {
  let best: Hit | null = null;
  let isEnd = false;
  let nearest = reach;
  for (const own of paths) {
    const { sketch, path, form } = own;
    const bounds = boxOfPath(own);
    // Points that bend a piece may lie outside the form's box, by as much again as it is large.
    if (locked?.has(path.id) || !isNear(bounds, at, reach, 1)) continue;
    for (const id of observedOf(sketch, path)) {
      const p = placeOf(id);
      const away = p ? Math.hypot(p.x - at.x, p.y - at.y) : Number.POSITIVE_INFINITY;
      if (away < nearest) {
        nearest = away;
        best = { kind: 'point', path: path.id, point: id };
        isEnd = Object.hasOwn(sketch.points, id);
      }
    }
    if (form?.kind === 'circle') {
      const away = Math.hypot(form.centre.x - at.x, form.centre.y - at.y);
      if (away < nearest) {
        nearest = away;
        best = { kind: 'centre', path: path.id };
      }
    }
  }
  if (best && !isEnd) return best;
  const piece = hitSegment({ paths, locked }, at, reach);
  // The middle of a piece that is hardly longer than the reach belongs to the piece, and not to its ends.
  const isMiddle = piece?.kind === 'piece' && piece.path === best?.path && isInMiddle(piece.t);
  return isMiddle ? piece : (best ?? piece);
}

/** Between these shares of a piece it is taken by its middle; nearer to its ends it is moved. */
const MIDDLE = [1 / 3, 2 / 3] as const;

export const isInMiddle = (t: number): boolean => t >= MIDDLE[0] && t <= MIDDLE[1];

type OnPath = Extract<Hit, { kind: 'piece' | 'circle' }>;

export function hitSegment(
  { paths, locked }: { paths: readonly EvaluatedPath[]; locked?: ReadonlySet<string> | undefined },
  p: Vec2,
  reach: number,
): OnPath | null {
  let best: OnPath | null = null;
  let nearest = reach;
  for (const own of paths) {
    const { sketch, path, form } = own;
    const bounds = boxOfPath(own);
    if (!form || locked?.has(path.id) || !isNear(bounds, p, nearest, 0)) continue;
    if (form.kind === 'circle') {
      const away = Math.abs(Math.hypot(p.x - form.centre.x, p.y - form.centre.y) - form.radius);
      if (away < nearest) {
        nearest = away;
        best = { kind: 'circle', path: path.id };
      }
      continue;
    }
    const pieces = walkOf(sketch, path)?.pieces ?? [];
    form.segments.forEach((s, k) => {
      const found = nearestOn(s, p);
      if (found.distance < nearest) {
        nearest = found.distance;
        best = { kind: 'piece', path: path.id, curve: pieces[k]!.curve.id, t: found.t };
      }
    });
  }
  return best;
}

/** Whether a place is within reach of a box, grown by a share of its own size. A path without a form has none. */
function isNear(box: Box | null, { x, y }: Vec2, reach: number, grown: number): boolean {
  if (!box) return true;
  const more = reach + grown * Math.max(box.right - box.left, box.top - box.bottom);
  return x >= box.left - more && x <= box.right + more && y >= box.bottom - more && y <= box.top + more;
}
