import { type Form, NO_LENGTH_MM, NO_SHARE, type Segment, type Vec2 } from '../../geometry';
import type { BodyMesh } from '../bodyMesh';
import { cross3, dot3, type Vec3, VIEW_OF, type ViewSide } from '../space';
import { type Trace, tracesOf } from './contours';
import { hiderOf } from './hiding';
import { type Seen, seenMesh } from './seenMesh';
import { placeOn, type Span, visibleSpans } from './spans';

/** Lines nearer to each other than this are drawn as one, mm; or twice what triangles stray. */
const SAME_LINE_MM = 0.02;
/** More cells than this along the longer side of a sheet help nothing. */
const CELLS = 160;

/**
 * The lines that are seen of a body from a side, on a sheet, mm: its edges, and where round surfaces turn away, each as far as nothing
 * stands before it. Edges that run on smoothly are not drawn. Straight edges, and circles seen squarely or edge on, are exact; other
 * lines are chords as fine as the mesh, whose triangles stray from the surfaces by `toleranceMm` at most.
 *
 * Each part that is seen is a form of its own. Hidden lines by the mesh's triangles: exact for flat faces, else as good as the mesh.
 */
export function viewLines(mesh: BodyMesh, side: ViewSide, toleranceMm: number): Form[] {
  const seen = seenMesh(mesh, side);
  if (seen.corners.length === 0) return [];
  const traces = tracesOf(mesh, seen);
  const cellMm = Math.max(reachOf(seen.corners) / CELLS, 1e-3);
  return runsOf(visibleSpans(traces, hiderOf(seen, cellMm), cellMm, Math.max(2 * toleranceMm, SAME_LINE_MM))).flatMap(
    (run) => formsOf(run, side),
  );
}

function reachOf(corners: readonly Seen[]): number {
  const low = { u: Number.POSITIVE_INFINITY, v: Number.POSITIVE_INFINITY };
  const high = { u: Number.NEGATIVE_INFINITY, v: Number.NEGATIVE_INFINITY };
  for (const { u, v } of corners) {
    low.u = Math.min(low.u, u);
    low.v = Math.min(low.v, v);
    high.u = Math.max(high.u, u);
    high.v = Math.max(high.v, v);
  }
  return Math.max(high.u - low.u, high.v - low.v);
}

/** Spans of a trace that follow each other made one. */
function runsOf(spans: readonly Span[]): Span[] {
  const byTrace = new Map<Trace, Span[]>();
  for (const span of spans) {
    const own = byTrace.get(span.trace);
    if (own) own.push(span);
    else byTrace.set(span.trace, [span]);
  }
  return [...byTrace.values()].flatMap((own) => {
    const runs: Span[] = [];
    for (const span of own.sort((a, b) => a.from - b.from)) {
      const last = runs[runs.length - 1];
      if (last && span.from - last.to < NO_SHARE) last.to = span.to;
      else runs.push({ ...span });
    }
    return runs;
  });
}

function formsOf({ trace, from, to }: Span, side: ViewSide): Form[] {
  const { curve, places } = trace;
  if (curve.kind === 'line') return [lineOf(placeOn(trace, from), placeOn(trace, to))];
  const between = places.slice(Math.floor(from) + 1, Math.ceil(to));
  const chords = [placeOn(trace, from), ...between, placeOn(trace, to)];
  if (curve.kind === 'circle') {
    const { right, up } = VIEW_OF[side];
    const squarely = Math.abs(dot3(curve.along, cross3(right, up)));
    const onSheet = (p: Vec3): Vec2 => ({ x: dot3(p, right), y: dot3(p, up) });
    const isRound = samePlace(places[0]!, places[places.length - 1]!);
    const isWhole = isRound && to - from > places.length - 1 - NO_SHARE;
    if (squarely > 1 - NO_SHARE) return [arcOf(chords, onSheet(curve.centre), curve.radius, isWhole)];
    if (squarely < NO_SHARE) {
      const along = onSheet(cross3(curve.along, cross3(right, up)));
      return [edgeOn(chords, onSheet(curve.centre), along, curve.radius, isRound)];
    }
  }
  const segments = chords.slice(1).map((b, k): Segment => ({ kind: 'line', from: flat(chords[k]!), to: flat(b) }));
  return [{ kind: 'chain', closed: false, segments }];
}

const flat = ({ u, v }: Seen): Vec2 => ({ x: u, y: v });
const samePlace = (a: Seen, b: Seen) => Math.hypot(b.u - a.u, b.v - a.v, b.w - a.w) < NO_LENGTH_MM;

const lineOf = (a: Seen, b: Seen): Form => ({
  kind: 'chain',
  closed: false,
  segments: [{ kind: 'line', from: flat(a), to: flat(b) }],
});

/** A circle that is seen squarely, or the part of it along chords. */
function arcOf(chords: readonly Seen[], centre: Vec2, radius: number, isWhole: boolean): Form {
  if (isWhole) return { kind: 'circle', centre, radius };
  const onCircle = ({ u, v }: { u: number; v: number }): Vec2 => {
    const long = Math.hypot(u - centre.x, v - centre.y) || 1;
    return { x: centre.x + ((u - centre.x) / long) * radius, y: centre.y + ((v - centre.y) / long) * radius };
  };
  const middle = (chords.length - 1) / 2;
  const [p, q] = [chords[Math.floor(middle)]!, chords[Math.ceil(middle)]!];
  const via = onCircle({ u: (p.u + q.u) / 2, v: (p.v + q.v) / 2 });
  const arc: Segment = { kind: 'arc', from: onCircle(chords[0]!), via, to: onCircle(chords[chords.length - 1]!) };
  return { kind: 'chain', closed: false, segments: [arc] };
}

/** A chord of the mesh ends no farther than this from the widest place of a circle, mm. */
const RIM_MM = 0.02;

/** A circle that is seen edge on is a line: to its widest place where the part that is seen goes round it. */
function edgeOn(chords: readonly Seen[], centre: Vec2, along: Vec2, radius: number, isRound: boolean): Form {
  const over = ({ u, v }: Seen) => (u - centre.x) * along.x + (v - centre.y) * along.y;
  const all = chords.map(over);
  const inner = all.slice(1, -1);
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const ends = [all[0]!, all[all.length - 1]!];
  // Where it turns back within, or a chord of a whole circle stops just short of that, it reaches the circle's own rim.
  const turnsLow = inner.some((s) => s <= Math.min(...ends)) || (isRound && radius + low < RIM_MM);
  const turnsHigh = inner.some((s) => s >= Math.max(...ends)) || (isRound && radius - high < RIM_MM);
  const at = (s: number): Vec2 => ({ x: centre.x + s * along.x, y: centre.y + s * along.y });
  return {
    kind: 'chain',
    closed: false,
    segments: [{ kind: 'line', from: at(turnsLow ? -radius : low), to: at(turnsHigh ? radius : high) }],
  };
}
