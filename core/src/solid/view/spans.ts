import { Cells } from './cells';
import { DOT_MM, type Trace } from './contours';
import type { IsHidden } from './hiding';
import type { Seen } from './seenMesh';

/** Sine of the angle below which two lines of a view run side by side. */
const PARALLEL_SINE = 1e-9;
/** What touches an end within this share of a line is on it: the triangles of a mesh meet no better. */
const SLACK = 1e-6;

/** A part of a stretch of a trace that is seen from end to end: `from` and `to` count along its places. */
export interface Span {
  trace: Trace;
  from: number;
  to: number;
}

interface Stretch {
  trace: Trace;
  nth: number;
  a: Seen;
  b: Seen;
}

const boxOf = ({ a, b }: Pick<Stretch, 'a' | 'b'>, rim = 0) =>
  [Math.min(a.u, b.u) - rim, Math.min(a.v, b.v) - rim, Math.max(a.u, b.u) + rim, Math.max(a.v, b.v) + rim] as const;

export const placeOn = ({ places }: Trace, at: number): Seen => {
  const k = Math.min(Math.floor(at), places.length - 2);
  const [a, b, t] = [places[k]!, places[k + 1]!, at - k];
  return { u: a.u + t * (b.u - a.u), v: a.v + t * (b.v - a.v), w: a.w + t * (b.w - a.w) };
};

/**
 * What is seen of traces: whether a line is hidden changes only where another crosses it. Where a surface turns away it is asked a
 * little beside the line (`looseMm`, more than triangles stray from surfaces): on the line its own triangles may stand before it.
 * Lines nearer to each other than that are drawn as one.
 */
export function visibleSpans(traces: readonly Trace[], isHidden: IsHidden, cellMm: number, looseMm: number): Span[] {
  const stretches: Stretch[] = traces.flatMap((trace) =>
    trace.own.flatMap((_, nth) => {
      const [a, b] = [trace.places[nth]!, trace.places[nth + 1]!];
      return Math.hypot(b.u - a.u, b.v - a.v) < DOT_MM ? [] : [{ trace, nth, a, b }];
    }),
  );
  const cells = new Cells<Stretch>(cellMm);
  for (const s of stretches) cells.add(s, ...boxOf(s));
  const spans: Span[] = [];
  for (const s of stretches) {
    const slack = DOT_MM / Math.hypot(s.b.u - s.a.u, s.b.v - s.a.v);
    const crossings = cells.near(...boxOf(s)).flatMap((other) => (other === s ? [] : crossing(s, other)));
    const cuts = [0];
    for (const t of crossings.sort((x, y) => x - y))
      if (t > cuts[cuts.length - 1]! + slack && t < 1 - slack) cuts.push(t);
    cuts.push(1);
    for (let k = 1; k < cuts.length; k++) {
      const [from, to] = [s.nth + cuts[k - 1]!, s.nth + cuts[k]!];
      const { u, v, w } = placeOn(s.trace, (from + to) / 2);
      const [du, dv] = s.trace.away[s.nth] ?? [0, 0];
      const asked = { u: u + looseMm * du, v: v + looseMm * dv, w };
      if (!isHidden(asked, s.trace.own[s.nth]!)) spans.push({ trace: s.trace, from, to });
    }
  }
  return onceDrawn(spans, cellMm, looseMm);
}

/** Where another stretch crosses or meets one on the sheet, as shares of its length. */
function crossing({ a, b }: Stretch, other: Stretch): number[] {
  const [c, d] = [other.a, other.b];
  const [du, dv, eu, ev] = [b.u - a.u, b.v - a.v, d.u - c.u, d.v - c.v];
  const det = du * ev - dv * eu;
  const [fu, fv] = [c.u - a.u, c.v - a.v];
  const square = du * du + dv * dv;
  if (Math.abs(det) < PARALLEL_SINE * Math.sqrt(square) * Math.hypot(eu, ev)) {
    // Side by side: where the other begins and ends on it.
    return [c, d].map((p) => ((p.u - a.u) * du + (p.v - a.v) * dv) / square).filter((t) => t > 0 && t < 1);
  }
  const t = (fu * ev - fv * eu) / det;
  const s = (fu * dv - fv * du) / det;
  const slack = SLACK;
  return t > 0 && t < 1 && s > -slack && s < 1 + slack ? [t] : [];
}

/** Of lines that lie on each other one: edges before contours, what is nearer before what is behind it. */
function onceDrawn(spans: readonly Span[], cellMm: number, looseMm: number): Span[] {
  const rank = ({ trace }: Span) => (trace.curve.kind === 'other' ? 1 : 0);
  const drawn = spans
    .map((span) => ({ span, a: placeOn(span.trace, span.from), b: placeOn(span.trace, span.to) }))
    .sort((p, q) => rank(p.span) - rank(q.span) || q.a.w + q.b.w - (p.a.w + p.b.w));
  const cells = new Cells<(typeof drawn)[number]>(cellMm);
  const kept: Span[] = [];
  for (const one of drawn) {
    const others = cells.near(...boxOf(one, looseMm)).filter((o) => o.span.trace !== one.span.trace);
    const middle = { u: (one.a.u + one.b.u) / 2, v: (one.a.v + one.b.v) / 2 };
    if ([one.a, middle, one.b].every((p) => others.some((o) => awayFrom(p, o) < looseMm))) continue;
    cells.add(one, ...boxOf(one));
    kept.push(one.span);
  }
  return kept;
}

function awayFrom(p: { u: number; v: number }, { a, b }: Pick<Stretch, 'a' | 'b'>): number {
  const [du, dv] = [b.u - a.u, b.v - a.v];
  const square = du * du + dv * dv;
  const t = square === 0 ? 0 : Math.min(1, Math.max(0, ((p.u - a.u) * du + (p.v - a.v) * dv) / square));
  return Math.hypot(p.u - a.u - t * du, p.v - a.v - t * dv);
}
