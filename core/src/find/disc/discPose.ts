import type { Ellipse } from '../../fit';
import { factorScaled, type Random, seededRandom, solveScaled } from '../../numeric';
import { type Crossings, crossingsOf, type DiscPose, type Pinhole, type Spoke } from './twoCircles';

/** An edge on a spoke: how far along it, px, and how much its voice counts, 0 to 1. */
export interface Candidate {
  along: number;
  weight: number;
}

/** A pose with what speaks for it. */
export interface JudgedPose {
  pose: DiscPose;
  /** How much speaks for it in all: evidence of both circles, less what is unlikely in itself. */
  merit: number;
  /** Evidence of the upper rim alone: 1 where each direction shows it clearly where the pose has it. */
  upper: number;
  /** How much more often an edge lies where the foot should be than a little outside of there; null where it hides. */
  footBeyondChance: number | null;
}

export interface PoseSearch {
  spokes: readonly Spoke[];
  /** By spoke. */
  candidates: readonly (readonly Candidate[])[];
  camera: Pinhole;
  /** The ring that was found, px. */
  ring: Ellipse;
  /** Thickness in radii, and its σ. */
  thickness: { mean: number; sigma: number };
}

/** Widths within which an edge is taken for a circle's, px, from first to last; wider for large discs. */
const WIDTHS = [6, 4, 2.5, 1.6, 1] as const;
const JUDGED_PX = 1.2;
/** The foot counts where it lies so far outside the upper rim, px. */
export const APART_PX = 2.5;
/** So much evidence of the foot, as a share of where it must show, is there by chance. */
const BY_CHANCE = 0.25;
/** Against the ring found a pose is at least and at most so large. */
const SIZE = { from: 0.94, to: 1.05 } as const;
/** Tables are looked at from above: σ of a tilt, and how much that counts. */
const TILT_SIGMA = 0.35;
const TILT_SHARE = 1 / 30;

const LEAST_TILT_STEP = 0.07;
const STARTS = 30;
/** The ring found may be the upper rim, the line of light inside it, or both rims at once. */
const SIZES = [0.965, 0.985, 1.005] as const;

/** The likeliest poses of a disc by the edges about its rim, best first, each a place of its own. */
export function posesOf(search: PoseSearch): JudgedPose[] {
  const judge = new Judge(search);
  const random = seededRandom(17);
  const rough = tiltsAround().flatMap((tilt) => SIZES.map((size) => judge.roughly(laidOn(search, tilt, size))));
  rough.sort((p, q) => q.merit - p.merit);
  const found: JudgedPose[] = [];
  const settle = (pose: DiscPose) => {
    const settled = judge.settled(pose);
    if (settled) addDistinct(found, settled);
  };
  for (const { pose } of rough.slice(0, STARTS)) settle(pose);
  found.sort((p, q) => q.merit - p.merit);
  for (const { pose } of found.slice(0, 3)) for (let k = 0; k < 6; k++) settle(shaken(pose, random));
  return found.sort((p, q) => q.merit - p.merit);
}

function tiltsAround(): [number, number][] {
  const tilts: [number, number][] = [[0.005, 0.005]];
  for (let tilt = LEAST_TILT_STEP; tilt < 0.75; tilt += LEAST_TILT_STEP) {
    const count = Math.max(6, Math.round((2 * Math.PI * tilt) / LEAST_TILT_STEP));
    for (let k = 0; k < count; k++) {
      const t = (2 * Math.PI * k) / count;
      tilts.push([tilt * Math.cos(t), tilt * Math.sin(t)]);
    }
  }
  return tilts;
}

const shaken = (pose: DiscPose, random: Random): DiscPose => {
  const by = (most: number) => most * (2 * random() - 1);
  return { ...pose, a: pose.a + by(0.09), b: pose.b + by(0.09), x: pose.x + by(0.02), y: pose.y + by(0.02) };
};

/** Poses whose tilts differ by less are one. */
const ONE_POSE = 0.035;

function addDistinct(found: JudgedPose[], one: JudgedPose): void {
  const twin = found.findIndex((p) => Math.hypot(p.pose.a - one.pose.a, p.pose.b - one.pose.b) < ONE_POSE);
  if (twin < 0) found.push(one);
  else if (found[twin]!.merit < one.merit) found[twin] = one;
}

/** A disc of a tilt where the ring is and as large: the place by where its middle is seen, the distance by its size. */
function laidOn(
  { camera: { cPx, u0, v0 }, ring, thickness }: PoseSearch,
  [a, b]: readonly [number, number],
  size: number,
): DiscPose {
  const sizePx = size * Math.sqrt(ring.a * ring.b);
  const pose: DiscPose = { a, b, lnD: Math.log(cPx / sizePx), x: 0, y: 0, thickness: thickness.mean };
  const spokes: Spoke[] = Array.from({ length: 24 }, (_, k) => {
    const t = (2 * Math.PI * k) / 24;
    return { at: { x: ring.x, y: ring.y }, out: { x: Math.cos(t), y: Math.sin(t) } };
  });
  const seen: Crossings = { upper: new Float64Array(24), foot: new Float64Array(24) };
  for (let round = 0; round < 6; round++) {
    crossingsOf(pose, { cPx, u0, v0 }, spokes, seen);
    if (seen.upper.some((r) => !(r > 0))) {
      // The middle is not inside yet: go there along the ray of the ring's middle.
      const distance = Math.exp(pose.lnD);
      pose.x = ((ring.x - u0) / cPx) * distance;
      pose.y = (-(ring.y - v0) / cPx) * distance;
      continue;
    }
    let [du, dv, area] = [0, 0, 0];
    for (let k = 0; k < 24; k++) {
      du += (seen.upper[k]! * spokes[k]!.out.x) / 12;
      dv += (seen.upper[k]! * spokes[k]!.out.y) / 12;
      area += seen.upper[k]! ** 2 / 24;
    }
    pose.lnD += Math.log(Math.sqrt(area) / sizePx);
    pose.x -= du / sizePx;
    pose.y += dv / sizePx;
  }
  return pose;
}

const KEYS = ['a', 'b', 'lnD', 'x', 'y', 'thickness'] as const;
const STEP = 1e-5;

class Judge {
  private readonly search: PoseSearch;
  private readonly at: Crossings;
  private readonly moved: Crossings[];
  private readonly sizePx: number;

  constructor(search: PoseSearch) {
    this.search = search;
    const room = () => ({
      upper: new Float64Array(search.spokes.length),
      foot: new Float64Array(search.spokes.length),
    });
    this.at = room();
    this.moved = KEYS.map(room);
    this.sizePx = Math.sqrt(search.ring.a * search.ring.b);
  }

  roughly(pose: DiscPose): { pose: DiscPose; merit: number } {
    this.see(pose);
    return { pose, merit: this.merit(pose, Math.max(WIDTHS[0], 0.02 * this.sizePx)).merit };
  }

  /** By each spoke the best edge of each circle, the pose nearest to them, and the same again with narrower eyes. */
  settled(start: DiscPose): JudgedPose | null {
    let pose = start;
    for (const width of WIDTHS)
      for (let round = 0; round < 3; round++) {
        const next = this.step(pose, width);
        if (!next) return null;
        pose = next;
      }
    this.see(pose);
    if (!this.isLikeRing()) return null;
    const { merit, upper } = this.merit(pose, JUDGED_PX);
    return { pose, merit, upper, footBeyondChance: this.beyondChance() };
  }

  private see(pose: DiscPose, into: Crossings = this.at): void {
    crossingsOf(pose, this.search.camera, this.search.spokes, into);
  }

  private isLikeRing(): boolean {
    // Spokes begin on the ring.
    const off = [...this.at.upper].filter((s) => !Number.isNaN(s));
    const share = 1 + off.reduce((sum, s) => sum + s, 0) / Math.max(1, off.length) / this.sizePx;
    return share > SIZE.from && share < SIZE.to;
  }

  private merit(pose: DiscPose, width: number): { merit: number; upper: number } {
    const { spokes, candidates, thickness } = this.search;
    let [upper, foot] = [0, 0];
    for (let k = 0; k < spokes.length; k++) {
      const [u, f] = [this.at.upper[k]!, this.at.foot[k]!];
      const own = best(candidates[k]!, u, width, -1);
      upper += own.merit;
      if (f - u > APART_PX) foot += best(candidates[k]!, f, width, own.index).merit - BY_CHANCE;
    }
    const tilt = (pose.a ** 2 + pose.b ** 2) / (TILT_SIGMA * TILT_SIGMA);
    const thick = ((pose.thickness - thickness.mean) / thickness.sigma) ** 2;
    const merit = (upper + foot) / spokes.length - TILT_SHARE * (tilt + thick / 4);
    return { merit, upper: upper / spokes.length };
  }

  private beyondChance(): number | null {
    const { spokes, candidates } = this.search;
    const hits = (shift: number) => {
      let [hit, all] = [0, 0];
      for (let k = 0; k < spokes.length; k++) {
        const [u, f] = [this.at.upper[k]!, this.at.foot[k]!];
        if (!(f - u > APART_PX)) continue;
        const own = best(candidates[k]!, u, 2, -1).index;
        all += 1;
        if (candidates[k]!.some((c, j) => j !== own && Math.abs(c.along - f - shift) < 1.5)) hit += 1;
      }
      return { share: all ? hit / all : 0, all };
    };
    const here = hits(0);
    if (here.all < LEAST_FOOT) return null;
    return here.share - (hits(5).share + hits(8).share + hits(11).share) / 3;
  }

  /** One damped Gauss-Newton step on the edges taken. */
  private step(pose: DiscPose, width: number): DiscPose | null {
    const { spokes, candidates, thickness } = this.search;
    this.see(pose);
    for (const [j, key] of KEYS.entries()) this.see({ ...pose, [key]: pose[key] + STEP }, this.moved[j]!);
    const n = KEYS.length;
    const normal = new Float64Array(n * n);
    // The gradient.
    const gradient = new Float64Array(n);
    const add = (off: number, slopes: readonly number[], weight: number) => {
      for (let i = 0; i < n; i++) {
        gradient[i]! -= weight * slopes[i]! * off;
        for (let j = 0; j < n; j++) normal[i * n + j]! += weight * slopes[i]! * slopes[j]!;
      }
    };
    let taken = 0;
    for (let k = 0; k < spokes.length; k++) {
      const [u, f] = [this.at.upper[k]!, this.at.foot[k]!];
      if (Number.isNaN(u)) continue;
      const own = best(candidates[k]!, u, width, -1);
      if (own.index >= 0) {
        taken += 1;
        const slopes = this.moved.map((m) => (m.upper[k]! - u) / STEP);
        if (slopes.every(Number.isFinite)) add(candidates[k]![own.index]!.along - u, slopes, own.merit / width ** 2);
      }
      if (!(f - u > APART_PX)) continue;
      const wall = best(candidates[k]!, f, width, own.index);
      if (wall.index < 0) continue;
      const slopes = this.moved.map((m) => (m.foot[k]! - f) / STEP);
      if (slopes.every(Number.isFinite)) add(candidates[k]![wall.index]!.along - f, slopes, wall.merit / width ** 2);
    }
    if (taken < spokes.length / 4) return null;
    const prior = (at: number, off: number, sigma: number) => {
      gradient[at]! -= off / sigma ** 2;
      normal[at * n + at]! += 1 / sigma ** 2;
    };
    prior(0, -pose.a, TILT_SIGMA);
    prior(1, -pose.b, TILT_SIGMA);
    prior(5, thickness.mean - pose.thickness, thickness.sigma);
    const factors = new Float64Array(n * n);
    const scale = factorScaled({ matrix: normal, gradient, cost: 0 }, DAMPING, factors);
    if (!scale) return null;
    const move = new Float64Array(n);
    solveScaled(factors, scale, gradient, move);
    const tilt = Math.hypot(move[0]!, move[1]!);
    const share = Math.min(1, MOST_TURN / tilt);
    const next = { ...pose };
    for (const [k, key] of KEYS.entries()) next[key] += share * move[k]!;
    next.thickness = Math.max(0.005, next.thickness);
    return Math.hypot(next.a, next.b) < 1.1 ? next : null;
  }
}

const LEAST_FOOT = 8;
const MOST_TURN = 0.12;
const DAMPING = 1e-3;

const none = { merit: 0, index: -1 };

/** The edge that speaks most for a crossing there, one left out. */
function best(
  edges: readonly Candidate[],
  at: number,
  width: number,
  leftOut: number,
): { merit: number; index: number } {
  let found = none;
  for (let k = 0; k < edges.length; k++) {
    if (k === leftOut) continue;
    const off = (edges[k]!.along - at) / width;
    if (off > 3 || off < -3) continue;
    const merit = edges[k]!.weight * Math.exp(-0.5 * off * off);
    if (merit > found.merit) found = { merit, index: k };
  }
  return found;
}
