import { GRID, type Grid } from '../reference';
import {
  addOwnPrior,
  addPlaced,
  apart,
  FEW,
  type Kind,
  LOOSE,
  logSafe,
  placeSeen,
  type Seen,
  spreading,
  subsampled,
} from './kind';

/** A grid's own unknowns: crossing 0, 0, its direction, the error of its pitch, of j's against i's, its skew. */
const [X, Y, TURN, STRETCH, RATIO, SKEW] = [0, 1, 2, 3, 4, 5];
const UNKNOWNS = 6;
export const GRID_STRETCH = STRETCH;

/** A grid by its crossings. */
export const gridKind: Kind<Grid> = {
  unknowns: () => UNKNOWNS,
  addPrior({ plusMinusShare }, parameters, at, sink, freed) {
    const size = plusMinusShare === null ? GRID.sigmaPitch : Math.max(plusMinusShare / 2, LEAST_SHARE);
    const [ratio, skew] = [size * GRID.ratioShare, size * GRID.skewShare];
    addOwnPrior(parameters, at, [LOOSE.mm, LOOSE.mm, LOOSE.turn, freed ? LOOSE.share : size, ratio, skew], sink);
  },
  start(grid, place, into, at) {
    const [a, b] = furthest(grid);
    const [p, q] = [place(a.pick), place(b.pick)];
    if (!p || !q) return false;
    const turn = Math.atan2(q[1] - p[1], q[0] - p[0]) - Math.atan2(b.j - a.j, b.i - a.i);
    const [c, s] = [Math.cos(turn) * grid.pitchMm, Math.sin(turn) * grid.pitchMm];
    into.set([p[0] - c * a.i + s * a.j, p[1] - s * a.i - c * a.j, turn, 0, 0, 0], at);
    return true;
  },
  landmarks: ({ pitchMm }, p, at) => {
    const [c, s] = [Math.cos(p[at + TURN]!), Math.sin(p[at + TURN]!)];
    return [0, 10 * pitchMm].map((along): [number, number] => [p[at + X]! + c * along, p[at + Y]! + s * along]);
  },
  observe: observeCrossings,
  logScale(grid, place) {
    const [a, b] = furthest(grid);
    const [p, q] = [place(a.pick), place(b.pick)];
    const known = grid.pitchMm * Math.hypot(b.i - a.i, b.j - a.j);
    return p && q ? logSafe(known, Math.hypot(q[0] - p[0], q[1] - p[1])) : undefined;
  },
  thin(grid) {
    const every = Math.ceil(grid.crossings.length / FEW);
    return every <= 1 ? grid : { ...grid, crossings: subsampled(grid.crossings, every), multiplicity: every };
  },
  spread: (grid, times) => ({
    ...grid,
    crossings: grid.crossings.map((c) => ({ ...c, pick: spreading(times)(c.pick) })),
  }),
  coincides: ({ crossings }) =>
    crossings.length < FEWEST_CROSSINGS ||
    crossings.every((c) => c.i === crossings[0]!.i) ||
    crossings.every((c) => c.j === crossings[0]!.j),
};

const FEWEST_CROSSINGS = 4;
/** A pitch typed as exact is still not better than this, as a share. */
const LEAST_SHARE = 1e-5;

function observeCrossings(grid: Grid, seen: Seen, at: number): boolean {
  const { parameters } = seen;
  const { crossings, pitchMm, multiplicity = 1 } = grid;
  const [a, b] = furthest(grid);
  const mmPerPx = (pitchMm * Math.hypot(b.i - a.i, b.j - a.j)) / apart(a.pick, b.pick);
  const turn = parameters[at + TURN]!;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const wide = pitchMm * (1 + parameters[at + STRETCH]!);
  const high = pitchMm * (1 + parameters[at + STRETCH]! + parameters[at + RATIO]!);
  const skew = parameters[at + SKEW]!;
  // Scatter is in px: what it is in mm grows with the grid, or shrinking all would make every deviation smaller.
  const unit = 1 + parameters[at + STRETCH]!;
  const own = [0, 0, 0, 0, 0, 0];
  for (const { i, j, pick } of crossings) {
    const placed = placeSeen(seen, pick);
    if (!placed) return false;
    const dx = placed.place[0]! - parameters[at + X]!;
    const dy = placed.place[1]! - parameters[at + Y]!;
    const along = c * dx + s * dy;
    const up = c * dy - s * dx;
    const sigma = (Math.hypot(pick.sigmaPx * mmPerPx, GRID.sigmaCrossingMm) * unit) / Math.sqrt(multiplicity);
    own[X] = -c;
    own[Y] = -s;
    own[TURN] = up;
    const offI = along - i * wide - skew * j * pitchMm;
    own[STRETCH] = -i * pitchMm - offI / unit;
    own[RATIO] = 0;
    own[SKEW] = -j * pitchMm;
    addPlaced(seen, pick, c, s, offI, sigma, at, own);
    own[X] = s;
    own[Y] = -c;
    own[TURN] = -along;
    const offJ = up - j * high;
    own[STRETCH] = -j * pitchMm - offJ / unit;
    own[RATIO] = -j * pitchMm;
    own[SKEW] = 0;
    addPlaced(seen, pick, -s, c, offJ, sigma, at, own);
  }
  return true;
}

/** The crossing with the least i + j and the one with the most, or across the other way where those are one. */
function furthest({ crossings }: Grid): [Grid['crossings'][number], Grid['crossings'][number]] {
  let best: [Grid['crossings'][number], Grid['crossings'][number]] = [crossings[0]!, crossings[0]!];
  let most = -1;
  for (const [p, q] of [
    [1, 1],
    [1, -1],
    [1, 0],
    [0, 1],
  ] as const) {
    let [low, high] = [crossings[0]!, crossings[0]!];
    for (const c of crossings) {
      const value = p * c.i + q * c.j;
      if (value < p * low.i + q * low.j) low = c;
      if (value > p * high.i + q * high.j) high = c;
    }
    const far = Math.hypot(high.i - low.i, high.j - low.j);
    if (far > most) {
      most = far;
      best = [low, high];
    }
  }
  return best;
}
