import type { ResidualSink } from '../../../numeric';
import { DISC, type Disc, type PixelPick, SMALLEST_SIGMA_MM } from '../reference';
import { addOwnPrior, addPlaced, LOOSE, placeSeen, type Seen } from './kind';

/*
 * A disc whose upper rim and the foot of whose wall are told apart: two circles of one middle at two heights. What light,
 * rounding and shadow do to each is common to its places and goes round with its direction, so that each circle has a
 * deviation in harmonics of its own; a second one alone looks like a tilt.
 */

/** Its middle, its radius's error (or logarithm), how much it is rounded off and its thickness's error, mm. */
const [X, Y, RADIUS, BEVEL, THICKNESS] = [0, 1, 2, 3, 4];
const OWN = 5;
const HARMONICS = 4;
/** The mean and cosines and sines up to the fourth, as shares of the radius. */
const EACH = 1 + 2 * HARMONICS;

export const TWO_RIMS_UNKNOWNS = OWN + 2 * EACH;

/** σ of each harmonic from the mean on, as shares of the radius, and what the edge lies inside the widest circle by. */
const UPPER = { sigmas: [0.0025, 0.0035, 0.0013, 0.001, 0.001], inset: 0.005 } as const;
const FOOT = { sigmas: [0.004, 0.004, 0.002, 0.0015, 0.0015], inset: 0.002 } as const;
/** How much a rim is rounded off, mm: its widest circle lies so far inside both faces. */
const ROUNDED = { mm: 0.2, sigmaMm: 0.07 } as const;
const SIGMA_THICKNESS_MM = 0.025;
/** What no place of a rim is known better than, px. */
const LEAST_SIGMA_PX = 0.5;
/** How far inside the rim the line lies that is seen, beside what goes with its size, σ, px. */
const BLUR_PX = 0.4;
/** Without a foot nothing else tells which line of light along the rim was taken: its σ is so many times as large. */
const ALONE = 1.5;

export interface TwoRims extends Disc {
  foot: PixelPick[];
}

/** Its places are told apart, and it has a thickness for them to stand at. */
export const hasTwoRims = (disc: Disc): disc is TwoRims => !!disc.foot && disc.thicknessMm > 0;

export function addTwoRimsPrior(
  { rim, foot, diameterMm, plusMinusMm }: TwoRims,
  parameters: Float64Array,
  at: number,
  sink: ResidualSink,
  freed: boolean,
): void {
  const made = plusMinusMm === null ? DISC.sigmaDiameterMm : Math.max(plusMinusMm / 2, SMALLEST_SIGMA_MM);
  const size = diameterMm === null || freed ? LOOSE.share : made / diameterMm;
  // In a small picture a line of light beside the rim is not told from it.
  const blur = BLUR_PX / sizePx(rim);
  const deviations = [UPPER, FOOT].flatMap(({ sigmas }) =>
    sigmas.flatMap((s, k) => (k === 0 ? [Math.hypot(foot.length > 0 ? s : ALONE * s, blur)] : [s, s])),
  );
  addOwnPrior(parameters, at, [LOOSE.mm, LOOSE.mm, size, ROUNDED.sigmaMm, SIGMA_THICKNESS_MM, ...deviations], sink);
}

export function observeTwoRims(disc: TwoRims, seen: Seen, at: number): boolean {
  const { parameters } = seen;
  const { rim, foot, diameterMm, thicknessMm, multiplicity = 1 } = disc;
  const radius =
    diameterMm === null ? Math.exp(parameters[at + RADIUS]!) : (diameterMm / 2) * (1 + parameters[at + RADIUS]!);
  const byRadius = diameterMm === null ? radius : diameterMm / 2;
  const rounded = Math.min(ROUNDED.mm, thicknessMm / 2);
  const bevel = rounded + parameters[at + BEVEL]!;
  // Scatter is in px: what it is in mm grows with the disc, or shrinking it would make every deviation smaller.
  const mmPerPx = radius / sizePx(rim);
  const circles = [
    {
      picks: rim,
      raise: thicknessMm + parameters[at + THICKNESS]! - bevel / 2,
      byBevel: -0.5,
      byThickness: 1,
      from: OWN,
      inset: UPPER.inset,
    },
    { picks: foot, raise: bevel, byBevel: 1, byThickness: 0, from: OWN + EACH, inset: FOOT.inset },
  ];
  const own = new Array<number>(TWO_RIMS_UNKNOWNS);
  for (const { picks, raise, byBevel, byThickness, from, inset } of circles)
    for (const pick of picks) {
      if (!placeSeen(seen, pick, raise)) return false;
      const { place, byHeight } = seen.placed;
      const [dx, dy] = [place[0]! - parameters[at + X]!, place[1]! - parameters[at + Y]!];
      const away = Math.hypot(dx, dy);
      if (away === 0) return false;
      const [ex, ey] = [dx / away, dy / away];
      own.fill(0);
      own[from] = -radius;
      let [form, turning] = [1 - inset + parameters[at + from]!, 0];
      let [cos, sin] = [1, 0];
      for (let k = 1; k <= HARMONICS; k++) {
        [cos, sin] = [cos * ex - sin * ey, sin * ex + cos * ey];
        const [c, s] = [parameters[at + from + 2 * k - 1]!, parameters[at + from + 2 * k]!];
        form += c * cos + s * sin;
        turning += k * (s * cos - c * sin);
        own[from + 2 * k - 1] = -radius * cos;
        own[from + 2 * k] = -radius * sin;
      }
      const around = (-radius * turning) / away;
      const [gx, gy] = [ex - around * ey, ey + around * ex];
      own[X] = -gx;
      own[Y] = -gy;
      const off = away - radius * form;
      own[RADIUS] = -byRadius * (form + off / radius);
      const up = gx * byHeight[0]! + gy * byHeight[1]!;
      own[BEVEL] = byBevel * up;
      own[THICKNESS] = byThickness * up;
      const sigma = (Math.max(pick.sigmaPx, LEAST_SIGMA_PX) * mmPerPx) / Math.sqrt(multiplicity);
      addPlaced(seen, pick, gx, gy, off, sigma, at, own);
    }
  return true;
}

/** Mean distance of places from their middle, px. */
export function sizePx(rim: readonly PixelPick[]): number {
  const u = rim.reduce((s, p) => s + p.uPx, 0) / rim.length;
  const v = rim.reduce((s, p) => s + p.vPx, 0) / rim.length;
  return rim.reduce((s, p) => s + Math.hypot(p.uPx - u, p.vPx - v), 0) / rim.length;
}
