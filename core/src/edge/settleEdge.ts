import { derivativesAt, type Patch, type Pixels } from '../raster';
import {
  asLight,
  cutColours,
  directionAcross,
  LUMINANCE,
  SEEK_SIGMA_PX,
  seekColourEdge,
  type Weights,
} from './colours';
import { lensBlurOf } from './lensBlur';
import type { Seat } from './profile';
import { BESIDE_PX, type Located, type LocateOptions, NO_LENS_PX, settleSeat } from './settleSeat';

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
export interface Settled {
  own: Located;
  beside: Located[];
  weights: Weights;
}

/**
 * The edge nearest to a place, in brightness where that tells both sides apart, else in the colour in which they differ
 * most against the noise.
 */
export function settleEdge(pixels: Pixels, uPx: number, vPx: number, wanted: Required<LocateOptions>): Settled | null {
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
  const lensPx = lensBlurOf(pixels) ?? NO_LENS_PX;
  const settleBy = (weights: Weights): Settled | null => {
    const patch = { ...asLight(colours, weights), lensPx };
    const own = seekColourEdge({ ...patch, channels: [patch.light] }, uPx, vPx, wanted.searchPx, SEEK_SIGMA_PX, [1]);
    // In one light a stronger edge may be found further off: the one that was meant stays.
    const from = own && Math.hypot(own.uPx - seat.uPx, own.vPx - seat.vPx) < ONE_EDGE_PX ? own : seat;
    const settled = settleSeat(patch, { ...from, bend: bendAt(patch, from) }, 'edge', wanted, uPx, vPx);
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
