import {
  boundsOf,
  type Circle,
  FINEST_STEP_RAD,
  flattenSegment,
  type Segment,
  segmentArea,
  segmentBounds,
  segmentLength,
} from './segment';
import { type Vec2, vec } from './vector';

/** A form as it is measured and written to files: a chain of segments end to end, or one circle; mm, y up. */
export type Form = { kind: 'chain'; segments: Segment[]; closed: boolean } | ({ kind: 'circle' } & Circle);

/** Length along a form, round it where it is closed, mm. */
export function formLength(form: Form): number {
  if (form.kind === 'circle') return 2 * Math.PI * form.radius;
  return form.segments.reduce((sum, s) => sum + segmentLength(s), 0);
}

/** Area enclosed, mm², never negative; 0 for an open run. */
export function formArea(form: Form): number {
  if (form.kind === 'circle') return Math.PI * form.radius ** 2;
  if (!form.closed) return 0;
  return Math.abs(form.segments.reduce((sum, s) => sum + segmentArea(s), 0));
}

/** Smallest box round all forms; null when there are none. */
export function formsBounds(forms: readonly Form[]): { min: Vec2; max: Vec2 } | null {
  const corners = forms.flatMap((form) => {
    if (form.kind === 'circle') {
      const { centre, radius } = form;
      return [vec(centre.x - radius, centre.y - radius), vec(centre.x + radius, centre.y + radius)];
    }
    return form.segments.flatMap((s) => Object.values(segmentBounds(s)));
  });
  return corners.length ? boundsOf(corners) : null;
}

/** Points round a form within `toleranceMm` of it, the first not repeated at the end of a closed one. */
export function flattenForm(form: Form, toleranceMm: number): Vec2[] {
  if (form.kind === 'circle') {
    const step = 2 * Math.acos(Math.max(0, 1 - toleranceMm / form.radius));
    const count = Math.max(8, Math.ceil((2 * Math.PI) / Math.max(step, FINEST_STEP_RAD)));
    return Array.from({ length: count }, (_, k) => {
      const angle = (2 * Math.PI * k) / count;
      return vec(form.centre.x + form.radius * Math.cos(angle), form.centre.y + form.radius * Math.sin(angle));
    });
  }
  if (form.segments.length === 0) return [];
  const points = [form.segments[0]!.from, ...form.segments.flatMap((s) => flattenSegment(s, toleranceMm))];
  if (form.closed) points.pop();
  return points;
}

/** Area of a closed polygon, signed, mm², positive counter-clockwise. */
export function polygonArea(points: readonly Vec2[]): number {
  let twice = 0;
  points.forEach((p, k) => {
    const q = points[(k + 1) % points.length]!;
    twice += p.x * q.y - p.y * q.x;
  });
  return twice / 2;
}
