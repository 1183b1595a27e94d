import {
  add,
  arcShape,
  between,
  crossingsOf,
  type Form,
  mapForm,
  NO_LENGTH_MM,
  NO_SHARE,
  nearestOn,
  ONE_PLACE_MM,
  pointAt,
  reverseForm,
  type Segment,
  splitSegment,
  type Vec2,
} from '../geometry';

/** The axis of a turned body in its profile's plane; `along` has length 1. */
export interface ProfileAxis {
  at: Vec2;
  along: Vec2;
}

/** Nearer to the axis than this an end or a corner belongs on it, mm: a picture does not tell better. */
export const ON_AXIS_MM = 0.3;

export type HalfProfile =
  | {
      ok: true;
      /** Closed, on one side of the axis, in the profile's plane. */
      form: Form;
      /** Which piece of what was drawn each of its pieces is, or is a part of; null for those that were added. */
      from: (number | null)[];
      /** An end lay off the axis, and a face square to it was added. */
      closed: boolean;
      /** Where both halves were there: how unlike they are at most, mm. */
      unlikeMm: number | null;
    }
  | { ok: false; reason: 'crosses-axis' | 'unlike-halves' | 'no-form' };

type Chain = Extract<Form, { kind: 'chain' }>;
/** A chain, and of which piece of what was drawn each of its segments is. */
type Traced = Chain & { from: number[] };

/**
 * Half the section of a turned body, closed on its axis, of what was drawn: one half, open or closed, or both halves.
 *
 * In: the form and the axis, mm, in one plane, and whether its halves are alike, so that one says all. Of both halves each place is the middle between its own and the nearest one
 * of the other half's image.
 */
export function halfProfile(form: Form, axis: ProfileAxis, isSymmetric = false): HalfProfile {
  const onAxis = toAxis(axis);
  const back = fromAxis(axis);
  const own = mapForm(form, onAxis);
  if (own.kind === 'circle')
    return Math.abs(own.centre.y) - own.radius < -NO_LENGTH_MM
      ? { ok: false, reason: 'crosses-axis' }
      : { ok: true, form: { ...form }, from: [0], closed: false, unlikeMm: null };
  const sides = sidesOf(own);
  if (!sides) return { ok: false, reason: 'crosses-axis' };
  const [upper, lower] = sides;
  const both = upper && lower && !isSymmetric;
  const half = both ? averaged(upper, lower) : upper ? { chain: upper, unlikeMm: null } : null;
  if (half?.unlikeMm && half.unlikeMm > Math.max(MOST_UNLIKE.mm, MOST_UNLIKE.share * reachOf(upper!)))
    return { ok: false, reason: 'unlike-halves' };
  const mirrored = half ?? (lower ? { chain: mirroredInAxis(lower), unlikeMm: null } : null);
  if (!mirrored) return { ok: false, reason: 'no-form' };
  const brought = capsOnAxis(squareToAxis(broughtToAxis(mirrored.chain)));
  const { chain, closed } = closedOnAxis(brought);
  const from = chain.segments.map((_, k) => brought.from[k] ?? null);
  if (chain.segments.length < 2) return { ok: false, reason: 'no-form' };
  // What was drawn below the axis alone stays there, under its own picture.
  const placed = half ? chain : mirroredInAxis(chain);
  return { ok: true, form: mapForm(placed, back), from, closed, unlikeMm: mirrored.unlikeMm };
}

/** Along the axis as x, away from it as y. */
const toAxis =
  ({ at, along }: ProfileAxis) =>
  (p: Vec2): Vec2 => {
    const [dx, dy] = [p.x - at.x, p.y - at.y];
    return { x: dx * along.x + dy * along.y, y: along.x * dy - along.y * dx };
  };

const fromAxis =
  ({ at, along }: ProfileAxis) =>
  (p: Vec2): Vec2 =>
    add(at, { x: p.x * along.x - p.y * along.y, y: p.x * along.y + p.y * along.x });

const moved = <C extends Chain>(chain: C, at: (p: Vec2) => Vec2): C => ({ ...chain, ...(mapForm(chain, at) as Chain) });
const mirroredInAxis = <C extends Chain>(chain: C): C => moved(chain, ({ x, y }) => ({ x, y: -y }));

/**
 * What lies above the axis and what lies below it, one chain each, null where nothing does. Null where either is in pieces: no
 * section of one body looks so.
 */
function sidesOf(form: Chain): [Traced | null, Traced | null] | null {
  const cut = form.segments
    .flatMap((own, k) => cutAtAxis(own).map((segment) => ({ segment, k })))
    .filter(({ segment }) => between(segment.from, segment.to) > NO_LENGTH_MM);
  const pieces = cut.map((c) => c.segment);
  const reach = Math.max(...pieces.map((s) => Math.abs(pointAt(s, 0.5).y)), 0);
  const sideOf = (s: Segment): number => {
    const far = [s.from, pointAt(s, 0.5), s.to].reduce((best, p) => (Math.abs(p.y) > Math.abs(best.y) ? p : best));
    return Math.abs(far.y) <= Math.min(ON_AXIS_MM, reach / 4) ? 0 : Math.sign(far.y);
  };
  const sides = pieces.map(sideOf);
  const chainsOn = (side: number): Traced[] => {
    const chains: Traced[] = [];
    pieces.forEach((segment, k) => {
      if (sides[k] !== side) return;
      const last = chains[chains.length - 1];
      const from = cut[k]!.k;
      if (last && sides[k - 1] === side) {
        last.segments.push(segment);
        last.from.push(from);
      } else chains.push({ kind: 'chain', segments: [segment], closed: false, from: [from] });
    });
    // A closed form may begin in the middle of a side.
    if (form.closed && chains.length > 1 && sides[0] === side && sides[sides.length - 1] === side) {
      const last = chains.pop()!;
      chains[0]!.segments.unshift(...last.segments);
      chains[0]!.from.unshift(...last.from);
    }
    if (form.closed && chains.length === 1 && sides.every((s) => s === side)) chains[0]!.closed = true;
    return chains;
  };
  const isWorth = (chain: Traced) => reachOf(chain) >= STRAY * reach;
  const [up, down] = [chainsOn(1).filter(isWorth), chainsOn(-1).filter(isWorth)];
  return up.length > 1 || down.length > 1 ? null : [up[0] ?? null, down[0] ?? null];
}

const FAR = 1e5;

function cutAtAxis(segment: Segment): Segment[] {
  const line: Segment = { kind: 'line', from: { x: -FAR, y: 0 }, to: { x: FAR, y: 0 } };
  const at = crossingsOf(segment, line)
    .map((c) => c.t)
    .filter((t) => t > NO_SHARE && t < 1 - NO_SHARE)
    .sort((a, b) => a - b);
  const cut: Segment[] = [];
  let rest = segment;
  let done = 0;
  for (const t of at) {
    const [first, second] = splitSegment(rest, (t - done) / (1 - done));
    cut.push(first);
    rest = second;
    done = t;
  }
  return [...cut, rest];
}

/** Halves that differ by more, mm and as a share of how far they reach, are no two pictures of one. */
const MOST_UNLIKE = { mm: 1.5, share: 0.12 } as const;
/** What reaches no farther beyond the axis than this share of the whole is the end of a half that was drawn past it. */
const STRAY = 0.1;

const reachOf = ({ segments }: Chain): number =>
  Math.max(...segments.flatMap((s) => [0, 0.25, 0.5, 0.75, 1].map((t) => Math.abs(pointAt(s, t).y))));

/** Farther apart than this the halves are not two pictures of one edge, as a share of how far off the axis they are. */
const UNLIKE = 0.2;

/**
 * The upper half with each place in the middle between itself and that of the lower one's image: piece by piece where both were
 * drawn alike, else corner by nearest corner.
 */
function averaged(upper: Traced, lower: Traced): { chain: Traced; unlikeMm: number } {
  const image = reverseForm(mirroredInAxis(lower)) as Chain;
  const alike =
    image.segments.length === upper.segments.length &&
    image.segments.every((s, k) => s.kind === upper.segments[k]!.kind && isNear(s.from, upper.segments[k]!.from));
  const chain = alike
    ? { ...upper, segments: upper.segments.map((s, k) => middlePiece(s, image.segments[k]!)) }
    : moved(upper, (p) => middleOf(p, nearestCorner(image, p)));
  let unlikeMm = 0;
  for (const s of upper.segments)
    for (const t of [0, 0.25, 0.5, 0.75]) {
      const p = pointAt(s, t);
      if (p.y < ON_AXIS_MM) continue;
      unlikeMm = Math.max(unlikeMm, Math.min(...image.segments.map((i) => nearestOn(i, p).distance)));
    }
  return { chain, unlikeMm };
}

const middleOf = (p: Vec2, q: Vec2): Vec2 => ({ x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 });

/** Whether two places can be two pictures of one. */
const isNear = (p: Vec2, q: Vec2): boolean => between(p, q) <= Math.max(3 * ON_AXIS_MM, UNLIKE * Math.abs(p.y));

/** The corner of the other half nearest to a place, or the place itself where none is near. */
function nearestCorner({ segments }: Chain, p: Vec2): Vec2 {
  const corners = [...segments.map((s) => s.from), segments[segments.length - 1]!.to];
  const best = corners.reduce((a, b) => (between(b, p) < between(a, p) ? b : a));
  return isNear(p, best) ? best : p;
}

/** Two pieces of a kind as the one in the middle. */
function middlePiece(a: Segment, b: Segment): Segment {
  const [from, to] = [middleOf(a.from, b.from), middleOf(a.to, b.to)];
  if (a.kind === 'arc') return { kind: 'arc', from, via: middleOf(pointAt(a, 0.5), pointAt(b, 0.5)), to };
  if (a.kind === 'curve' && b.kind === 'curve')
    return {
      kind: 'curve',
      from,
      handleFrom: middleOf(a.handleFrom, b.handleFrom),
      handleTo: middleOf(a.handleTo, b.handleTo),
      to,
    };
  return { kind: 'line', from, to };
}

/** Places near the axis brought onto it. */
const broughtToAxis = (chain: Traced): Traced =>
  moved(chain, (p) => (Math.abs(p.y) <= ON_AXIS_MM ? { x: p.x, y: 0 } : p));

/** A base that runs to the axis is made square to it where it is within this angle of that, degrees; else it stays as drawn. */
const SQUARE_DEG = 6;

/**
 * Lines that end on the axis and were drawn nearly square to it, square to it: of such a base only the rim is seen where it
 * is, and the end on the axis through it. Measured at a rim, its other end follows.
 */
function squareToAxis(chain: Traced): Traced {
  const segments = chain.segments.map((s) => ({ ...s }));
  segments.forEach((s, k) => {
    if (s.kind !== 'line') return;
    for (const [end, rim, beside] of [
      ['from', 'to', segments[k - 1]],
      ['to', 'from', segments[k + 1]],
    ] as const) {
      if (s[end].y !== 0 || !(s[rim].y > 0)) continue;
      const off = (Math.atan2(Math.abs(s[end].x - s[rim].x), s[rim].y) * 180) / Math.PI;
      // What goes on beyond the axis end, along it, goes on from where the base is now.
      if (off > SQUARE_DEG || (beside && beside[end === 'from' ? 'from' : 'to'].y !== 0)) continue;
      s[end] = { x: s[rim].x, y: 0 };
      if (beside) beside[end === 'from' ? 'to' : 'from'] = s[end];
    }
  });
  return { ...chain, segments };
}

/** Arcs of a body's cap are cut into curves that turn by at most this much, rad: they are off the circle by less than 1e-7 of its radius. */
const CAP_CURVE_RAD = Math.PI / 8;

/**
 * Arcs that end on the axis as what turns into a sound surface: about a centre on the axis where theirs lies nearly on it (a
 * ball's), else as curves. Turned as they are their circle crosses the axis, and whoever reads the body may take its far side.
 */
function capsOnAxis(chain: Traced): Traced {
  const segments: Segment[] = [];
  const from: number[] = [];
  chain.segments.forEach((s, k) => {
    const made = s.kind === 'arc' && (s.from.y === 0 || s.to.y === 0) ? capOf(s) : [s];
    segments.push(...made);
    from.push(...made.map(() => chain.from[k]!));
  });
  return { ...chain, segments, from };
}

function capOf(arc: Extract<Segment, { kind: 'arc' }>): Segment[] {
  const shape = arcShape(arc.from, arc.via, arc.to);
  if (!shape || shape.centre.y === 0) return [arc];
  const [end, rim] = arc.from.y === 0 ? [arc.from, arc.to] : [arc.to, arc.from];
  if (Math.abs(shape.centre.y) <= ON_AXIS_MM && rim.y > 0) {
    // As far from the end on the axis as from the rim.
    const x = (rim.x ** 2 + rim.y ** 2 - end.x ** 2) / (2 * (rim.x - end.x));
    const radius = Math.abs(end.x - x);
    const turn = Math.atan2(rim.y, rim.x - x) / 2 + (end.x < x ? Math.PI / 2 : 0);
    if (Number.isFinite(radius))
      return [{ ...arc, via: { x: x + radius * Math.cos(turn), y: Math.abs(radius * Math.sin(turn)) } }];
  }
  const count = Math.ceil(Math.abs(shape.sweep) / CAP_CURVE_RAD);
  const at = (n: number) => shape.startAngle + (shape.sweep * n) / count;
  const reach = (4 / 3) * Math.tan(shape.sweep / count / 4) * shape.radius;
  const on = (a: number): Vec2 => ({
    x: shape.centre.x + shape.radius * Math.cos(a),
    y: shape.centre.y + shape.radius * Math.sin(a),
  });
  return Array.from({ length: count }, (_, n): Segment => {
    const [a, b] = [at(n), at(n + 1)];
    const [p, q] = [n === 0 ? arc.from : on(a), n === count - 1 ? arc.to : on(b)];
    return {
      kind: 'curve',
      from: p,
      handleFrom: { x: p.x - reach * Math.sin(a), y: p.y + reach * Math.cos(a) },
      handleTo: { x: q.x + reach * Math.sin(b), y: q.y - reach * Math.cos(b) },
      to: q,
    };
  });
}

/** An open half closed: square to the axis from each end, and along it. A closed one stays as it is. */
function closedOnAxis(chain: Chain): { chain: Chain; closed: boolean } {
  if (chain.closed) return { chain, closed: false };
  const [start, end] = [chain.segments[0]!.from, chain.segments[chain.segments.length - 1]!.to];
  // A form that comes back to where it began needs no axis.
  if (between(start, end) < ONE_PLACE_MM) return { chain: { ...chain, closed: true }, closed: false };
  const corners: Vec2[] = [end, { x: end.x, y: 0 }, { x: start.x, y: 0 }, start];
  const added = corners.slice(1).flatMap((to, k): Segment[] => {
    const from = corners[k]!;
    return between(from, to) > NO_LENGTH_MM ? [{ kind: 'line', from, to }] : [];
  });
  const closed = end.y > 0 || start.y > 0;
  return { chain: { kind: 'chain', closed: true, segments: [...chain.segments, ...added] }, closed };
}
