import type { PicturePoint, PixelPick } from '../../calibration';
import { type Ellipse, fitEllipse, offEllipse } from '../../fit';
import { medianOf } from '../../numeric';
import type { Pixels } from '../../raster';
import { type CoarseColours, coarseColoursOf } from '../shared/coarse';
import { colourEdges } from '../shared/colourEdges';
import { type Concentric, centresAnywhere, concentricAbout, MOST_RADIUS, rimOf } from './concentric';
import { APART_PX, type Candidate, type JudgedPose, posesOf } from './discPose';
import { edgePixelsIn } from './edgePixels';
import { bandOf, rimPlaces } from './rim';
import { crossingsOf, type Pinhole, type Spoke } from './twoCircles';

/** What is known beforehand of the picture and the disc. */
export interface CoinHints {
  /** The camera constant, px; a phone's if nothing is said. */
  cPx?: number;
  /** Thickness over radius, where it is known. */
  thickness?: number;
}

/** One reading of a coin's edges: its upper rim, and the foot of its wall where it shows. */
interface CoinReading {
  rim: PixelPick[];
  foot: PixelPick[];
  ellipse: Ellipse;
  /** Share of the directions in which the upper rim is seen. */
  seen: number;
  /** The upper rim runs to and fro: its places scatter by more than a clean one's do. */
  isUneven: boolean;
}

export interface CoinFound extends CoinReading {
  /** The foot of its wall is seen where it should be, so that both circles speak for the pose. */
  showsFoot: boolean;
  /** The next likely way in which it may lie, where the edges do not tell which of both it is. */
  opposite: CoinReading | null;
}

/** Thickness of a disc over its radius when nothing is said: of coins, washers and plates. */
const THICKNESS = { mean: 0.155, sigma: 0.03 } as const;
const KNOWN_SIGMA = 0.02;
/** Camera constant over the diagonal when nothing is said: a phone's main camera. */
const USUAL_C = 0.62;

/** Edges are looked for from so far inside the ring to so far outside, as shares of its size. */
const REACH = { in: 0.09, out: 0.13 } as const;
/** A rounded rim's edge is softer than a sharp one: fallen off within so much, px. */
const SOFT_PX = 6;

/** Two poses whose merits differ by less are not told apart by them. */
const RIVAL = 0.06;
/** The foot counts as seen from so much beyond chance on. */
const FOOT_SEEN = 0.15;
/** And the upper rim as the pose has it, as a share of the directions, by how near and how clear. */
const UPPER_SEEN = 0.75;
/** And both circles together explain so much. */
const MERIT_SEEN = 0.86;

/**
 * A coin about a click: the family of rings that its edges lie on, then the pose in which its upper rim and the foot of its
 * wall, as two circles, explain the edges about the outermost ring best. What is on its face decides nothing, and an edge of
 * both circles is never taken for one ellipse.
 *
 * Out: null where no ring about the click is seen nearly all round.
 */
export const findCoin = (pixels: Pixels, click: PicturePoint, hints: CoinHints = {}): CoinFound | null =>
  coinAbout(pixels, coarseColoursOf(pixels), click, hints);

function coinAbout(pixels: Pixels, coarse: CoarseColours, click: PicturePoint, hints: CoinHints): CoinFound | null {
  const ring = ringAbout(coarse, click);
  if (!ring || Math.min(ring.a, ring.b) < LEAST_PX) return null;
  const { spokes, candidates, picks } = edgesAbout(pixels, ring);
  const camera: Pinhole = {
    cPx: hints.cPx ?? USUAL_C * Math.hypot(pixels.width, pixels.height),
    u0: pixels.width / 2,
    v0: pixels.height / 2,
  };
  const thickness = hints.thickness === undefined ? THICKNESS : { mean: hints.thickness, sigma: KNOWN_SIGMA };
  const poses = posesOf({ spokes, candidates, camera, ring, thickness });
  const [likeliest, next] = poses;
  if (!likeliest) return null;
  const reading = (judged: JudgedPose) => readingOf(judged, spokes, picks, camera);
  const found = reading(likeliest);
  if (!found) return null;
  const isSure =
    likeliest.footBeyondChance !== null &&
    likeliest.footBeyondChance >= FOOT_SEEN &&
    likeliest.upper >= UPPER_SEEN &&
    likeliest.merit >= MERIT_SEEN;
  const opposite = next && !isSure && likeliest.merit - next.merit < RIVAL ? reading(next) : null;
  // What does not tell which way it is tilted must not lean on where the foot would be.
  if (!isSure) found.foot = [];
  if (opposite) opposite.foot = [];
  return { ...found, showsFoot: isSure, opposite };
}

/**
 * Coins of a whole picture: about the places that most edges point at, those of which both the rim and the foot of the wall
 * are seen. A hole has no foot outside its rim, and is never one.
 */
export function findCoins(pixels: Pixels, hints: CoinHints = {}): CoinFound[] {
  const coarse = coarseColoursOf(pixels);
  const { width, height, step } = coarse;
  const edges = edgePixelsIn(coarse, { left: 0, top: 0, right: width, bottom: height });
  const found: CoinFound[] = [];
  for (const { x, y } of centresAnywhere(edges, Math.max(width, height))) {
    const isKnown = found.some(({ ellipse: e }) => Math.hypot(e.x - x * step, e.y - y * step) < e.b);
    const coin = isKnown ? null : coinAbout(pixels, coarse, { uPx: x * step, vPx: y * step }, hints);
    if (coin?.showsFoot) found.push(coin);
  }
  return found;
}

/** Smaller rings are left to the finder of small discs, px. */
const LEAST_PX = 40;

function ringAbout(coarse: CoarseColours, click: PicturePoint): Ellipse | null {
  const at = { x: click.uPx / coarse.step, y: click.vPx / coarse.step };
  const reach = 2 * MOST_RADIUS;
  const edges = edgePixelsIn(coarse, {
    left: Math.floor(at.x - reach),
    top: Math.floor(at.y - reach),
    right: Math.ceil(at.x + reach),
    bottom: Math.ceil(at.y + reach),
  });
  const family: Concentric | null = concentricAbout(edges, at);
  const rim = family && rimOf(family);
  if (!rim) return null;
  const { step } = coarse;
  return { x: rim.x * step, y: rim.y * step, a: rim.a * step, b: rim.b * step, turn: rim.turn };
}

interface Edges {
  spokes: Spoke[];
  candidates: Candidate[][];
  picks: PixelPick[][];
}

function edgesAbout(pixels: Pixels, ring: Ellipse): Edges {
  const size = Math.sqrt(ring.a * ring.b);
  const middle = ((REACH.out - REACH.in) / 2) * size;
  const reachPx = ((REACH.out + REACH.in) / 2) * size;
  const places = rimPlaces(ring);
  const found = places.map(({ at, normal, bend }) =>
    colourEdges(pixels, at.x + middle * normal.x, at.y + middle * normal.y, normal.x, normal.y, {
      reachPx,
      halfLengthPx: bandOf(ring),
      bend,
      sharpWithinPx: SOFT_PX,
    }),
  );
  const clearest = found.flatMap((s) => (s.length ? [Math.max(...s.map((e) => e.contrast))] : []));
  const usual = medianOf(clearest, 1);
  return {
    spokes: places.map(({ at, normal }) => ({ at, out: normal })),
    candidates: found.map((s) =>
      s.map((e) => ({ along: e.offPx + middle, weight: Math.min(1, 0.35 + (0.65 * e.contrast) / usual) })),
    ),
    picks: found.map((s, k) =>
      s.map((e) => ({
        uPx: places[k]!.at.x + (e.offPx + middle) * places[k]!.normal.x,
        vPx: places[k]!.at.y + (e.offPx + middle) * places[k]!.normal.y,
        sigmaPx: e.sigmaPx,
      })),
    ),
  };
}

/** An edge is a circle's within so much of where the pose has it, px, or a share of its size. */
const TAKEN = { px: 1.5, share: 0.006 } as const;
const FEWEST_RIM = 40;

function readingOf({ pose }: JudgedPose, spokes: Spoke[], picks: PixelPick[][], camera: Pinhole): CoinReading | null {
  const crossings = { upper: new Float64Array(spokes.length), foot: new Float64Array(spokes.length) };
  crossingsOf(pose, camera, spokes, crossings);
  const rim: PixelPick[] = [];
  const foot: PixelPick[] = [];
  for (const [k, { at, out }] of spokes.entries()) {
    const along = picks[k]!.map((p) => (p.uPx - at.x) * out.x + (p.vPx - at.y) * out.y);
    const [u, f] = [crossings.upper[k]!, crossings.foot[k]!];
    const near = Math.max(TAKEN.px, TAKEN.share * camera.cPx * Math.exp(-pose.lnD));
    const own = nearest(along, u, near);
    if (own >= 0) rim.push(picks[k]![own]!);
    if (!(f - u > APART_PX)) continue;
    const wall = nearest(along, f, near);
    if (wall >= 0 && wall !== own && Math.abs(along[wall]! - f) < Math.abs(along[wall]! - u))
      foot.push(picks[k]![wall]!);
  }
  const ellipse = rim.length >= FEWEST_RIM ? fitEllipse(rim.map((p) => ({ x: p.uPx, y: p.vPx }))) : null;
  if (!ellipse) return null;
  const scatter = scatterOf(rim, ellipse);
  const isUneven = scatter > UNEVEN_PX;
  return {
    rim: isUneven ? rim.map((p) => ({ ...p, sigmaPx: Math.hypot(p.sigmaPx, scatter) })) : rim,
    foot,
    ellipse,
    seen: rim.length / spokes.length,
    isUneven,
  };
}

/** From one place to the next a rim's places differ by less, σ, px, whatever they have in common. */
const UNEVEN_PX = 1;

function scatterOf(rim: readonly PixelPick[], ellipse: Ellipse): number {
  const off = rim.map((p) => offEllipse(ellipse, { x: p.uPx, y: p.vPx }));
  const jumps = off.map((d, k) => Math.abs(d - off[(k + 1) % off.length]!));
  return (1.4826 / Math.SQRT2) * medianOf(jumps);
}

function nearest(along: readonly number[], at: number, within: number): number {
  let best = -1;
  for (const [k, place] of along.entries()) {
    const off = Math.abs(place - at);
    if (off < within && (best < 0 || off < Math.abs(along[best]! - at))) best = k;
  }
  return best;
}
