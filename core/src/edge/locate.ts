import { cutPatch, type Patch, type Pixels, type SecondDerivatives, secondDerivatives } from '../raster';
import { asLight, cutColours, FAR_SHARE, LUMINANCE, SEEK_SIGMA_PX, type Weights } from './colours';
import { FEWEST_ROWS } from './followRows';
import { lensBlurOf } from './lensBlur';
import { readProfile, type Seat } from './profile';
import { settleEdge } from './settleEdge';
import { BESIDE_PX, LOCATE, type Located, type LocateOptions, NO_LENS_PX, type Rough, settleSeat } from './settleSeat';
import { LEAST_GAP_PX, stepsAlong } from './steps';

export type { Located, LocateOptions } from './settleSeat';

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
    const wide = { ...asLight(colours, by), lensPx: lensBlurOf(pixels) ?? NO_LENS_PX };
    const profile = readProfile(wide, own, reachPx + SMOOTHED_PX, wanted.halfLengthPx);
    const rows = profile.rows.map((_, k) => k);
    if (rows.length < FEWEST_ROWS) return found;
    const along = (t: number) => (own.bend / 2) * t * t;
    for (const { offsetPx, rise } of stepsAlong(profile, rows, along, wanted.leastContrast).slice(0, MOST_BESIDE)) {
      const at = { uPx: own.uPx + offsetPx * Math.cos(own.normal), vPx: own.vPx + offsetPx * Math.sin(own.normal) };
      if (!isNew(found, at)) continue;
      // Each is followed from its own dark to its own light.
      const normal = own.normal + (rise < 0 ? Math.PI : 0);
      const other = settleSeat(wide, { ...at, normal, bend: own.bend }, 'edge', wanted, at.uPx, at.vPx, false)?.own;
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
  const seat = patch && seekLine(patch, secondDerivatives(patch, SEEK_SIGMA_PX), uPx, vPx, wanted.searchPx);
  return (patch && seat && settleSeat({ ...patch, lensPx: NO_LENS_PX }, seat, kind, wanted, uPx, vPx)?.own) ?? null;
}

/** The deepest valley of light, or the highest ridge: the larger curvature of light, and the direction across it. */
function seekLine(
  patch: Patch,
  { byXX, byXY, byYY, rim }: SecondDerivatives,
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
