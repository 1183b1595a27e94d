import { arcShape, formsBounds, NO_LENGTH_MM, NO_TURN_RAD, type Vec2 } from '../geometry';
import { circleOf, formOf, type Placer } from './curveForm';
import type { Curve, Dimension, Id, Sketch } from './part';
import { picksOfCurve } from './walk';

/** How a size is drawn (ISO 129-1): lines, arrow heads at their ends, and where its figure stands. mm, y up. */
export interface DimensionDrawing {
  /** The dimension line, straight or round, with an arrow head at each end that has one. */
  line: { from: Vec2; to: Vec2; heads: 'both' | 'end' } | null;
  arc: { centre: Vec2; radius: number; startAngle: number; sweep: number } | null;
  /** Extension lines, and what leads to a figure that stands apart. */
  thin: readonly (readonly [Vec2, Vec2])[];
  label: Vec2;
  /** From where a dragged label counts. */
  anchor: Vec2;
}

const curveIn = (sketch: Sketch, id: Id): Curve | undefined =>
  Object.hasOwn(sketch.curves, id) ? sketch.curves[id] : undefined;

const away = (a: Vec2, b: Vec2) => Math.hypot(b.x - a.x, b.y - a.y);
const middle = (a: Vec2, b: Vec2): Vec2 => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });

/** Where a point is, or the centre of a circle or an arc. */
export function placeInDrawing(sketch: Sketch, id: Id, place: Placer): Vec2 | null {
  const curve = curveIn(sketch, id);
  if (!curve) {
    const own = place(id);
    if (own) return own;
    const circle = Object.values(sketch.curves).find((c) => c.kind === 'circle' && c.centre === id);
    return circle?.kind === 'circle' ? (circleOf(sketch, circle, place, true)?.centre ?? null) : null;
  }
  return roundOf(sketch, curve, place)?.centre ?? null;
}

function roundOf(
  sketch: Sketch,
  curve: Curve,
  place: Placer,
): { centre: Vec2; radius: number; at: number; sweep: number } | null {
  if (curve.kind === 'circle') {
    const circle = circleOf(sketch, curve, place, true);
    return circle && { ...circle, at: Math.PI / 4, sweep: 2 * Math.PI };
  }
  if (curve.kind !== 'arc') return null;
  const [from, via, to] = [place(curve.from), place(picksOfCurve(curve)[0]!), place(curve.to)];
  const arc = from && via && to ? arcShape(from, via, to) : null;
  return arc && { centre: arc.centre, radius: arc.radius, at: arc.startAngle + arc.sweep / 2, sweep: arc.sweep };
}

function lineOf(sketch: Sketch, id: Id, place: Placer): [Vec2, Vec2] | null {
  const curve = curveIn(sketch, id);
  if (curve?.kind !== 'line') return null;
  const [a, b] = [place(curve.from), place(curve.to)];
  return a && b ? [a, b] : null;
}

const footOn = ([a, b]: [Vec2, Vec2], p: Vec2): Vec2 => {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const t = ((p.x - a.x) * dx + (p.y - a.y) * dy) / (dx * dx + dy * dy || 1);
  return { x: a.x + dx * t, y: a.y + dy * t };
};

/** Edges that a distance is measured between, where it is: what is led out begins where they end. */
type Edges = readonly [readonly Vec2[] | null, readonly Vec2[] | null];

/** A distance from a to b along a direction of unit length, its line led out by the label. */
function across(a: Vec2, b: Vec2, way: Vec2, label: Vec2, anchor: Vec2, edges: Edges = [null, null]): DimensionDrawing {
  const normal = { x: -way.y, y: way.x };
  const off = (p: Vec2) => (label.x - p.x) * normal.x + (label.y - p.y) * normal.y;
  const lead = (p: Vec2): Vec2 => ({ x: p.x + normal.x * off(p), y: p.y + normal.y * off(p) });
  const [from, to] = [lead(a), lead(b)];
  /** From the nearer end of the edge that it is of; nothing where the edge itself reaches there. */
  const leader = (start: Vec2, end: Vec2, edge: readonly Vec2[] | null): [Vec2, Vec2][] => {
    if (!edge) return [[start, end]];
    const far = (p: Vec2) => (p.x - end.x) * normal.x + (p.y - end.y) * normal.y;
    const all = edge.map(far);
    if (Math.min(...all) <= 0 && Math.max(...all) >= 0) return [];
    const nearest = edge.reduce((best, p) => (Math.abs(far(p)) < Math.abs(far(best)) ? p : best));
    return [[nearest, end]];
  };
  const thin = [...leader(a, from, edges[0]), ...leader(b, to, edges[1])];
  // A figure that stands beside its line is led to.
  const t = (label.x - from.x) * way.x + (label.y - from.y) * way.y;
  const length = (to.x - from.x) * way.x + (to.y - from.y) * way.y;
  if (t < Math.min(0, length)) thin.push([from, label]);
  if (t > Math.max(0, length)) thin.push([to, label]);
  return { line: { from, to, heads: 'both' }, arc: null, thin, label, anchor };
}

/**
 * How a size is drawn where things lie. `gapMm`: how far its line stands off the part where nobody has put it elsewhere.
 * Null where what it is of has no place.
 */
export function drawDimension(
  sketch: Sketch,
  dimension: Dimension,
  place: Placer,
  gapMm: number,
): DimensionDrawing | null {
  const { kind, refs, along, label: shift } = dimension;
  const [first, second] = refs.map((r) => r.id) as [Id, Id | undefined];
  const put = (anchor: Vec2, normal: Vec2): Vec2 =>
    shift
      ? { x: anchor.x + shift.dxMm, y: anchor.y + shift.dyMm }
      : { x: anchor.x + normal.x * gapMm, y: anchor.y + normal.y * gapMm };
  const span = (a: Vec2, b: Vec2, way: Vec2, edges?: Edges): DimensionDrawing => {
    const anchor = middle(a, b);
    const out = outward(sketch, dimension, place, anchor, { x: -way.y, y: way.x });
    return across(a, b, way, put(anchor, out), anchor, edges);
  };
  if (kind === 'distance' && second !== undefined) return distanceDrawing(sketch, first, second, along, place, span);
  if (kind === 'distance') {
    const at = placeInDrawing(sketch, first, place);
    return at && along !== 'straight' ? ordinate(at, along, put) : null;
  }
  if (kind === 'angle' && second !== undefined) return angleDrawing(sketch, first, second, place, put, gapMm);
  if (kind === 'angle') return directionDrawing(sketch, first, place, put, gapMm);
  if (kind === 'diameter' || kind === 'radius' || kind === 'arc-length')
    return roundDrawing(sketch, kind, first, place, put, gapMm);
  const path = Object.hasOwn(sketch.paths, first) ? sketch.paths[first] : undefined;
  const form = path && formOf(sketch, path, place);
  const bounds = form && formsBounds([form]);
  if (!bounds) return null;
  const { min, max } = bounds;
  if (kind === 'height') {
    const anchor = { x: max.x, y: (min.y + max.y) / 2 };
    const label = put(anchor, { x: 1.6, y: 0 });
    return across({ x: max.x, y: min.y }, { x: max.x, y: max.y }, { x: 0, y: 1 }, label, anchor);
  }
  const anchor = { x: (min.x + max.x) / 2, y: min.y };
  const label = put(anchor, { x: 0, y: kind === 'width' ? -1.6 : -2.6 });
  if (kind === 'width') return across({ x: min.x, y: min.y }, { x: max.x, y: min.y }, { x: 1, y: 0 }, label, anchor);
  return { line: null, arc: null, thin: [[anchor, label]], label, anchor };
}

/** Away from the middle of the path that it is of, so that the figure does not lie on the part. */
function outward(sketch: Sketch, { refs }: Dimension, place: Placer, anchor: Vec2, normal: Vec2): Vec2 {
  const named = new Set(refs.map((r) => r.id));
  const own = Object.values(sketch.paths).find((path) =>
    path.uses.some(({ curve }) => {
      const c = curveIn(sketch, curve);
      return named.has(curve) || (c && c.kind !== 'circle' && (named.has(c.from) || named.has(c.to)));
    }),
  );
  const form = own && formOf(sketch, own, place);
  const bounds = form && formsBounds([form]);
  if (!bounds) return normal;
  const centre = middle(bounds.min, bounds.max);
  const side = (anchor.x - centre.x) * normal.x + (anchor.y - centre.y) * normal.y;
  return side < -NO_LENGTH_MM ? { x: -normal.x, y: -normal.y } : normal;
}

/** A place told from zero (ISO 129-1, coordinate dimensioning): a line from it across the axis, the figure at its end. */
function ordinate(at: Vec2, along: 'x' | 'y', put: (anchor: Vec2, normal: Vec2) => Vec2): DimensionDrawing {
  const label = put(at, along === 'x' ? { x: 0, y: -1 } : { x: -1, y: 0 });
  const end = along === 'x' ? { x: at.x, y: label.y } : { x: label.x, y: at.y };
  const thin: [Vec2, Vec2][] = [[at, end]];
  if (away(end, label) > 0) thin.push([end, label]);
  return { line: null, arc: null, thin, label, anchor: at };
}

/** The direction of a line against X, at its lower end; or how far an arc turns, about its centre. */
function directionDrawing(
  sketch: Sketch,
  id: Id,
  place: Placer,
  put: (anchor: Vec2, normal: Vec2) => Vec2,
  gapMm: number,
): DimensionDrawing | null {
  const curve = curveIn(sketch, id);
  const round = curve?.kind === 'arc' ? roundOf(sketch, curve, place) : null;
  const line = lineOf(sketch, id, place);
  const [low, high] = line && line[0].y > line[1].y ? [line[1], line[0]] : (line ?? [null, null]);
  const apex = round?.centre ?? low;
  if (!apex) return null;
  const sweep = round ? Math.abs(round.sweep) : Math.atan2(high!.y - low!.y, high!.x - low!.x);
  const startAngle = round ? round.at - sweep / 2 : 0;
  const mid = startAngle + sweep / 2;
  const label = put(apex, { x: 2 * Math.cos(mid), y: 2 * Math.sin(mid) });
  const radius = Math.max(gapMm / 2, away(apex, label));
  const ray = (angle: number): [Vec2, Vec2] => [
    apex,
    { x: apex.x + radius * Math.cos(angle), y: apex.y + radius * Math.sin(angle) },
  ];
  const thin = round ? [ray(startAngle), ray(startAngle + sweep)] : [ray(0)];
  return { line: null, arc: { centre: apex, radius, startAngle, sweep }, thin, label, anchor: apex };
}

function angleDrawing(
  sketch: Sketch,
  first: Id,
  second: Id,
  place: Placer,
  put: (anchor: Vec2, normal: Vec2) => Vec2,
  gapMm: number,
): DimensionDrawing | null {
  const [one, other] = [lineOf(sketch, first, place), lineOf(sketch, second, place)];
  if (!one || !other) return null;
  const [d, e] = [one, other].map(([a, b]) => ({ x: b.x - a.x, y: b.y - a.y })) as [Vec2, Vec2];
  const turn = d.x * e.y - d.y * e.x;
  if (Math.abs(turn) < NO_TURN_RAD) return null;
  const t = ((other[0].x - one[0].x) * e.y - (other[0].y - one[0].y) * e.x) / turn;
  const apex = { x: one[0].x + d.x * t, y: one[0].y + d.y * t };
  const farther = ([a, b]: [Vec2, Vec2]) => (away(apex, a) > away(apex, b) ? a : b);
  const [p, q] = [farther(one), farther(other)];
  const [from, to] = [p, q].map((v) => Math.atan2(v.y - apex.y, v.x - apex.x)) as [number, number];
  const sweep = Math.atan2(Math.sin(to - from), Math.cos(to - from));
  const mid = from + sweep / 2;
  const label = put(apex, { x: 2 * Math.cos(mid), y: 2 * Math.sin(mid) });
  const radius = Math.max(gapMm / 2, away(apex, label));
  const thin = [p, q].flatMap((v, k): [Vec2, Vec2][] => {
    const angle = k === 0 ? from : to;
    const end = { x: apex.x + radius * Math.cos(angle), y: apex.y + radius * Math.sin(angle) };
    return away(apex, v) < radius ? [[v, end]] : [];
  });
  return { line: null, arc: { centre: apex, radius, startAngle: from, sweep }, thin, label, anchor: apex };
}

/** How much farther out each further line on one side of the part stands, in gaps. */
const NEXT_LINE = 0.9;
/** Sizes that reach over more than this share of the part stand outside it. */
const LONG_SHARE = 0.3;

/**
 * All sizes of a sketch as they are drawn. Those that nobody put anywhere and that run along X or Y over much of the part
 * stand outside it, the shorter ones nearer, so that none lies on another (ISO 129-1).
 */
export function drawDimensions(
  sketch: Sketch,
  place: Placer,
  gapMm: number,
): { dimension: Dimension; drawing: DimensionDrawing }[] {
  const forms = Object.values(sketch.paths).flatMap((path) => formOf(sketch, path, place) ?? []);
  const bounds = formsBounds(forms);
  const own = Object.values(sketch.dimensions).flatMap((dimension) => {
    const drawing = drawDimension(sketch, dimension, place, gapMm);
    return drawing ? [{ dimension, drawing }] : [];
  });
  if (!bounds) return own;
  const { min, max } = bounds;
  const centre = middle(min, max);
  const outside = own.flatMap(({ dimension, drawing: { line, anchor } }) => {
    if (!line || dimension.label || !/^(?:distance|width|height)$/.test(dimension.kind)) return [];
    const [dx, dy] = [Math.abs(line.to.x - line.from.x), Math.abs(line.to.y - line.from.y)];
    const isLevel = dy < dx * 0.01;
    const isPlumb = dx < dy * 0.01;
    const length = Math.max(dx, dy);
    if (!isLevel && !isPlumb) return [];
    if (length < LONG_SHARE * (isLevel ? max.x - min.x : max.y - min.y)) return [];
    const side = isLevel ? (anchor.y > centre.y ? 'above' : 'below') : anchor.x > centre.x ? 'right' : 'left';
    return [{ dimension, anchor, side, length }];
  });
  outside.sort((a, b) => a.length - b.length);
  const lines = new Map<string, number>();
  const moved = new Map<Id, Dimension>();
  for (const { dimension, anchor, side } of outside) {
    const n = lines.get(side) ?? 0;
    lines.set(side, n + 1);
    const out = gapMm * (1 + NEXT_LINE * n);
    const at = {
      above: { x: anchor.x, y: max.y + out },
      below: { x: anchor.x, y: min.y - out },
      left: { x: min.x - out, y: anchor.y },
      right: { x: max.x + out, y: anchor.y },
    }[side]!;
    moved.set(dimension.id, { ...dimension, label: { dxMm: at.x - anchor.x, dyMm: at.y - anchor.y } });
  }
  return own.map(({ dimension, drawing }) => {
    const led = moved.get(dimension.id);
    return { dimension, drawing: (led && drawDimension(sketch, led, place, gapMm)) || drawing };
  });
}

type Put = (anchor: Vec2, normal: Vec2) => Vec2;

/** Between two points, a point and a line, or two lines. */
function distanceDrawing(
  sketch: Sketch,
  first: Id,
  second: Id,
  along: Dimension['along'],
  place: Placer,
  span: (a: Vec2, b: Vec2, way: Vec2, edges?: Edges) => DimensionDrawing,
): DimensionDrawing | null {
  const lines = [lineOf(sketch, first, place), lineOf(sketch, second, place)] as const;
  const carrier = lines[0] ?? lines[1];
  if (carrier) {
    const other = lines[0] && lines[1] ? middle(...lines[1]) : placeInDrawing(sketch, lines[0] ? second : first, place);
    if (!other) return null;
    const foot = footOn(carrier, other);
    const length = away(foot, other) || 1;
    const way = { x: (other.x - foot.x) / length, y: (other.y - foot.y) / length };
    return span(foot, other, way, [carrier, lines[0] && lines[1] ? lines[1] : null]);
  }
  const [a, b] = [placeInDrawing(sketch, first, place), placeInDrawing(sketch, second, place)];
  if (!a || !b) return null;
  const length = away(a, b) || 1;
  const way =
    along === 'x'
      ? { x: 1, y: 0 }
      : along === 'y'
        ? { x: 0, y: 1 }
        : { x: (b.x - a.x) / length, y: (b.y - a.y) / length };
  return span(a, b, way);
}

/** Of a circle or an arc: across it, from its middle, or along it. */
function roundDrawing(
  sketch: Sketch,
  kind: 'diameter' | 'radius' | 'arc-length',
  first: Id,
  place: Placer,
  put: Put,
  gapMm: number,
): DimensionDrawing | null {
  const curve = curveIn(sketch, first);
  const round = curve && roundOf(sketch, curve, place);
  if (!round) return null;
  const { centre, radius, at, sweep } = round;
  if (kind === 'arc-length') {
    const label = put(
      { x: centre.x, y: centre.y },
      { x: (1 + radius / gapMm) * Math.cos(at), y: (1 + radius / gapMm) * Math.sin(at) },
    );
    const out = Math.max(radius * 1.02, away(centre, label));
    return {
      line: null,
      arc: { centre, radius: out, startAngle: at - sweep / 2, sweep },
      thin: [],
      label,
      anchor: centre,
    };
  }
  const label = put(centre, { x: (1 + radius / gapMm) * Math.cos(at), y: (1 + radius / gapMm) * Math.sin(at) });
  const length = away(centre, label) || 1;
  const way = { x: (label.x - centre.x) / length, y: (label.y - centre.y) / length };
  const rim = { x: centre.x + way.x * radius, y: centre.y + way.y * radius };
  const from = kind === 'radius' ? centre : { x: centre.x - way.x * radius, y: centre.y - way.y * radius };
  const thin: [Vec2, Vec2][] = length > radius ? [[rim, label]] : [];
  return {
    line: { from, to: rim, heads: kind === 'radius' ? 'end' : 'both' },
    arc: null,
    thin,
    label,
    anchor: centre,
  };
}
