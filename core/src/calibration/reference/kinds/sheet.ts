import type { ResidualSink } from '../../../numeric';
import { LEAST_PICK_DISTANCE_PX, SHEET, type Sheet, SMALLEST_SIGMA_MM } from '../reference';
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

/**
 * A sheet's own unknowns: a corner, its direction, the errors of its width and height, mm, and of its corners, and how
 * far each of its four edges is bowed, mm in its middle.
 */
const [X, Y, TURN, WIDTH, HEIGHT, SKEW, BOW] = [0, 1, 2, 3, 4, 5, 6];
const UNKNOWNS = 10;
export const SHEET_SIZE = [WIDTH, HEIGHT] as const;
export const SHEET_BOW = BOW;

/** A sheet by places along its four edges. */
export const sheetKind: Kind<Sheet> = {
  unknowns: () => UNKNOWNS,
  addPrior({ plusMinusMm, widthMm }, parameters, at, sink, freed) {
    const size = freed ? LOOSE.share * widthMm : Math.max(plusMinusMm / 2, SMALLEST_SIGMA_MM);
    addOwnPrior(parameters, at, [LOOSE.mm, LOOSE.mm, LOOSE.turn, size, size, SHEET.sigmaSkew], sink);
    for (let k = at + BOW; k < at + UNKNOWNS; k++) addBowPrior(parameters[k]!, k, sink);
  },
  start(sheet, place, into, at) {
    const corners = roughCorners(sheet, place);
    if (!corners) return false;
    const [a, b] = [corners[0]!, corners[1]!];
    into.set([a[0], a[1], Math.atan2(b[1] - a[1], b[0] - a[0]), 0, 0, 0, 0, 0, 0, 0], at);
    return true;
  },
  landmarks: ({ widthMm }, p, at) => {
    const [c, s] = [Math.cos(p[at + TURN]!), Math.sin(p[at + TURN]!)];
    return [0, widthMm].map((along): [number, number] => [p[at + X]! + c * along, p[at + Y]! + s * along]);
  },
  observe: observeEdges,
  logScale({ widthMm, heightMm, ...sheet }, place) {
    const corners = roughCorners(sheet, place);
    if (!corners) return undefined;
    const side = (k: number) => {
      const [p, q] = [corners[k]!, corners[(k + 1) % 4]!];
      return Math.hypot(q[0] - p[0], q[1] - p[1]);
    };
    return logSafe(2 * (widthMm + heightMm), side(0) + side(1) + side(2) + side(3));
  },
  thin(sheet) {
    const every = Math.ceil(Math.max(...sheet.edges.map((e) => e.length)) / (FEW / 4));
    if (every <= 1) return sheet;
    return { ...sheet, edges: sheet.edges.map((e) => subsampled(e, every)) as Sheet['edges'], multiplicity: every };
  },
  spread: (sheet, times) => ({
    ...sheet,
    edges: sheet.edges.map((e) => e.map(spreading(times))) as Sheet['edges'],
  }),
  coincides: ({ edges }) => edges.some((e) => e.length < 2 || apart(e[0]!, e[e.length - 1]!) < LEAST_PICK_DISTANCE_PX),
};

/**
 * Cut paper is straight to its σ, curled paper is not straight at all: past some σ the doubt grows only with the
 * logarithm, so that a curl is found as what it is, and does not bend everything else.
 */
function addBowPrior(bow: number, at: number, sink: ResidualSink): void {
  const z = bow / SHEET.sigmaBowMm;
  const away = Math.abs(z);
  if (away <= STRAIGHT_SIGMAS) sink.add(z, [at], [1 / SHEET.sigmaBowMm]);
  else
    sink.add(
      Math.sign(z) * STRAIGHT_SIGMAS * (1 + Math.log(away / STRAIGHT_SIGMAS)),
      [at],
      [STRAIGHT_SIGMAS / away / SHEET.sigmaBowMm],
    );
}

const STRAIGHT_SIGMAS = 2.5;

function observeEdges(sheet: Sheet, seen: Seen, at: number): boolean {
  const { parameters } = seen;
  const { edges, multiplicity = 1 } = sheet;
  const mmPerPx = (sheet.widthMm + sheet.heightMm) / (apart2(edges[0]) + apart2(edges[1]));
  const [c, s] = [Math.cos(parameters[at + TURN]!), Math.sin(parameters[at + TURN]!)];
  const width = sheet.widthMm + parameters[at + WIDTH]!;
  const height = sheet.heightMm + parameters[at + HEIGHT]!;
  const skew = parameters[at + SKEW]!;
  // Scatter is in px: what it is in mm grows with the sheet, or shrinking it would make every deviation smaller.
  const round = sheet.widthMm + sheet.heightMm;
  const unit = (width + height) / round;
  const own = new Array<number>(UNKNOWNS).fill(0);
  for (const [k, edge] of edges.entries())
    for (const pick of edge) {
      const placed = placeSeen(seen, pick);
      if (!placed) return false;
      const dx = placed.place[0]! - parameters[at + X]!;
      const dy = placed.place[1]! - parameters[at + Y]!;
      const along = c * dx + s * dy;
      const up = c * dy - s * dx;
      own.fill(0);
      const sigma = (Math.hypot(pick.sigmaPx * mmPerPx, SHEET.sigmaEdgeMm) * unit) / Math.sqrt(multiplicity);
      // How far along its edge, and how the bow lifts and leans there.
      const share = k % 2 === 0 ? along / width : up / height;
      const bow = parameters[at + BOW + k]!;
      const lift = 4 * share * (1 - share);
      const lean = (4 * bow * (1 - 2 * share)) / (k % 2 === 0 ? width : height);
      own[BOW + k] = -lift;
      own[k % 2 === 0 ? WIDTH : HEIGHT] = lean * share;
      if (k % 2 === 0) {
        own[X] = s + lean * c;
        own[Y] = -c + lean * s;
        own[TURN] = -along - lean * up;
        if (k === 2) own[HEIGHT]! -= 1;
        const off = up - (k === 2 ? height : 0) - bow * lift;
        grow(own, off / (unit * round));
        addPlaced(seen, pick, -s - lean * c, c - lean * s, off, sigma, at, own);
      } else {
        // Along x less the slant of the side: x − skew · y.
        const slant = skew + lean;
        own[X] = -c - slant * s;
        own[Y] = -s + slant * c;
        own[TURN] = up + slant * along;
        own[SKEW] = -up;
        if (k === 1) own[WIDTH]! -= 1;
        const off = along - skew * up - (k === 1 ? width : 0) - bow * lift;
        grow(own, off / (unit * round));
        addPlaced(seen, pick, c + slant * s, s - slant * c, off, sigma, at, own);
      }
    }
  return true;
}

/** What a deviation loses as the sheet grows either way. */
function grow(own: number[], loss: number): void {
  own[WIDTH]! -= loss;
  own[HEIGHT]! -= loss;
}

const apart2 = (edge: Sheet['edges'][number]): number => apart(edge[0]!, edge[edge.length - 1]!);

/** Where the edges cross, by the line through each one's ends: corner k is where edge k begins. */
function roughCorners({ edges }: Pick<Sheet, 'edges'>, place: Place): (readonly [number, number])[] | null {
  const lines = edges.map((e) => [place(e[0]!), place(e[e.length - 1]!)] as const);
  const corners: (readonly [number, number])[] = [];
  for (let k = 0; k < 4; k++) {
    const [p, q] = lines[(k + 3) % 4]!;
    const [r, t] = lines[k]!;
    if (!p || !q || !r || !t) return null;
    const det = (q[0] - p[0]) * (t[1] - r[1]) - (q[1] - p[1]) * (t[0] - r[0]);
    if (det === 0) return null;
    const share = ((r[0] - p[0]) * (t[1] - r[1]) - (r[1] - p[1]) * (t[0] - r[0])) / det;
    corners.push([p[0] + share * (q[0] - p[0]), p[1] + share * (q[1] - p[1])]);
  }
  return corners;
}
