import { cutPatch, type Derivatives, derivativesAt, differentiate, type Patch, type Pixels } from '../raster';
import { asLight, cutColours, directionAcross, FAR_SHARE, LUMINANCE, seekColourEdge, type Weights } from './colours';
import { type BandFit, type FittedStep, fitBand } from './fitBand';
import { fitParabola, type Parabola } from './fitCurve';
import { fitEdge, SOFTEST_PX } from './fitEdge';
import { narrowed, offsetOf, type Profile, readProfile, type Seat } from './profile';
import { LEAST_GAP_PX, stepsAlong } from './steps';

/** A place located in a picture to a fraction of a pixel. */
export interface Located extends Seat {
  /** Between two brightnesses, or along the middle of a thin line. */
  kind: 'edge' | 'line';
  /** One standard deviation across, px. */
  sigmaPx: number;
  /** Blur of the edge, or half width of the line, px. */
  blurPx: number;
  /** Height of the step or depth of the line in linear light, 0 to 1. */
  contrast: number;
  /** For a line: darker than its ground. */
  dark: boolean;
  /** Bend of the edge, 1/px: positive towards the normal. */
  bend: number;
  /** Rows along it that carried the estimate. */
  rows: number;
}

export interface LocateOptions {
  /** How far from the place asked an edge is looked for, px. */
  searchPx?: number;
  /** Half length along the edge over which it is averaged, px. */
  halfLengthPx?: number;
  /** Half length of the profile across it, px. */
  reachPx?: number;
  /** Smallest step taken for an edge, linear light. */
  leastContrast?: number;
}

export const LOCATE = { searchPx: 10, halfLengthPx: 12, reachPx: 6, leastContrast: 0.012 } as const;

/** Scale at which edges are sought, σ px: above the noise of single pixels, below the distance of ruler strokes. */
const SEEK_SIGMA_PX = 1.4;
/** Cameras differ in their tone curve; what that shifts an edge, and what no model here holds, px. */
const MODEL_SIGMA_PX = 0.03;
/** A row whose centre lies further than this from its neighbours' curve follows something else, px. */
const STRAY_ROW_PX = 1.2;
const FEWEST_ROWS = 5;

/**
 * The edge nearest to a place, by the centre of the blurred step fitted to samples averaged along its own curve.
 *
 * In: colour pixels and a place in px; out: the place on the edge nearest to it, with σ.
 * Degenerate: no edge within reach, or one too weak or too short, gives null.
 * Source: docs/measurement.md; the inward shift of a blurred curved edge, s²/2R, is taken out.
 */
export function locateEdge(pixels: Pixels, uPx: number, vPx: number, options: LocateOptions = {}): Located | null {
  return locate(pixels, uPx, vPx, 'edge', options);
}

/** The thin line nearest to a place, at its middle: an engraved stroke or an ink line. As `locateEdge` otherwise. */
export function locateLine(pixels: Pixels, uPx: number, vPx: number, options: LocateOptions = {}): Located | null {
  return locate(pixels, uPx, vPx, 'line', options);
}

/** Edges nearly parallel to the one located belong to it: sine of 20°. */
const PARALLEL = Math.sin(Math.PI / 9);
const MOST_APART_PX = 40;
/** The nearest ones only; and what is softer is the rim of a shadow, not an edge. */
const MOST_BESIDE = 4;
const SOFTEST_BESIDE_PX = 4;
/** What smoothing takes from the ends of a profile, px. */
const SMOOTHED_PX = 2;
/** Further than where an edge is followed its neighbours are looked for, px. */
const BESIDE_PX = 6;

/**
 * The edge nearest to a place, and what runs along it close by, each located by itself: the foot of a thick part beside
 * its face edge, the other rim of a hole, the second line of a chamfer. None is averaged into another.
 *
 * As `locateEdge`; out: that edge first, then the others within the search, nearest first; empty where there is none.
 */
export function locateEdges(pixels: Pixels, uPx: number, vPx: number, options: LocateOptions = {}): Located[] {
  const wanted = { ...LOCATE, ...options };
  const settled = settleEdge(pixels, uPx, vPx, wanted);
  if (!settled) return [];
  return gather(pixels, settled.own, settled.beside, wanted, settled.weights);
}

/** What runs along an edge that was located, within the search; as `locateEdges`, without that edge itself. */
export function edgesBeside(pixels: Pixels, edge: Located, options: LocateOptions = {}): Located[] {
  return gather(pixels, edge, [], { ...LOCATE, ...options }, LUMINANCE).slice(1);
}

function gather(
  pixels: Pixels,
  own: Located,
  beside: Located[],
  wanted: Required<LocateOptions>,
  weights: Weights,
): Located[] {
  const found = [own, ...beside];
  const reachPx = Math.min(MOST_APART_PX, wanted.searchPx);
  const across = Math.hypot(reachPx + wanted.reachPx, wanted.halfLengthPx);
  const colours = cutColours(pixels, own.uPx, own.vPx, across + BESIDE_PX + 2);
  if (!colours) return found;
  // What runs beside an edge of colour may be one of brightness alone, such as a shadow's.
  for (const by of weights === LUMINANCE ? [LUMINANCE] : [weights, LUMINANCE]) {
    const wide = asLight(colours, by);
    const profile = readProfile(wide, own, reachPx + SMOOTHED_PX, wanted.halfLengthPx);
    const rows = profile.rows.map((_, k) => k);
    if (rows.length < FEWEST_ROWS) return found;
    const along = (t: number) => (own.bend / 2) * t * t;
    for (const { offsetPx, rise } of stepsAlong(profile, rows, along, wanted.leastContrast).slice(0, MOST_BESIDE)) {
      const at = { uPx: own.uPx + offsetPx * Math.cos(own.normal), vPx: own.vPx + offsetPx * Math.sin(own.normal) };
      if (!isNew(found, at)) continue;
      // Each is followed from its own dark to its own light.
      const normal = own.normal + (rise < 0 ? Math.PI : 0);
      const other = settle(wide, { ...at, normal, bend: own.bend }, 'edge', wanted, at.uPx, at.vPx, false)?.own;
      if (!other || other.blurPx > SOFTEST_BESIDE_PX) continue;
      if (Math.abs(Math.sin(other.normal - own.normal)) < PARALLEL && isNew(found, other)) found.push(other);
    }
  }
  const away = (e: Located) => Math.hypot(e.uPx - own.uPx, e.vPx - own.vPx);
  return found.sort((a, b) => away(a) - away(b));
}

const isNew = (found: readonly Located[], at: { uPx: number; vPx: number }): boolean =>
  found.every((e) => Math.hypot(e.uPx - at.uPx, e.vPx - at.vPx) > LEAST_GAP_PX);

/** Depth in linear light from which a dark line is a stroke that was meant: engraving and ink reach three times that. */
const CLEAR_GRADUATION = 0.1;

/**
 * A graduation or an ink line where a clear one is near, else an edge, else whatever line there is. A bright line is
 * more often a worn rim or a scratch than a graduation, so an edge comes before it.
 */
export function locateGraduation(
  pixels: Pixels,
  uPx: number,
  vPx: number,
  options: LocateOptions = {},
): Located | null {
  const line = locateLine(pixels, uPx, vPx, options);
  if (line?.dark && line.contrast >= CLEAR_GRADUATION) return line;
  return locateEdge(pixels, uPx, vPx, options) ?? line;
}

function locate(
  pixels: Pixels,
  uPx: number,
  vPx: number,
  kind: Located['kind'],
  options: LocateOptions,
): Located | null {
  const wanted = { ...LOCATE, ...options };
  if (kind === 'edge') return settleEdge(pixels, uPx, vPx, wanted)?.own ?? null;
  const patch = cutPatch(pixels, uPx, vPx, wanted.searchPx + wanted.halfLengthPx + wanted.reachPx + BESIDE_PX);
  const seat = patch && seekLine(patch, differentiate(patch, SEEK_SIGMA_PX), uPx, vPx, wanted.searchPx);
  return (patch && seat && settle(patch, seat, kind, wanted, uPx, vPx)?.own) ?? null;
}

/** A place to begin with, and how much an edge seems to bend there, 1/px. */
interface Rough extends Seat {
  bend: number;
}

/** How an edge bends where it was found: lines of equal light round a hole are circles, however blurred it is. */
function bendAt(patch: Patch, { uPx, vPx }: Seat): number {
  const at = derivativesAt(patch, Math.floor(uPx) - patch.left, Math.floor(vPx) - patch.top, SEEK_SIGMA_PX);
  const size = at && Math.hypot(at.byX, at.byY);
  if (!at || !size) return 0;
  const [x, y] = [at.byX / size, at.byY / size];
  return (y * y * at.byXX - 2 * x * y * at.byXY + x * x * at.byYY) / size;
}

/**
 * From this share on brightness is taken for what tells both sides apart: it is as sharp as the lens makes it, while a
 * file keeps differences of colour at half the size.
 */
const BY_BRIGHTNESS = 0.25;

/** An edge that was settled, what was fitted along with it, and the light in which it was. */
interface Settled {
  own: Located;
  beside: Located[];
  weights: Weights;
}

/**
 * The edge nearest to a place, in brightness where that tells both sides apart, else in the colour in which they differ
 * most against the noise.
 */
function settleEdge(pixels: Pixels, uPx: number, vPx: number, wanted: Required<LocateOptions>): Settled | null {
  const reach = wanted.searchPx + wanted.halfLengthPx + wanted.reachPx + BESIDE_PX;
  const colours = cutColours(pixels, uPx, vPx, reach);
  const seat = colours && seekColourEdge(colours, uPx, vPx, wanted.searchPx, SEEK_SIGMA_PX);
  if (!colours || !seat) return null;
  const step = directionAcross(colours, seat);
  const ways: Weights[] = !step
    ? [LUMINANCE]
    : step.byBrightness >= BY_BRIGHTNESS
      ? [LUMINANCE, step.weights]
      : [step.weights, LUMINANCE];
  const settleBy = (weights: Weights): Settled | null => {
    const patch = asLight(colours, weights);
    const own = seekColourEdge({ ...patch, channels: [patch.light] }, uPx, vPx, wanted.searchPx, SEEK_SIGMA_PX, [1]);
    // In one light a stronger edge may be found further off: the one that was meant stays.
    const from = own && Math.hypot(own.uPx - seat.uPx, own.vPx - seat.vPx) < ONE_EDGE_PX ? own : seat;
    const settled = settle(patch, { ...from, bend: bendAt(patch, from) }, 'edge', wanted, uPx, vPx);
    if (!settled || weights === LUMINANCE) return settled && { ...settled, weights };
    const sigmaPx = Math.hypot(settled.own.sigmaPx, COLOUR_SIGMA_PX * (1 - (step?.byBrightness ?? 0)));
    return { ...settled, own: { ...settled.own, sigmaPx }, weights };
  };
  const [first, second] = ways;
  const best = settleBy(first!);
  if (best && first === LUMINANCE) return best;
  const other = second ? settleBy(second) : null;
  return best && other ? weighed(best, other) : (best ?? other);
}

/** Places further apart are two edges, not two opinions of one, px. */
const ONE_EDGE_PX = 3;
/** Files keep differences of colour at half the size, and cameras fill them in: what that shifts an edge by, px. */
const COLOUR_SIGMA_PX = 0.15;

/**
 * An edge by its colour, held against the same by brightness: a wall has its face's hue, a shadow its ground's, so that
 * both may lie beside the edge that is meant. Where they agree the surer one counts; where they are apart, neither is
 * known better than that.
 */
function weighed(byColour: Settled, byBrightness: Settled): Settled {
  const { own } = byColour;
  const apart = Math.hypot(own.uPx - byBrightness.own.uPx, own.vPx - byBrightness.own.vPx);
  if (apart > ONE_EDGE_PX) return byColour;
  if (apart < 2 * Math.hypot(own.sigmaPx, byBrightness.own.sigmaPx))
    return byBrightness.own.sigmaPx < own.sigmaPx ? byBrightness : byColour;
  return { ...byColour, own: { ...own, sigmaPx: Math.hypot(own.sigmaPx, apart / 2) } };
}

/** The deepest valley of light, or the highest ridge: the larger curvature of light, and the direction across it. */
function seekLine(
  patch: Patch,
  { byXX, byXY, byYY, rim }: Derivatives,
  uPx: number,
  vPx: number,
  searchPx: number,
): Rough | null {
  const found = seek(patch, rim, uPx, vPx, searchPx, (at) => {
    const mean = (byXX[at]! + byYY[at]!) / 2;
    const spread = Math.hypot((byXX[at]! - byYY[at]!) / 2, byXY[at]!);
    const along = Math.atan2(byXY[at]!, (byXX[at]! - byYY[at]!) / 2) / 2;
    return mean >= 0
      ? { strength: mean + spread, normal: along }
      : { strength: spread - mean, normal: along + Math.PI / 2 };
  });
  return found && { ...found, bend: 0 };
}

function seek(
  patch: Patch,
  rim: number,
  uPx: number,
  vPx: number,
  searchPx: number,
  read: (at: number) => { strength: number; normal: number },
): (Seat & { at: number; strength: number }) | null {
  let best: (Seat & { at: number; strength: number }) | null = null;
  let most = 0;
  for (let y = rim; y < patch.height - rim; y++)
    for (let x = rim; x < patch.width - rim; x++) {
      const u = patch.left + x + 0.5;
      const v = patch.top + y + 0.5;
      const away = Math.hypot(u - uPx, v - vPx);
      if (away > searchPx) continue;
      const { strength, normal } = read(y * patch.width + x);
      const counted = strength * (1 - (1 - FAR_SHARE) * (away / searchPx));
      if (counted > most) {
        most = counted;
        best = { uPx: u, vPx: v, normal, at: y * patch.width + x, strength };
      }
    }
  return best;
}

/**
 * From a seat to a fraction of a pixel: rows, their curve, then one fit to all of them. Twice, so that it centres, and
 * on until the rows reach as far along as the bend that was found allows.
 * Out: what was located, and the edges so near to it that they were fitted along with it.
 */
function settle(
  patch: Patch,
  rough: Rough,
  kind: Located['kind'],
  wanted: Required<LocateOptions>,
  uPx: number,
  vPx: number,
  splits = true,
): { own: Located; beside: Located[] } | null {
  let seat = nearTo(rough, uPx, vPx);
  let { bend } = rough;
  let half = Math.min(wanted.halfLengthPx, halfLengthOf(bend));
  let result: { own: Located; beside: Located[] } | null = null;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const profile = readProfile(patch, seat, wanted.reachPx + BESIDE_PX, half, wanted.reachPx);
    const curve = followRows(narrowed(profile, wanted.reachPx), kind);
    if (!curve) return null;
    const reach = fitReach(kind, result?.own ?? null, bend);
    const meant = (uPx - seat.uPx) * Math.cos(seat.normal) + (vPx - seat.vPx) * Math.sin(seat.normal);
    const fit =
      kind === 'edge'
        ? fitEdge(profile, curve.rows, reach, curve.parabola, {
            leastRise: wanted.leastContrast,
            meantPx: meant,
            splits: splits && round > 0,
          })
        : fitBand(profile, curve.rows, kind, reach, curve.parabola);
    if (!fit || Math.abs(fit.contrast) < wanted.leastContrast || Math.abs(fit.offset) > wanted.reachPx) return null;
    // The flank of an edge bends light as well; only where both sides are alike is there a line.
    if (kind === 'line' && fit.slant > MOST_SLANT) return null;
    const placed = (step: FittedStep) => place(step, fit, seat, kind, curve.rows.length);
    result = { own: placed(fit), beside: fit.beside.map(placed) };
    seat = nearTo(result.own, uPx, vPx);
    // A bend that few rows show is seen the better the further they reach: longer by steps, until it tells where to stop.
    bend = 2 * fit.bend;
    const next = Math.min(wanted.halfLengthPx, halfLengthOf(bend), MOST_GROWTH * half);
    if (round > 0 && next > LONG_ENOUGH * half && next < half / LONG_ENOUGH) break;
    half = next;
  }
  return result;
}

/** Rounds are two for most edges. */
const MOST_ROUNDS = 5;
const MOST_GROWTH = 2;
const LONG_ENOUGH = 0.75;
/**
 * Rows along an edge that bends reach no further than this share of its radius: beyond it a parabola leaves the circle,
 * and the rows, which run straight across, cut it aslant. At a half they leave it by a hundredth of the radius.
 */
const RADIUS_SHARE = 0.5;
/** Six rows are the fewest that a bend can be fitted to. */
const LEAST_HALF_PX = 2.5;

const halfLengthOf = (bend: number): number => Math.max(LEAST_HALF_PX, RADIUS_SHARE / Math.max(1e-9, Math.abs(bend)));

/** A step that was fitted in a band, as a place in the picture. */
function place(step: FittedStep, { slope, bend }: BandFit, seat: Seat, kind: Located['kind'], rows: number): Located {
  // The half-level of a blurred curved edge lies s²/2R inside it: the first term of a series, and of a bell's blur only,
  // so that it may be off by as much again.
  const inside = kind === 'edge' ? step.blurPx ** 2 * bend : 0;
  const centre = step.offset - inside;
  // The normal of an edge points to the light.
  const turn = kind === 'edge' && step.contrast < 0 ? Math.PI : 0;
  return {
    kind,
    uPx: seat.uPx + centre * Math.cos(seat.normal),
    vPx: seat.vPx + centre * Math.sin(seat.normal),
    normal: seat.normal - Math.atan(slope) + turn,
    sigmaPx: Math.hypot(step.sigmaPx, MODEL_SIGMA_PX, inside, kind === 'edge' ? softness(step.blurPx) : 0),
    blurPx: step.blurPx,
    contrast: Math.abs(step.contrast),
    dark: kind === 'line' && step.contrast < 0,
    bend: turn ? -2 * bend : 2 * bend,
    rows,
  };
}

/**
 * Half width of what is fitted about the curve, px: several blurs of an edge, once its blur is known, since how well both
 * levels are known decides as much as the flank itself (three blurs to each side leave 1.6 times the σ of known levels,
 * five 1.25 times); a stroke's own width, leaving out the next stroke.
 */
function fitReach(kind: Located['kind'], before: Located | null, bend: number): number {
  if (kind === 'line') return LINE_REACH_PX;
  // Across a small hole no further than to its middle: beyond it the other side begins.
  const most = Math.min(EDGE_REACH_PX.most, 1 / Math.max(1e-9, Math.abs(bend)));
  const wanted = before ? EDGE_REACH_BLURS * before.blurPx : EDGE_REACH_PX.first;
  return Math.max(EDGE_REACH_PX.least, Math.min(most, wanted));
}

/**
 * What is softer than a lens makes it is the rim of a shadow, or a face edge and its foot seen as one: the edge that is
 * meant may lie as far beside it as it is too soft.
 */
const softness = (blurPx: number): number => Math.max(0, blurPx - SOFTEST_PX);

/** Difference of the ground on both sides of a line, in parts of its depth. */
const MOST_SLANT = 0.6;
const EDGE_REACH_PX = { least: 2.5, first: 4, most: 10 } as const;
const EDGE_REACH_BLURS = 5;
const LINE_REACH_PX = 3.5;

/** Slides a seat along its tangent to the place nearest to the one asked. */
function nearTo(seat: Seat, uPx: number, vPx: number): Seat {
  const tx = -Math.sin(seat.normal);
  const ty = Math.cos(seat.normal);
  const along = (uPx - seat.uPx) * tx + (vPx - seat.vPx) * ty;
  return { uPx: seat.uPx + along * tx, vPx: seat.vPx + along * ty, normal: seat.normal };
}

interface Followed {
  parabola: Parabola;
  /** Rows that lie on it. */
  rows: number[];
}

/** Centre of each row, and the curve through those that hang together with the middle one. */
function followRows(profile: Profile, kind: Located['kind']): Followed | null {
  const centres = profile.rows.map((row) => rowCentre(profile, row, kind));
  let kept = centres
    .map((_, k) => k)
    .filter((k) => centres[k] !== null && Math.abs(centres[k] as number) <= profile.reachPx - 1);
  let parabola: Parabola | null = null;
  for (let round = 0; round < 4 && kept.length >= FEWEST_ROWS; round++) {
    parabola = fitParabola(
      kept.map((k) => profile.along[k]!),
      kept.map((k) => centres[k] as number),
    );
    const away = kept.map((k) => Math.abs((centres[k] as number) - (parabola as Parabola).at(profile.along[k]!)));
    const limit = Math.max(STRAY_ROW_PX / 2 ** round, 3 * 1.4826 * median(away));
    const next = kept.filter((_, n) => away[n]! <= limit);
    if (next.length === kept.length) break;
    kept = next;
  }
  return parabola && kept.length >= FEWEST_ROWS ? { parabola, rows: kept } : null;
}

/** Scale of the filter that finds one row's centre, in samples: about a pixel and a half. */
const ROW_FILTER = 6;

/** Where one row rises most (edge) or dips most (line): peak of the smoothed derivative, to a fraction by a parabola. */
function rowCentre(profile: Profile, row: Float64Array, kind: Located['kind']): number | null {
  const value = (k: number) => {
    let sum = 0;
    for (let n = 1; n <= ROW_FILTER; n++)
      sum += kind === 'edge' ? row[k + n]! - row[k - n]! : row[k + n]! + row[k - n]! - 2 * row[k]!;
    return kind === 'edge' ? sum : Math.abs(sum);
  };
  let best = -1;
  let most = 0;
  const middle = (profile.count - 1) / 2;
  let [before, here] = [0, value(ROW_FILTER)];
  for (let k = ROW_FILTER; k < profile.count - ROW_FILTER - 1; k++) {
    const after = value(k + 1);
    // Among the peaks, nearer the middle counts more, so that a second edge does not catch the row. The weight must
    // not move the peak itself: that would pull every centre inwards.
    const counted = here * (1 - 0.7 * (Math.abs(k - middle) / middle));
    if (here >= before && here >= after && counted > most) {
      most = counted;
      best = k;
    }
    [before, here] = [here, after];
  }
  if (best <= ROW_FILTER || best >= profile.count - ROW_FILTER - 1) return null;
  const [a, b, c] = [value(best - 1), value(best), value(best + 1)];
  const curvature = a - 2 * b + c;
  const fraction = curvature < 0 ? Math.max(-1, Math.min(1, (a - c) / (2 * curvature))) : 0;
  return offsetOf(profile, best + fraction);
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted.length ? sorted[sorted.length >> 1]! : 0;
}
