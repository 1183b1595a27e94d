import type { Ellipse } from '../../fit';
import { medianOf } from '../../numeric';
import type { Pixels } from '../../raster';
import { type ColourEdge, colourEdges } from '../shared/colourEdges';

/** A closed line round a disc's middle, of the disc's own form. */
export interface Ring {
  /** How large, as a share of the ellipse asked about. */
  share: number;
  /** Share of the directions in which it is seen. */
  seen: number;
  /** Usual change of colour across it. */
  contrast: number;
}

const SPOKES = 90;
/** From how far in to how far out rings are sought, as shares of the ellipse. */
const REACH = { from: 0.5, to: 1.5 } as const;
/** Edges this near to one another are of one ring, as a share of the ellipse: the two rims of a coin are. */
const ONE_RING = 0.022;
/** Rings nearer than this are told as one. */
const APART = 0.05;
const FEWEST_SEEN = 0.35;
/** Half length of the band along a ring that is averaged, px. */
const BAND_PX = 5;

/**
 * Every ring of the same form as an ellipse and about its middle: the rim of a coin, the boundary of its two metals, an
 * engraved circle. A shadow's edge is none: it lies off to one side. Only edges that `counts` takes are looked at.
 */
export function ringsAbout(
  pixels: Pixels,
  ellipse: Ellipse,
  counts: (edge: ColourEdge) => boolean = () => true,
): Ring[] {
  const all = Array.from({ length: SPOKES }, (_, k) => edgesAlong(pixels, ellipse, (2 * Math.PI * k) / SPOKES, counts));
  const shares = all.flat().map((e) => e.share);
  const seenAt = (share: number) => all.filter((s) => s.some((e) => Math.abs(e.share - share) < ONE_RING)).length;
  const candidates = [...new Set(shares.map((s) => Math.round(s / 0.005)))]
    .map((n) => ({ share: n * 0.005, count: seenAt(n * 0.005) }))
    .filter((c) => c.count >= FEWEST_SEEN * SPOKES)
    .sort((p, q) => q.count - p.count);
  const rings: Ring[] = [];
  for (const { share, count } of candidates) {
    if (rings.some((r) => Math.abs(r.share - share) < APART)) continue;
    const own = all.flatMap((s) => s.filter((e) => Math.abs(e.share - share) < ONE_RING));
    const usual = medianOf(own.map((e) => e.share));
    const contrast = medianOf(own.map((e) => e.contrast));
    rings.push({ share: usual, seen: count / SPOKES, contrast });
  }
  return rings.sort((p, q) => p.share - q.share);
}

/** The edges from the middle outwards, each with its distance as a share of the ellipse. */
function edgesAlong(
  pixels: Pixels,
  { x, y, a, b, turn }: Ellipse,
  t: number,
  counts: (edge: ColourEdge) => boolean,
): { share: number; contrast: number }[] {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const [p, q] = [a * Math.cos(t), b * Math.sin(t)];
  const [dx, dy] = [c * p - s * q, s * p + c * q];
  const length = Math.hypot(dx, dy);
  const middle = (REACH.from + REACH.to) / 2;
  const halfReach = ((REACH.to - REACH.from) / 2) * length;
  const found: ColourEdge[] = colourEdges(pixels, x + middle * dx, y + middle * dy, dx / length, dy / length, {
    reachPx: halfReach,
    halfLengthPx: Math.min(BAND_PX, 0.08 * length),
    bend: -1 / length,
  });
  return found.filter(counts).map((e) => ({ share: middle + e.offPx / length, contrast: e.contrast }));
}
