import { nearestOn, type Vec2 } from '@steady-moth/core/geometry';
import { pointsOfRun } from '@steady-moth/core/job';
import type { Box } from '../../frames/view';
import type { DrawnRun } from './useForms';

/** What lies under a place of the board. */
export type Hit =
  | { kind: 'point'; run: string; point: string }
  | { kind: 'segment'; run: string; segment: number; t: number }
  | { kind: 'circle'; run: string }
  | { kind: 'centre'; run: string };

/** The nearest point within reach, else the nearest segment; `place` gives a point's board place. Reach in board units. */
export function hitTest(
  drawn: readonly DrawnRun[],
  place: (id: string) => Vec2 | null,
  at: Vec2,
  reach: number,
): Hit | null {
  let best: Hit | null = null;
  let nearest = reach;
  for (const { run, form, bounds } of drawn) {
    // Points that bend a segment may lie outside the form's box, by as much again as it is large.
    if (!isNear(bounds, at, reach, 1)) continue;
    for (const id of pointsOfRun(run)) {
      const p = place(id);
      const away = p ? Math.hypot(p.x - at.x, p.y - at.y) : Number.POSITIVE_INFINITY;
      if (away < nearest) {
        nearest = away;
        best = { kind: 'point', run: run.id, point: id };
      }
    }
    if (form?.kind === 'circle') {
      const away = Math.hypot(form.centre.x - at.x, -form.centre.y - at.y);
      if (away < nearest) {
        nearest = away;
        best = { kind: 'centre', run: run.id };
      }
    }
  }
  return best ?? hitSegment(drawn, at, reach);
}

export function hitSegment(
  drawn: readonly DrawnRun[],
  at: Vec2,
  reach: number,
): Extract<Hit, { kind: 'segment' | 'circle' }> | null {
  const p = { x: at.x, y: -at.y };
  let best: Extract<Hit, { kind: 'segment' | 'circle' }> | null = null;
  let nearest = reach;
  for (const { run, form, bounds } of drawn) {
    if (!form || !isNear(bounds, at, nearest, 0)) continue;
    if (form.kind === 'circle') {
      const away = Math.abs(Math.hypot(p.x - form.centre.x, p.y - form.centre.y) - form.radius);
      if (away < nearest) {
        nearest = away;
        best = { kind: 'circle', run: run.id };
      }
      continue;
    }
    form.segments.forEach((s, segment) => {
      const found = nearestOn(s, p);
      if (found.distance < nearest) {
        nearest = found.distance;
        best = { kind: 'segment', run: run.id, segment, t: found.t };
      }
    });
  }
  return best;
}

/** Whether a place is within reach of a box, grown by a share of its own size. A run without a form has none. */
function isNear(box: Box | null, { x, y }: Vec2, reach: number, grown: number): boolean {
  if (!box) return true;
  const more = reach + grown * Math.max(box.right - box.left, box.bottom - box.top);
  return x >= box.left - more && x <= box.right + more && y >= box.top - more && y <= box.bottom + more;
}
