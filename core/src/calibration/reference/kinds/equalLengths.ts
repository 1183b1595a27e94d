import { placePoint } from '../../model/backProject';
import { type EqualLengths, HINT, LEAST_PICK_DISTANCE_PX } from '../reference';
import { addOwnPrior, apart, type Kind, LOOSE, type Seen } from './kind';
import { addSpan } from './knownLength';

/** Equal lengths have one unknown: the logarithm of what they are, mm. */
const UNKNOWNS = 1;
/** Any length from a thousandth of a millimetre to a kilometre. */
const ANY_LENGTH = LOOSE.turn;

/** Lengths that are equal, whatever they are: they tell tilt, and no size. */
export const equalLengthsKind: Kind<EqualLengths> = {
  unknowns: () => UNKNOWNS,
  addPrior(_, parameters, at, sink) {
    addOwnPrior(parameters, at, [ANY_LENGTH], sink);
  },
  start({ lengths }, place, into, at) {
    const [a, b] = [place(lengths[0]!.from), place(lengths[0]!.to)];
    if (!a || !b) return false;
    into[at] = Math.log(Math.hypot(b[0] - a[0], b[1] - a[1]));
    return true;
  },
  observe: observeEqual,
  logScale: () => null,
  thin: (y) => y,
  spread: null,
  coincides: ({ lengths }) => lengths.length < 2 || lengths.some((l) => apart(l.from, l.to) < LEAST_PICK_DISTANCE_PX),
};

function observeEqual({ lengths, plusMinusShare }: EqualLengths, seen: Seen, at: number): boolean {
  const own = plusMinusShare === null ? HINT.sigmaEqual : Math.max(plusMinusShare / 2, LEAST_SHARE);
  for (const { from: first, to: last } of lengths) {
    const from = placePoint(seen.camera, first.uPx, first.vPx, seen.heightMm, seen.placed);
    const to = placePoint(seen.camera, last.uPx, last.vPx, seen.heightMm, seen.other);
    if (!from || !to) return false;
    const dx = to.place[0]! - from.place[0]!;
    const dy = to.place[1]! - from.place[1]!;
    const square = dx * dx + dy * dy;
    if (square === 0) return false;
    const off = Math.log(square) / 2 - seen.parameters[at]!;
    const sigma = Math.hypot(own, Math.hypot(first.sigmaPx, last.sigmaPx) / apart(first, last));
    seen.tell?.(last, off * Math.sqrt(square), off / sigma);
    addSpan(seen, dx / square / sigma, dy / square / sigma, off / sigma, [[at, -1 / sigma]]);
  }
  return true;
}

/** No two lengths are known to be equal better than this. */
const LEAST_SHARE = 1e-5;
