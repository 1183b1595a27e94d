import { arcShape, type Vec2 } from '../geometry';
import { medianOf, type ResidualSink, solveLeastSquares } from '../numeric';

/** A piece between two joints, and how it is bent to begin with. */
export type PieceToFit =
  | { kind: 'line'; from: number; to: number }
  | { kind: 'arc'; from: number; to: number; via: Vec2 }
  | { kind: 'cubic'; from: number; to: number; handles: readonly [Vec2, Vec2] };

/** A place that lies on a piece, with its σ across it. */
export interface EdgePlace {
  piece: number;
  at: Vec2;
  sigma: number;
}

/** A place with the larger of its two σ. */
export interface Sure {
  at: Vec2;
  sigma: number;
  /** The smaller one. */
  least: number;
}

export interface PathFit {
  joints: readonly Sure[];
  /** What bends each piece: the middle of an arc, both handles of a curve, nothing of a line. */
  bends: readonly (readonly Sure[])[];
  /** Places that count, and how far they lie off, for each piece. */
  pieces: readonly { used: number; rms: number }[];
}

/** What lies further off than so many σ of its piece belongs to something else. */
const STRAY_SIGMAS = 3;
const ROUNDS = 4;
/** Joints that turn by less may be smooth, rad; one that is, is so within this, rad. */
const SMOOTH = { most: (9 * Math.PI) / 180, sigma: (0.25 * Math.PI) / 180 } as const;
/** Bends are held to where they began as weakly as this times a joint's own hold. */
const BEND_HOLD = 4;
/** Unknowns of a piece's two ends, before those of its bend. */
const ENDS = 4;
/** A derivative is the difference over this share of a σ. */
const STEP_SHARE = 0.05;

/**
 * Fits pieces with shared joints to places along them: lines, arcs by their sagitta, cubics by their handles.
 *
 * In: joints and bends to begin with, places on the pieces, σ to which each joint is held where it began (as widely as a
 * person may be off); lengths all in one unit. Out: where they lie now, with σ out of the covariance, which is widened by
 * the scatter of each piece's own places. Joints between pieces of which one is bent become smooth where they are within
 * their ±.
 * Degenerate: null where nothing holds a joint, or the descent fails.
 */
export function fitPath(
  joints: readonly Vec2[],
  pieces: readonly PieceToFit[],
  places: readonly EdgePlace[],
  hold: readonly number[],
): PathFit | null {
  const bendAt: number[] = [];
  let size = 2 * joints.length;
  for (const p of pieces) {
    bendAt.push(size);
    size += p.kind === 'line' ? 0 : p.kind === 'arc' ? 1 : 4;
  }
  const start = new Float64Array(size);
  for (const [k, { x, y }] of joints.entries()) start.set([x, y], 2 * k);
  for (const [k, p] of pieces.entries()) start.set(bendOf(p, joints), bendAt[k]!);
  const reads = pieces.map((p, k): number[] => [
    2 * p.from,
    2 * p.from + 1,
    2 * p.to,
    2 * p.to + 1,
    ...Array.from({ length: (bendAt[k + 1] ?? size) - bendAt[k]! }, (_, j) => bendAt[k]! + j),
  ]);
  // Joints, then bends, in the order of the unknowns.
  const holds = [
    ...joints.flatMap((_, j) => [hold[j]!, hold[j]!]),
    ...pieces.flatMap((p, k) => reads[k]!.slice(ENDS).map(() => BEND_HOLD * hold[p.from]!)),
  ];
  const offAt = ({ piece, at }: EdgePlace, v: Float64Array) => offPiece(pieces[piece]!.kind, own(v, reads[piece]!), at);

  let here = start;
  let covariance: Float64Array | null = null;
  let used: readonly EdgePlace[] = places;
  let widths = pieces.map(() => 1);
  // Of a piece that nothing was seen of, nobody knows which way it runs.
  const isSeen = (piece: number) => places.some((p) => p.piece === piece);
  let smooth = jointsOf(pieces).filter(
    (j) => isSeen(j.before) && isSeen(j.after) && Math.abs(turnAt(pieces, reads, here, j)) < SMOOTH.most,
  );
  for (let round = 0; round < ROUNDS; round++) {
    const counted = used;
    const solved = solveLeastSquares(
      {
        size,
        residuals(v, sink) {
          for (const place of counted)
            addRow(sink, reads[place.piece]!, v, place.sigma * widths[place.piece]!, (w) => offAt(place, w));
          for (const j of smooth) addRow(sink, j.reads(reads), v, SMOOTH.sigma, (w) => turnAt(pieces, reads, w, j));
          for (const [k, sigma] of holds.entries()) sink.add((v[k]! - start[k]!) / sigma, [k], [1 / sigma]);
          return true;
        },
      },
      here,
      { maxSteps: 30, smallestStep: 1e-4 },
    );
    if (!solved.ok) return null;
    here = Float64Array.from(solved.parameters);
    covariance = solved.covariance;
    const off = places.map((p) => Math.abs(offAt(p, here)) / p.sigma);
    widths = pieces.map((_, k) =>
      Math.max(
        1,
        1.4826 *
          medianOf(
            off.filter((__, n) => places[n]!.piece === k),
            0,
          ),
      ),
    );
    used = places.filter((p, n) => off[n]! <= STRAY_SIGMAS * widths[p.piece]!);
    smooth = smooth.filter((j) => Math.abs(turnAt(pieces, reads, here, j)) < STRAY_SIGMAS * SMOOTH.sigma);
  }
  const sure = (at: Vec2, k: number, move = 1): Sure => {
    const c = covariance!;
    const [a, b, d] = [c[k * size + k]!, c[k * size + k + 1]!, c[(k + 1) * size + k + 1]!];
    const apart = Math.hypot((a - d) / 2, b);
    const [most, least] = [(a + d) / 2 + apart, Math.max(0, (a + d) / 2 - apart)];
    return { at, sigma: move * Math.sqrt(most), least: move * Math.sqrt(least) };
  };
  const fitted = joints.map((_, k) => sure({ x: here[2 * k]!, y: here[2 * k + 1]! }, 2 * k));
  return {
    joints: fitted,
    bends: pieces.map((p, k): Sure[] => {
      const at = bendAt[k]!;
      if (p.kind === 'line') return [];
      if (p.kind === 'cubic') return [0, 2].map((j) => sure({ x: here[at + j]!, y: here[at + j + 1]! }, at + j));
      const sigma = Math.sqrt(covariance![at * size + at]!);
      return [{ at: middleOfArc(own(here, reads[k]!)), sigma, least: sigma }];
    }),
    pieces: pieces.map((_, k) => {
      const mine = used.filter((p) => p.piece === k);
      const squares = mine.reduce((sum, p) => sum + offAt(p, here) ** 2, 0);
      return { used: mine.length, rms: mine.length ? Math.sqrt(squares / mine.length) : 0 };
    }),
  };
}

const own = (v: Float64Array, at: readonly number[]): number[] => at.map((k) => v[k]!);

/** One residual with its differences by all that it reads. */
function addRow(
  sink: ResidualSink,
  at: readonly number[],
  v: Float64Array,
  sigma: number,
  off: (v: Float64Array) => number,
): void {
  const here = off(v);
  const step = STEP_SHARE * sigma;
  const slopes = at.map((k) => {
    const before = v[k]!;
    v[k] = before + step;
    const slope = (off(v) - here) / step;
    v[k] = before;
    return slope / sigma;
  });
  sink.add(here / sigma, at, slopes);
}

/** The sagitta of an arc, left of the way from end to end positive; the handles of a cubic. */
function bendOf(piece: PieceToFit, joints: readonly Vec2[]): number[] {
  if (piece.kind === 'line') return [];
  if (piece.kind === 'cubic') return piece.handles.flatMap(({ x, y }) => [x, y]);
  const [a, b] = [joints[piece.from]!, joints[piece.to]!];
  const arc = arcShape(a, piece.via, b);
  return [arc ? (-Math.hypot(b.x - a.x, b.y - a.y) / 2) * Math.tan(arc.sweep / 4) : 0];
}

function middleOfArc([ax, ay, bx, by, s]: readonly number[]): Vec2 {
  const [dx, dy] = [bx! - ax!, by! - ay!];
  const length = Math.hypot(dx, dy);
  return { x: (ax! + bx!) / 2 - (dy / length) * s!, y: (ay! + by!) / 2 + (dx / length) * s! };
}

/** How far a place lies to the left of a piece, by what bends it; to first order where it is curved. */
function offPiece(kind: PieceToFit['kind'], v: readonly number[], p: Vec2): number {
  const [ax, ay, bx, by] = v as [number, number, number, number];
  if (kind === 'cubic') return offCubic(v, p);
  const [dx, dy] = [bx - ax, by - ay];
  const length = Math.hypot(dx, dy);
  const x = ((p.x - (ax + bx) / 2) * dx + (p.y - (ay + by) / 2) * dy) / length;
  const y = ((p.y - ay) * dx - (p.x - ax) * dy) / length;
  if (kind === 'line') return y;
  // The circle through both ends and the top of the sagitta, times the sagitta: a line where that is nothing.
  const s = v[4]!;
  const quarter = (length * length) / 4;
  const value = s * (x * x + y * y - quarter) + (quarter - s * s) * y;
  return value / Math.hypot(2 * s * x, 2 * s * y + quarter - s * s);
}

/** Where to begin looking for the nearest place on a cubic, and how often it is bettered. */
const CUBIC = { starts: 9, steps: 4 } as const;

function offCubic(v: readonly number[], p: Vec2): number {
  const [ax, ay, bx, by, hx, hy, gx, gy] = v as [number, number, number, number, number, number, number, number];
  const at = (t: number, a: number, h: number, g: number, b: number) => {
    const u = 1 - t;
    return u * u * u * a + 3 * u * u * t * h + 3 * u * t * t * g + t * t * t * b;
  };
  const slope = (t: number, a: number, h: number, g: number, b: number) => {
    const u = 1 - t;
    return 3 * (u * u * (h - a) + 2 * u * t * (g - h) + t * t * (b - g));
  };
  let best = 0;
  let least = Number.POSITIVE_INFINITY;
  for (let k = 0; k < CUBIC.starts; k++) {
    const t = k / (CUBIC.starts - 1);
    const away = (at(t, ax, hx, gx, bx) - p.x) ** 2 + (at(t, ay, hy, gy, by) - p.y) ** 2;
    if (away < least) [least, best] = [away, t];
  }
  let t = best;
  for (let k = 0; k < CUBIC.steps; k++) {
    const [sx, sy] = [slope(t, ax, hx, gx, bx), slope(t, ay, hy, gy, by)];
    const along = (p.x - at(t, ax, hx, gx, bx)) * sx + (p.y - at(t, ay, hy, gy, by)) * sy;
    t = Math.min(1, Math.max(0, t + along / (sx * sx + sy * sy || 1)));
  }
  const [sx, sy] = [slope(t, ax, hx, gx, bx), slope(t, ay, hy, gy, by)];
  const speed = Math.hypot(sx, sy) || 1;
  return ((p.y - at(t, ay, hy, gy, by)) * sx - (p.x - at(t, ax, hx, gx, bx)) * sy) / speed;
}

interface Joint {
  before: number;
  after: number;
  reads(all: readonly (readonly number[])[]): number[];
}

/** Where a piece goes on from another, and one of them is bent. */
function jointsOf(pieces: readonly PieceToFit[]): Joint[] {
  return pieces.flatMap((p, before) =>
    pieces.flatMap((q, after): Joint[] => {
      if (before === after || p.to !== q.from || (p.kind === 'line' && q.kind === 'line')) return [];
      return [{ before, after, reads: (all) => [...new Set([...all[before]!, ...all[after]!])] }];
    }),
  );
}

/** By how much the way turns at a joint, rad. */
function turnAt(
  pieces: readonly PieceToFit[],
  reads: readonly (readonly number[])[],
  v: Float64Array,
  { before, after }: Joint,
): number {
  const [, end] = waysOf(pieces[before]!.kind, own(v, reads[before]!));
  const [begin] = waysOf(pieces[after]!.kind, own(v, reads[after]!));
  return Math.atan2(end.x * begin.y - end.y * begin.x, end.x * begin.x + end.y * begin.y);
}

/** The ways in which a piece begins and ends. */
function waysOf(kind: PieceToFit['kind'], v: readonly number[]): [Vec2, Vec2] {
  const [ax, ay, bx, by] = v as [number, number, number, number];
  const [dx, dy] = [bx - ax, by - ay];
  if (kind === 'line')
    return [
      { x: dx, y: dy },
      { x: dx, y: dy },
    ];
  if (kind === 'cubic') {
    const [hx, hy, gx, gy] = v.slice(4) as [number, number, number, number];
    return [
      { x: hx - ax, y: hy - ay },
      { x: bx - gx, y: by - gy },
    ];
  }
  const half = 2 * Math.atan2(2 * v[4]!, Math.hypot(dx, dy));
  const turned = (by2: number): Vec2 => ({
    x: dx * Math.cos(by2) - dy * Math.sin(by2),
    y: dx * Math.sin(by2) + dy * Math.cos(by2),
  });
  return [turned(half), turned(-half)];
}
