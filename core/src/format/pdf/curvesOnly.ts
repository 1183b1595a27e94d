import { type ArcShape, arcShape, type Form, type Segment, type Vec2, vec } from '../../geometry';

/** An arc is drawn in pieces no longer than this: each then lies within 4e-6 of its radius of the arc. */
const LONGEST = Math.PI / 4;
/** A share of a piece, by which machines may differ. */
const LAST_DIGITS = 1e-9;

/**
 * A form with its arcs and circles as cubic curves, which are all that a page knows. Made here and not by the page
 * writer, whose own places come out a last digit different from one machine to the next.
 */
export function curvesOnly(form: Form): Form {
  if (form.kind === 'circle') {
    const { centre, radius } = form;
    return { kind: 'chain', closed: true, segments: curvesOf({ centre, radius, startAngle: 0, sweep: 2 * Math.PI }) };
  }
  return { ...form, segments: form.segments.flatMap(curvesOfSegment) };
}

function curvesOfSegment(segment: Segment): Segment[] {
  const arc = segment.kind === 'arc' ? arcShape(segment.from, segment.via, segment.to) : null;
  if (!arc) return [segment.kind === 'arc' ? { kind: 'line', from: segment.from, to: segment.to } : segment];
  const curves = curvesOf(arc);
  // The ends are those of the path, to the last digit.
  return curves.map((curve, k) => ({
    ...curve,
    ...(k === 0 ? { from: segment.from } : {}),
    ...(k === curves.length - 1 ? { to: segment.to } : {}),
  }));
}

function curvesOf({ centre, radius, startAngle, sweep }: ArcShape): Extract<Segment, { kind: 'curve' }>[] {
  // Half a circle is four pieces, whichever way its last digit falls.
  const count = Math.max(1, Math.ceil(Math.abs(sweep) / LONGEST - LAST_DIGITS));
  const step = sweep / count;
  const pull = (4 / 3) * Math.tan(step / 4) * radius;
  const at = (angle: number): Vec2 => vec(centre.x + radius * Math.cos(angle), centre.y + radius * Math.sin(angle));
  const along = (angle: number, by: number): Vec2 => {
    const p = at(angle);
    return vec(p.x - by * Math.sin(angle), p.y + by * Math.cos(angle));
  };
  return Array.from({ length: count }, (_, k) => {
    const [a, b] = [startAngle + k * step, startAngle + (k + 1) * step];
    return { kind: 'curve', from: at(a), handleFrom: along(a, pull), handleTo: along(b, -pull), to: at(b) };
  });
}
