import type { Form } from './run';
import type { Segment } from './segment';
import { add, between, scale, sub, turned, type Vec2, vec } from './vector';

/** A form whose corners come in order round it, as lines. */
function ring(corners: readonly Vec2[]): Form {
  const segments = corners.map((from, k): Segment => ({ kind: 'line', from, to: corners[(k + 1) % corners.length]! }));
  return { kind: 'chain', segments, closed: true };
}

/** A rectangle about its centre, its width running in the direction given, rad; mm. */
export function rectangle(centre: Vec2, width: number, height: number, angle: number): Form {
  const at = (x: number, y: number) => add(centre, turned(vec((x * width) / 2, (y * height) / 2), angle));
  return ring([at(-1, -1), at(1, -1), at(1, 1), at(-1, 1)]);
}

/**
 * A slot round the line between the centres of its ends, its width across; mm. Null where both are one place.
 */
export function slot(a: Vec2, b: Vec2, width: number): Form | null {
  const length = between(a, b);
  if (!(length > 0) || !(width > 0)) return null;
  const way = scale(sub(b, a), width / 2 / length);
  const up = vec(-way.y, way.x);
  const [p, q, r, s] = [sub(a, up), sub(b, up), add(b, up), add(a, up)];
  return {
    kind: 'chain',
    closed: true,
    segments: [
      { kind: 'line', from: p, to: q },
      { kind: 'arc', from: q, via: add(b, way), to: r },
      { kind: 'line', from: r, to: s },
      { kind: 'arc', from: s, via: sub(a, way), to: p },
    ],
  };
}

/** A regular polygon about its centre, one of its corners at a place; mm. */
export function polygon(centre: Vec2, corner: Vec2, count: number): Form {
  const reach = sub(corner, centre);
  return ring(Array.from({ length: count }, (_, k) => add(centre, turned(reach, (2 * Math.PI * k) / count))));
}
