import { placePoint } from '../../model/backProject';
import { HINT, LEAST_PICK_DISTANCE_PX, type SquareLines } from '../reference';
import { addOwnPrior, apart, type Kind, LOOSE, type Seen } from './kind';
import { addSpan } from './knownLength';

/** Lines of one square frame have one unknown: its direction. */
const UNKNOWNS = 1;

/** Lines along X and along Y: parallel to their like, square to the others. They tell shape and tilt, and no size. */
export const squareLinesKind: Kind<SquareLines> = {
  unknowns: () => UNKNOWNS,
  addPrior(_, parameters, at, sink) {
    addOwnPrior(parameters, at, [LOOSE.turn], sink);
  },
  start({ lines }, place, into, at) {
    const [a, b] = [place(lines[0]!.from), place(lines[0]!.to)];
    if (!a || !b) return false;
    into[at] = Math.atan2(b[1] - a[1], b[0] - a[0]) - quarter(lines[0]!);
    return true;
  },
  observe: observeLines,
  logScale: () => null,
  thin: (y) => y,
  spread: null,
  coincides: ({ lines }) => lines.length < 2 || lines.some((l) => apart(l.from, l.to) < LEAST_PICK_DISTANCE_PX),
};

const quarter = ({ along }: SquareLines['lines'][number]): number => (along === 'y' ? Math.PI / 2 : 0);

function observeLines({ lines, plusMinusRad }: SquareLines, seen: Seen, at: number): boolean {
  const own = plusMinusRad === null ? HINT.sigmaTurn : Math.max(plusMinusRad / 2, LEAST_TURN);
  for (const line of lines) {
    const from = placePoint(seen.camera, line.from.uPx, line.from.vPx, seen.heightMm, seen.placed);
    const to = placePoint(seen.camera, line.to.uPx, line.to.vPx, seen.heightMm, seen.other);
    if (!from || !to) return false;
    const dx = to.place[0]! - from.place[0]!;
    const dy = to.place[1]! - from.place[1]!;
    const square = dx * dx + dy * dy;
    if (square === 0) return false;
    const raw = Math.atan2(dy, dx) - quarter(line) - seen.parameters[at]!;
    // Which end was picked first is of no matter.
    const off = raw - Math.PI * Math.round(raw / Math.PI);
    const sigma = Math.hypot(own, Math.hypot(line.from.sigmaPx, line.to.sigmaPx) / apart(line.from, line.to));
    seen.tell?.(line.to, off * Math.sqrt(square), off / sigma);
    addSpan(seen, -dy / square / sigma, dx / square / sigma, off / sigma, [[at, -1 / sigma]]);
  }
  return true;
}

/** No two edges are known to be square better than this, rad. */
const LEAST_TURN = 1e-5;
