import type { Form, Segment, Vec2 } from '@steady-moth/core/geometry';

/** Plain forms for scenes, in mm, counter-clockwise. */
export function rectangle(x0: number, y0: number, x1: number, y1: number): Form {
  const p = [
    { x: x0, y: y0 },
    { x: x1, y: y0 },
    { x: x1, y: y1 },
    { x: x0, y: y1 },
  ];
  return chain(p.map((from, k) => ({ kind: 'line', from, to: p[(k + 1) % 4]! })));
}

export function circle(x: number, y: number, diameter: number): Form {
  return { kind: 'circle', centre: { x, y }, radius: diameter / 2 };
}

/** A slot lying along x: its straight sides `length` long between the centres of its ends. */
export function slot(x: number, y: number, length: number, width: number): Form {
  const r = width / 2;
  const h = length / 2;
  const end = (cx: number, a: number): Segment => arc(cx, y, r, a, a + Math.PI);
  const right = end(x + h, -Math.PI / 2);
  const left = end(x - h, Math.PI / 2);
  return chain([
    right,
    { kind: 'line', from: right.to, to: left.from },
    left,
    { kind: 'line', from: left.to, to: right.from },
  ]);
}

/** A circular arc counter-clockwise from angle to angle, rad. */
export function arc(cx: number, cy: number, r: number, from: number, to: number): Segment {
  const on = (a: number): Vec2 => ({ x: cx + r * Math.cos(a), y: cy + r * Math.sin(a) });
  return { kind: 'arc', from: on(from), via: on((from + to) / 2), to: on(to) };
}

export function chain(segments: Segment[]): Form {
  return { kind: 'chain', closed: true, segments };
}

/** Closes gaps between consecutive segments with lines. */
export function joined(segments: Segment[]): Form {
  const all: Segment[] = [];
  segments.forEach((s, k) => {
    all.push(s);
    const next = segments[(k + 1) % segments.length]!;
    if (Math.hypot(next.from.x - s.to.x, next.from.y - s.to.y) > 1e-9)
      all.push({ kind: 'line', from: s.to, to: next.from });
  });
  return chain(all);
}
