import { circleThrough, type Form, type Segment, type Vec2 } from '../geometry';
import type { Run } from './document';
import { pointsOfRun } from './traceActions';

/**
 * A run as a form in mm, from the places of its points; null where a point has no place, or a circle's three points
 * lie on one line.
 */
export function formOf(run: Run, place: (pointId: string) => Vec2 | null): Form | null {
  const places: Record<string, Vec2> = {};
  for (const id of pointsOfRun(run)) {
    const at = place(id);
    if (!at) return null;
    places[id] = at;
  }
  if (run.kind === 'circle') {
    const circle = circleThrough(places[run.points[0]], places[run.points[1]], places[run.points[2]]);
    return circle && { kind: 'circle', ...circle };
  }
  const segments = run.segments.map((s, k): Segment => {
    const from = places[run.points[k]];
    const to = places[run.points[(k + 1) % run.points.length]];
    if (s.kind === 'arc') return { kind: 'arc', from, via: places[s.via], to };
    if (s.kind === 'curve')
      return { kind: 'curve', from, handleFrom: places[s.handleFrom], handleTo: places[s.handleTo], to };
    return { kind: 'line', from, to };
  });
  return { kind: 'chain', segments, closed: run.closed };
}
