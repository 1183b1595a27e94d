import { taubin } from '../../../fit';
import { medianOf } from '../../../numeric';
import { DISC, type Disc, LEAST_PICK_DISTANCE_PX, SMALLEST_SIGMA_MM } from '../reference';
import {
  addOwnPrior,
  addPlaced,
  apart,
  FEW,
  type Kind,
  LOOSE,
  logSafe,
  type Place,
  placeSeen,
  type Seen,
  spreading,
  subsampled,
} from './kind';
import { addTwoRimsPrior, hasTwoRims, observeTwoRims, sizePx, TWO_RIMS_UNKNOWNS } from './twoRims';

/**
 * A disc's own unknowns: its centre, its radius's error (or logarithm, where its size is not known), its bevel, and how
 * oval it is, along X and askew, mm.
 */
const [X, Y, RADIUS, BEVEL, OVAL, ASKEW] = [0, 1, 2, 3, 4, 5];
const UNKNOWNS = 6;
export const DISC_STRETCH = RADIUS;

/**
 * A disc by its rim, two circles at two heights: the far side shows the upper one, the near side the lower one or, where
 * that is lost in shadow, both; they are rounded off, so that the widest lies a bevel inside. Taking it for one circle reads a
 * close coin 15 % and more wrong in tilt.
 */
export const discKind: Kind<Disc> = {
  unknowns: (disc) => (hasTwoRims(disc) ? TWO_RIMS_UNKNOWNS : UNKNOWNS),
  addPrior(disc, parameters, at, sink, freed) {
    if (hasTwoRims(disc)) return addTwoRimsPrior(disc, parameters, at, sink, freed);
    const { rim, diameterMm, plusMinusMm } = disc;
    const made = plusMinusMm === null ? DISC.sigmaDiameterMm : Math.max(plusMinusMm / 2, SMALLEST_SIGMA_MM);
    const own = Math.hypot(made, 2 * (DISC.sigmaSeenMm + DISC.sigmaUnseenMm * (1 - seenShare(rim))));
    const size = diameterMm === null || freed ? LOOSE.share : own / diameterMm;
    addOwnPrior(
      parameters,
      at,
      [LOOSE.mm, LOOSE.mm, size, DISC.sigmaBevelMm, DISC.sigmaOvalMm, DISC.sigmaOvalMm],
      sink,
    );
  },
  start(disc, place, into, at) {
    const circle = rimCircle(disc, place);
    if (!circle) return false;
    const stretch = disc.diameterMm === null ? Math.log(circle.radius) : 0;
    into.fill(0, at, at + this.unknowns(disc));
    into.set([circle.centre.x, circle.centre.y, stretch], at);
    return true;
  },
  landmarks: (_, p, at) => [[p[at + X]!, p[at + Y]!]],
  observe: (disc, seen, at) => (hasTwoRims(disc) ? observeTwoRims(disc, seen, at) : observeRim(disc, seen, at)),
  logScale(disc, place) {
    if (disc.diameterMm === null) return null;
    const circle = rimCircle(disc, place);
    return circle ? logSafe(disc.diameterMm / 2, circle.radius) : undefined;
  },
  thin(disc) {
    const every = Math.ceil(disc.rim.length / FEW);
    if (every <= 1) return disc;
    const foot = disc.foot && { foot: subsampled(disc.foot, every) };
    return { ...disc, rim: subsampled(disc.rim, every), ...foot, multiplicity: every };
  },
  spread(disc, times) {
    if (hasTwoRims(disc))
      return { ...disc, rim: disc.rim.map(spreading(times)), foot: disc.foot.map(spreading(times)) };
    const hidden = 1 / seenShare(disc.rim) ** 2;
    return { ...disc, rim: disc.rim.map(spreading((pick) => hidden * times(pick))) };
  },
  coincides: ({ rim }) => rim.length < FEWEST_RIM || sizePx(rim) < LEAST_PICK_DISTANCE_PX,
};

/**
 * How much of the rim its places go round, as a share. What errs alike along one side, light that comes from there, is
 * set off by the other side; where that is hidden it goes into the tilt, so that each place counts for less.
 */
function seenShare(rim: Disc['rim']): number {
  const known = shares.get(rim);
  if (known !== undefined) return known;
  const steps = rim.map((p, k) => apart(p, rim[(k + 1) % rim.length]!));
  const usual = medianOf(steps);
  const missing = steps.reduce((sum, s) => sum + Math.max(0, Math.round(s / usual) - 1), 0);
  const share = rim.length / (rim.length + missing);
  shares.set(rim, share);
  return share;
}

/** Asked again at every step of an estimate. */
const shares = new WeakMap<Disc['rim'], number>();

/** A circle is settled by three places; five tell whether it is one seen askew. */
const FEWEST_RIM = 5;

function observeRim(disc: Disc, seen: Seen, at: number): boolean {
  const { parameters } = seen;
  const { rim, diameterMm, thicknessMm, multiplicity = 1 } = disc;
  const radius =
    diameterMm === null ? Math.exp(parameters[at + RADIUS]!) : (diameterMm / 2) * (1 + parameters[at + RADIUS]!);
  const bevel = thicknessMm > 0 ? Math.min(DISC.bevelMm, thicknessMm / 2) + parameters[at + BEVEL]! : 0;
  // Scatter is in px: what it is in mm grows with the disc, or shrinking it would make every deviation smaller.
  const mmPerPx = radius / sizePx(rim);
  const rimSigma = diameterMm === null ? 0 : (DISC.sigmaRimMm * radius) / (diameterMm / 2);
  const own = [0, 0, 0, 0, 0, 0];
  const raises = thicknessMm > 0 ? [thicknessMm - bevel, bevel] : [0];
  const offAt = (pick: Disc['rim'][number], raise: number): number | null => {
    const placed = placeSeen(seen, pick, raise);
    return (
      placed && Math.hypot(placed.place[0]! - parameters[at + X]!, placed.place[1]! - parameters[at + Y]!) - radius
    );
  };
  for (const pick of rim) {
    const offs = raises.map((raise) => offAt(pick, raise));
    if (offs.some((off) => off === null)) return false;
    // The upper rim is seen all round; the lower one only where it reaches further out, on the near side. There the
    // picture may show either, the lower one lost in its own shadow: the nearer is meant.
    const [onUpper, onLower] = [offs[0] as number, (offs[1] ?? offs[0]) as number];
    const upper = onLower >= onUpper || (!seen.roughly && Math.abs(onUpper) < Math.abs(onLower));
    const raise = upper ? raises[0]! : raises[1]!;
    const off = offAt(pick, raise) as number;
    const { place, byHeight } = seen.placed;
    const away = off + radius;
    if (away === 0) return false;
    const ex = (place[0]! - parameters[at + X]!) / away;
    const ey = (place[1]! - parameters[at + Y]!) / away;
    const [cos, sin] = [ex * ex - ey * ey, 2 * ex * ey];
    const oval = parameters[at + OVAL]! * cos + parameters[at + ASKEW]! * sin;
    const turning = (2 * (parameters[at + OVAL]! * sin - parameters[at + ASKEW]! * cos)) / away;
    const [gx, gy] = [ex - turning * ey, ey + turning * ex];
    own[X] = -gx;
    own[Y] = -gy;
    own[OVAL] = -cos;
    own[ASKEW] = -sin;
    const rest = off - oval;
    own[RADIUS] = diameterMm === null ? -radius - rest : (-diameterMm / 2) * (1 + rest / radius);
    own[BEVEL] = thicknessMm > 0 ? (upper ? -1 : 1) * (gx * byHeight[0]! + gy * byHeight[1]!) : 0;
    const sigma = Math.hypot(pick.sigmaPx * mmPerPx, rimSigma) / Math.sqrt(multiplicity);
    addPlaced(seen, pick, gx, gy, rest, sigma, at, own);
  }
  return true;
}

function rimCircle({ rim, foot, thicknessMm }: Disc, place: Place) {
  const places = rim.flatMap((p) => {
    const at = place(p, foot ? thicknessMm : thicknessMm / 2);
    return at ? [{ x: at[0], y: at[1] }] : [];
  });
  return places.length < rim.length ? null : taubin(places);
}
