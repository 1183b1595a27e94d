import Flatbush from 'flatbush';
import { boxesOf, type Crossing, crossingsOf, crossingsWithin, ONE_PLACE_MM, speedAt } from './crossings';
import { nearestOn } from './nearest';
import { NO_HANDLE_MM, NO_SHARE } from './nothing';
import type { Form } from './run';
import { flattenSegment, pointAt, type Segment, segmentArea, segmentLength, shapeOfArc } from './segment';
import { splitSegment, stretchOf } from './split';
import { add, between, cross, dot, left, norm, scale, sub, type Vec2 } from './vector';

/** What an outer corner becomes: an arc about it, both sides drawn on until they meet, or cut straight across. */
export type OffsetCorners = 'round' | 'sharp' | 'cut';

/** An offset of a curve stays this near to the true one, mm; of lines and arcs it is exact. */
const OFFSET_TOLERANCE_MM = 0.002;
/** Corners sharper than this are cut even where they shall stay sharp: their tip would lie more distances away. */
const SHARPEST = 4;

/**
 * A form at a distance from another. Of a closed one outwards where `by` is positive, of an open one to the left of its
 * way. Lines stay lines, arcs arcs.
 *
 * In: the form and the distance, mm. Out: one form or several, where it falls apart; none where nothing is left of it.
 * Pieces nearer to the form than the distance are left out (the local ones first, then those that others come near).
 */
export function offsetForm(form: Form, by: number, corners: OffsetCorners = 'round'): Form[] {
  if (by === 0) return [form];
  if (form.kind === 'circle') return form.radius + by > ONE_PLACE_MM ? [{ ...form, radius: form.radius + by }] : [];
  const segments = form.segments.filter((s) => between(s.from, s.to) > ONE_PLACE_MM);
  if (segments.length === 0) return [];
  const area = form.closed ? segments.reduce((sum, s) => sum + segmentArea(s), 0) : 0;
  const toLeft = form.closed ? (area > 0 ? -by : by) : by;
  const { raw, nearest } = rawOffset(segments, form.closed, toLeft, corners);
  const far = withoutNear(cutAtCrossings(raw), segments, Math.abs(by), nearest);
  if (!form.closed) return chained(far, raw);
  // What is far enough may still lie in what sharp and cut corners take away: only the rim of what is left counts.
  return chained(onRim(far, raw, Math.sign(area)), raw).filter(
    (chain) => chain.closed && chain.segments.reduce((sum, s) => sum + segmentLength(s), 0) > 4 * JOIN_MM,
  );
}

/** A piece of an offset before anything is taken out of it. */
interface Raw {
  segment: Segment;
  /** Only closes the way round: where an arc's radius is used up, and at corners that turn towards the offset. */
  isFiller?: true;
}

/** `nearest`: how near the offset may come to the joint behind each segment, as a share of the distance: a cut corner does. */
function rawOffset(
  segments: readonly Segment[],
  closed: boolean,
  d: number,
  corners: OffsetCorners,
): { raw: Raw[]; nearest: number[] } {
  const count = segments.length;
  const beside = segments.map((segment) => offsetSegment(segment, d));
  const usedUp = segments.map((segment, k) => (beside[k]!.length > 0 ? null : turnedInsideOut(segment, d)));
  const nearest = segments.map(() => 1);
  const joins = segments.map((segment, k): Raw[] => {
    const next = segments[(k + 1) % count];
    if (!next || (!closed && k === count - 1)) return [];
    const [t1, t2] = [unitOf(speedAt(segment, 1)), unitOf(speedAt(next, 0))];
    const corner = segment.to;
    const [from, to] = [add(corner, scale(left(t1), d)), add(corner, scale(left(t2), d))];
    if (between(from, to) <= ONE_PLACE_MM) return [];
    // Turning away from the side of the offset a gap opens; towards it both pieces cross.
    if (cross(t1, t2) * d < 0 || dot(t1, t2) <= -1 + TURNS_BACK) {
      const join = joinOf(corner, from, to, t1, t2, d, corners);
      nearest[k] = join.nearest;
      return join.pieces.map((piece) => ({ segment: piece }));
    }
    const hardlyTurns = Math.abs(cross(t1, t2)) < HARDLY_RAD && dot(t1, t2) > 0;
    if ((!closed || hardlyTurns) && cutWhereMet(beside[k]!, beside[(k + 1) % count]!, corner)) return [];
    return [
      { segment: { kind: 'line', from, to: corner }, isFiller: true },
      { segment: { kind: 'line', from: corner, to }, isFiller: true },
    ];
  });
  const raw = beside.flatMap((own, k): Raw[] => [
    ...own.map((segment) => ({ segment })),
    ...(usedUp[k] ? [{ segment: usedUp[k], isFiller: true } as const] : []),
    ...joins[k]!,
  ]);
  return { raw, nearest };
}

/** Where pieces turn by less towards the offset, rad, their ends are cut off at once: the sliver beyond is too thin to be told. */
const HARDLY_RAD = 0.05;

/** What an arc of no radius any more becomes on its other side; null where its ends come to one place. */
function turnedInsideOut(segment: Segment, d: number): Segment | null {
  const moved = (t: number): Vec2 => add(pointAt(segment, t), scale(left(unitOf(speedAt(segment, t))), d));
  const [from, via, to] = [moved(0), moved(0.5), moved(1)];
  return between(from, to) > ONE_PLACE_MM || between(from, via) > ONE_PLACE_MM ? { kind: 'arc', from, via, to } : null;
}

/**
 * Cuts the end of one piece and the beginning of the next where they cross, nearest to the corner between them: what
 * sticks out beyond would, at a corner that hardly turns, be as far from the form as what shall stay. False where they do
 * not cross.
 */
function cutWhereMet(before: Segment[], after: Segment[], corner: Vec2): boolean {
  const [a, b] = [before[before.length - 1], after[0]];
  if (!a || !b || a === b) return false;
  const nearest = crossingsOf(a, b).reduce<Crossing | null>(
    (best, c) => (best && between(best.at, corner) <= between(c.at, corner) ? best : c),
    null,
  );
  if (!nearest || nearest.t <= 0 || nearest.u >= 1) return false;
  before[before.length - 1] = { ...stretchOf(a, 0, nearest.t), to: nearest.at };
  after[0] = { ...stretchOf(b, nearest.u, 1), from: nearest.at };
  return true;
}

function joinOf(
  corner: Vec2,
  from: Vec2,
  to: Vec2,
  t1: Vec2,
  t2: Vec2,
  d: number,
  corners: OffsetCorners,
): { pieces: Segment[]; nearest: number } {
  const half = Math.sqrt(Math.max(0, (1 + dot(t1, t2)) / 2));
  if (corners === 'round') {
    const middle = unitOf(sub(add(from, to), scale(corner, 2)));
    const via = half > NO_SHARE ? add(corner, scale(middle, Math.abs(d))) : add(corner, scale(t1, Math.abs(d)));
    return { pieces: [{ kind: 'arc', from, via, to }], nearest: 1 };
  }
  if (corners === 'sharp' && half > 1 / SHARPEST) {
    const reach = Math.abs(d) * Math.sqrt(Math.max(0, 1 / half ** 2 - 1));
    const tip = add(from, scale(t1, reach));
    return {
      pieces: [
        { kind: 'line', from, to: tip },
        { kind: 'line', from: tip, to },
      ],
      nearest: 1,
    };
  }
  return { pieces: [{ kind: 'line', from, to }], nearest: half };
}

const unitOf = (v: Vec2): Vec2 => scale(v, 1 / (norm(v) || 1));

/** One segment beside another, to its left, mm; nothing where an arc's radius is used up. */
export function offsetSegment(segment: Segment, d: number): Segment[] {
  const moved = (t: number): Vec2 => add(pointAt(segment, t), scale(left(unitOf(speedAt(segment, t))), d));
  if (segment.kind === 'line') return [{ kind: 'line', from: moved(0), to: moved(1) }];
  if (segment.kind === 'arc') {
    const arc = shapeOfArc(segment);
    if (!arc) return [{ kind: 'line', from: moved(0), to: moved(1) }];
    const radius = arc.radius - d * Math.sign(arc.sweep);
    return radius > ONE_PLACE_MM ? [{ kind: 'arc', from: moved(0), via: moved(0.5), to: moved(1) }] : [];
  }
  return offsetCurve(segment, d, 0);
}

type Cubic = Extract<Segment, { kind: 'curve' }>;
const MOST_HALVINGS = 8;

function offsetCurve(curve: Cubic, d: number, depth: number): Segment[] {
  const way = (t: number): Vec2 => {
    const speed = speedAt(curve, t);
    // A handle of no length: the way is that of the next one.
    return norm(speed) > NO_HANDLE_MM ? unitOf(speed) : unitOf(sub(curve.to, curve.from));
  };
  const at = (t: number) => add(pointAt(curve, t), scale(left(way(t)), d));
  const [from, to, middle] = [at(0), at(1), at(0.5)];
  const [a, b] = [way(0), way(1)];
  // The handles along both ends' ways that bring its middle to where the offset's is (least squares of two unknowns).
  const want = scale(sub(middle, scale(add(from, to), 0.5)), 8 / 3);
  const [aa, ab, bb] = [1, -dot(a, b), 1];
  const [ra, rb] = [dot(a, want), -dot(b, want)];
  const det = aa * bb - ab * ab;
  const plain = between(from, to) / 3;
  const [p, q] = det > LEAST_BEND ? [(ra * bb - rb * ab) / det, (rb * aa - ra * ab) / det] : [plain, plain];
  const made: Cubic = {
    kind: 'curve',
    from,
    handleFrom: add(from, scale(a, p)),
    handleTo: sub(to, scale(b, q)),
    to,
  };
  const isNear = [0.2, 0.4, 0.6, 0.8].every((t) => {
    const here = pointAt(made, t);
    return Math.abs(nearestOn(curve, here).distance - Math.abs(d)) < OFFSET_TOLERANCE_MM / 2;
  });
  if ((isNear && p > 0 && q > 0) || depth >= MOST_HALVINGS) return [made];
  const [first, second] = splitSegment(curve, 0.5) as [Cubic, Cubic];
  return [...offsetCurve(first, d, depth + 1), ...offsetCurve(second, d, depth + 1)];
}

/** A stretch of a raw piece, between two of its crossings. */
interface Stretch {
  of: number;
  from: number;
  to: number;
  segment: Segment;
  isFiller: boolean;
}

/** An end nearer than this to another piece lies on it, mm. */
const ON_MM = ONE_PLACE_MM;

function cutAtCrossings(raw: readonly Raw[]): Stretch[] {
  const cuts = raw.map((): number[] => []);
  for (const { i, j, t, u } of crossingsWithin(raw.map((r) => r.segment))) {
    cuts[i]!.push(t);
    cuts[j]!.push(u);
  }
  // Pieces that lie on one another share no single place: each is cut where the other one ends.
  const boxes = boxesOf(raw.map((r) => r.segment));
  for (const [k, { segment }] of raw.entries())
    for (const end of [segment.from, segment.to])
      for (const other of boxes.search(end.x - ON_MM, end.y - ON_MM, end.x + ON_MM, end.y + ON_MM)) {
        if (other === k) continue;
        const near = nearestOn(raw[other]!.segment, end);
        if (near.distance <= ON_MM && near.t > 0 && near.t < 1) cuts[other]!.push(near.t);
      }
  return raw.flatMap(({ segment, isFiller = false }, of) => {
    const ts = [0, ...cuts[of]!.sort((a, b) => a - b), 1];
    return ts.slice(1).flatMap((to, k) => {
      const from = ts[k]!;
      if (to - from < NO_SHARE) return [];
      const piece = stretchOf(segment, from, to);
      return between(piece.from, piece.to) > ONE_PLACE_MM || to - from > 0.5
        ? [{ of, from, to, segment: piece, isFiller }]
        : [];
    });
  });
}

/** Stretches that keep their distance from the form; at the joints of it as much as their corners leave. */
function withoutNear(
  stretches: readonly Stretch[],
  segments: readonly Segment[],
  distance: number,
  nearest: readonly number[],
): Stretch[] {
  const boxes = boxesOf(segments);
  const slack = ROUNDED_SHARE * distance + OFFSET_TOLERANCE_MM;
  const count = segments.length;
  const isTooNear = (p: Vec2, k: number): boolean => {
    const found = nearestOn(segments[k]!, p);
    const joint = found.t <= 0 ? nearest[(k + count - 1) % count]! : found.t >= 1 ? nearest[k]! : 1;
    return found.distance < distance * joint - slack;
  };
  return stretches.filter(
    ({ segment, isFiller }) =>
      !isFiller &&
      // Two places of it: in the middle, and where a stretch that ends on the form's own offset would still be near.
      [0.5, 0.27].every((t) => {
        const p = pointAt(segment, t);
        // The first that is too near settles it.
        let isNear = false;
        boxes.search(p.x - distance, p.y - distance, p.x + distance, p.y + distance, (k) => {
          isNear ||= isTooNear(p, k);
          return false;
        });
        return !isNear;
      }),
  );
}

/** How finely a curve is told by its corners, mm, and how far beside one it is asked how often the offset goes round there. */
const CURVE_FLAT_MM = 1e-4;
const BESIDE_CURVE_MM = 4 * CURVE_FLAT_MM;
/** Beside a line or an arc, whose sides are exact: as a share of its length, and at most, mm. */
const BESIDE = { share: 2e-3, mostMm: 1e-4 } as const;

/** A piece that goes up or down all along. */
interface Side {
  a: Vec2;
  b: Vec2;
  /** Of an arc: its circle, and whether it is the half to the right of its centre. */
  arc: { centre: Vec2; radius: number; isRight: boolean } | null;
}

/** A segment as sides that go up or down all along. */
function sidesOf(segment: Segment): Side[] {
  const arc = segment.kind === 'arc' ? shapeOfArc(segment) : null;
  if (!arc) {
    const ends = segment.kind === 'curve' ? flattenSegment(segment, CURVE_FLAT_MM) : [segment.to];
    return ends.map((b, k) => ({ a: k === 0 ? segment.from : ends[k - 1]!, b, arc: null }));
  }
  const { centre, radius, startAngle, sweep } = arc;
  // Its highest and lowest places cut it.
  const turns: number[] = [];
  const [low, high] = [Math.min(startAngle, startAngle + sweep), Math.max(startAngle, startAngle + sweep)];
  for (let q = Math.ceil((low - Math.PI / 2) / Math.PI); Math.PI / 2 + q * Math.PI < high; q++) {
    const t = (Math.PI / 2 + q * Math.PI - startAngle) / sweep;
    if (t > 0 && t < 1) turns.push(t);
  }
  const ts = [0, ...turns.sort((x, y) => x - y), 1];
  return ts.slice(1).map((to, k) => {
    const from = ts[k]!;
    const a = from === 0 ? segment.from : pointAt(segment, from);
    const b = to === 1 ? segment.to : pointAt(segment, to);
    const isRight = Math.cos(startAngle + (sweep * (from + to)) / 2) > 0;
    return { a, b, arc: { centre, radius, isRight } };
  });
}

/** Whether a side that passes the height of a place passes to the right of it. */
function isRightOf({ a, b, arc }: Side, p: Vec2): boolean {
  if (!arc) return cross(sub(b, a), sub(p, a)) * (b.y - a.y) > 0;
  const half = Math.sqrt(Math.max(0, arc.radius ** 2 - (p.y - arc.centre.y) ** 2));
  return arc.centre.x + (arc.isRight ? half : -half) > p.x;
}

/**
 * Stretches that have what is left on one side and nothing on the other: the raw offset goes round what is left once, in
 * the way of the form, and round what is taken away not at all or the other way.
 *
 * `way`: 1 where the form runs anticlockwise, else −1.
 */
function onRim(stretches: readonly Stretch[], raw: readonly Raw[], way: number): Stretch[] {
  const sides = raw.flatMap(({ segment }) => sidesOf(segment));
  const index = new Flatbush(sides.length);
  let reach = Number.NEGATIVE_INFINITY;
  for (const { a, b, arc } of sides) {
    const out = arc ? arc.centre.x + (arc.isRight ? arc.radius : -arc.radius) : a.x;
    const right = Math.max(a.x, b.x, out);
    index.add(Math.min(a.x, b.x, out), Math.min(a.y, b.y), right, Math.max(a.y, b.y));
    reach = Math.max(reach, right);
  }
  index.finish();
  const roundsAt = (p: Vec2): number => {
    let rounds = 0;
    index.search(p.x, p.y, reach, p.y, (k) => {
      const side = sides[k]!;
      const isPassed = side.a.y > p.y !== side.b.y > p.y;
      if (isPassed && isRightOf(side, p)) rounds += side.b.y > side.a.y ? 1 : -1;
      return false;
    });
    return rounds;
  };
  const kept = new Map<string, { p: Vec2; v: Vec2 }[]>();
  return stretches.filter(({ segment }) => {
    // Not in its very middle: forms are often symmetric, and others' corners lie level with it.
    const [p, v] = [pointAt(segment, 0.4871), unitOf(speedAt(segment, 0.4871))];
    const by =
      segment.kind === 'curve'
        ? BESIDE_CURVE_MM
        : Math.min(BESIDE.mostMm, BESIDE.share * between(segment.from, segment.to) || BESIDE.mostMm);
    const [inner, outer] = [by, -by].map((d) => way * roundsAt(add(p, scale(left(v), way * d))));
    if (!(inner! > 0 && outer! <= 0)) return false;
    // Of several that lie on one another one is enough.
    const [x, y] = [Math.round(p.x / JOIN_MM), Math.round(p.y / JOIN_MM)];
    const near = [-1, 0, 1].flatMap((dx) => [-1, 0, 1].flatMap((dy) => kept.get(`${x + dx} ${y + dy}`) ?? []));
    if (near.some((o) => between(o.p, p) <= ON_MM && dot(o.v, v) > 0)) return false;
    kept.set(`${x} ${y}`, [...(kept.get(`${x} ${y}`) ?? []), { p, v }]);
    return true;
  });
}

/** Stretches end to end; those that belong to one raw piece are one again. */
function chained(stretches: readonly Stretch[], raw: readonly Raw[]): Extract<Form, { kind: 'chain' }>[] {
  const key = (p: Vec2) => [Math.round(p.x / JOIN_MM), Math.round(p.y / JOIN_MM)] as const;
  const starts = new Map<string, Stretch[]>();
  for (const s of stretches) {
    const name = key(s.segment.from).join();
    starts.set(name, [...(starts.get(name) ?? []), s]);
  }
  const used = new Set<Stretch>();
  const nextOf = (at: Vec2): Stretch | undefined => {
    const [x, y] = key(at);
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (const s of starts.get(`${x + dx},${y + dy}`) ?? [])
          if (!used.has(s) && between(s.segment.from, at) < JOIN_MM) return s;
    return undefined;
  };
  const ends = new Set(stretches.map((s) => key(s.segment.to).join()));
  const hasBefore = (s: Stretch) => {
    const [x, y] = key(s.segment.from);
    return [-1, 0, 1].some((dx) => [-1, 0, 1].some((dy) => ends.has(`${x + dx},${y + dy}`)));
  };
  const chains: Extract<Form, { kind: 'chain' }>[] = [];
  // Open chains from their beginnings first, then the loops.
  for (const first of [...stretches.filter((s) => !hasBefore(s)), ...stretches]) {
    if (used.has(first)) continue;
    const chain = [first];
    used.add(first);
    for (let next = nextOf(first.segment.to); next; next = nextOf(next.segment.to)) {
      chain.push(next);
      used.add(next);
    }
    const closed = between(chain[chain.length - 1]!.segment.to, first.segment.from) < JOIN_MM;
    chains.push({ kind: 'chain', segments: merged(chain, raw, closed), closed });
  }
  return chains;
}

/** Ends of stretches that are nearer than this belong together, mm: two curves' offsets are as far apart. */
/** Ways whose product is nearer to −1 turn right back: a gap opens to either side. */
const TURNS_BACK = 1e-12;
/** Square of the sine of a curve's turn below which its handles are a third of it each: they are not told apart by its middle. */
const LEAST_BEND = 1e-6;
/** Distances are worked out to this share of themselves. */
const ROUNDED_SHARE = 1e-6;

const JOIN_MM = 2 * OFFSET_TOLERANCE_MM;

function merged(chain: readonly Stretch[], raw: readonly Raw[], closed: boolean): Segment[] {
  const runs: Stretch[] = [];
  for (const s of chain) {
    const last = runs[runs.length - 1];
    if (last && last.of === s.of && Math.abs(last.to - s.from) < NO_SHARE)
      runs[runs.length - 1] = { ...last, to: s.to };
    else runs.push(s);
  }
  const [first, last] = [runs[0]!, runs[runs.length - 1]!];
  if (closed && runs.length > 1 && first.of === last.of && Math.abs(last.to - first.from) < NO_SHARE) {
    runs.pop();
    runs[0] = { ...first, from: last.from };
  }
  const segments = runs.map((r) => stretchOf(raw[r.of]!.segment, r.from, r.to));
  // One place for each joint.
  return segments.map((s, k) => {
    const next = segments[(k + 1) % segments.length]!;
    return k < segments.length - 1 || (closed && segments.length > 1) ? { ...s, to: next.from } : s;
  });
}
