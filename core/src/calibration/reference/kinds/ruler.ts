import type { Graduations, KnownLength, PixelPick, Reference } from '../reference';
import { addOwnPrior, addPlaced, apart, type Kind, LOOSE, placeSeen, type Seen, spreading, subsampled } from './kind';
import { knownLengthKind } from './knownLength';

/**
 * How true a ruler is: its spacing as a share, a common skew of its strokes against its edge, rad, one stroke, mm, and
 * how far its edges are from parallel, rad, and where an edge lies, mm: rulers have broken corners, and what stands
 * beside them, a wall or its shadow, hides a little of them.
 */
export const RULER = {
  sigmaSpacing: 0.0005,
  sigmaSkew: (0.15 * Math.PI) / 180,
  sigmaGraduationMm: 0.004,
  sigmaTaper: 0.0005,
  sigmaEdgeMm: 0.03,
} as const;

/**
 * A ruler's own unknowns: its direction, where stroke 0 and its edge lie off the origin, its spacing's error, its skew,
 * how far beyond its edge the other one lies at stroke 0, and how that grows along it.
 */
const [TURN, ACROSS, EDGE, STRETCH, SKEW, WIDTH, TAPER] = [0, 1, 2, 3, 4, 5, 6];
const UNKNOWNS = 7;
/** Of which this one is its size. */
export const RULER_STRETCH = STRETCH;
/** And these are its width at stroke 0, and how that grows. */
export const RULER_WIDTH = { at0: WIDTH, taper: TAPER } as const;

export type Ruler = KnownLength & { graduations: Graduations };

export const isRuler = (y: Reference): y is Ruler => y.kind === 'known-length' && Boolean(y.graduations);

/**
 * A ruler by its strokes, each a line: parallel to all others, at its own number of spacings, with one skew against
 * the edge. How they converge in the picture is what shows the tilt across the ruler.
 */
export const rulerKind: Kind<Ruler> = {
  unknowns: () => UNKNOWNS,
  addPrior(y, parameters, at, sink, freed) {
    const { plusMinusMm, lengthMm } = y;
    const spacing = plusMinusMm === null ? RULER.sigmaSpacing : Math.max(plusMinusMm / 2 / lengthMm, LEAST_SPACING);
    const size = freed ? LOOSE.share : spacing;
    const { mm, turn } = LOOSE;
    addOwnPrior(parameters, at, [turn, mm, mm, size, RULER.sigmaSkew, mm, RULER.sigmaTaper], sink);
    if (!y.width || freed) return;
    // Measured somewhere along it: the middle stands for that. The other edge lies to either side.
    const sigma = rulerWidthSigmaMm(y.width);
    const side = Math.sign(parameters[at + WIDTH]!) || 1;
    const wide = parameters[at + WIDTH]! + rulerMiddleMm(y) * parameters[at + TAPER]!;
    const off = (wide - side * y.width.widthMm) / sigma;
    const slope = doubtedSlope(off) / sigma;
    sink.add(doubted(off), [at + WIDTH, at + TAPER], [slope, rulerMiddleMm(y) * slope]);
  },
  start({ from, to, graduations: { first = 0, spacingMm, far } }, place, into, at) {
    const [a, b] = [place(from), place(to)];
    if (!a || !b) return false;
    const turn = Math.atan2(b[1] - a[1], b[0] - a[0]);
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    const up = (p: readonly [number, number]) => c * p[1] - s * p[0];
    const other = far.length ? place(far[far.length >> 1]!) : a;
    if (!other) return false;
    into.set([turn, c * a[0] + s * a[1] - first * spacingMm, up(a), 0, 0, up(other) - up(a), 0], at);
    return true;
  },
  landmarks: ({ lengthMm }, p, at) => {
    const [c, s] = [Math.cos(p[at + TURN]!), Math.sin(p[at + TURN]!)];
    return [0, lengthMm].map((along): [number, number] => [
      c * (p[at + ACROSS]! + along) - s * p[at + EDGE]!,
      s * (p[at + ACROSS]! + along) + c * p[at + EDGE]!,
    ]);
  },
  observe: observeGraduations,
  logScale: knownLengthKind.logScale as Kind<Ruler>['logScale'],
  thin: (y) => ({ ...y, graduations: subsampledGraduations(y.graduations) }),
  spread: (y, times) => {
    const { graduations, edge, far, ...rest } = y.graduations;
    const all = (picks: PixelPick[]) => picks.map(spreading(times));
    const spread = graduations.map(({ n, places }) => ({ n, places: all(places) }));
    return { ...y, graduations: { ...rest, graduations: spread, edge: all(edge), far: all(far) } };
  },
  coincides: knownLengthKind.coincides as Kind<Ruler>['coincides'],
};

/** σ of a ruler's measured width, mm: of the caliper, and of both edges as a picture shows them. */
export const rulerWidthSigmaMm = ({ plusMinusMm }: { plusMinusMm: number }): number =>
  Math.hypot(plusMinusMm / 2, RULER.sigmaEdgeMm, RULER.sigmaEdgeMm);

/**
 * What is many σ off was measured elsewhere or typed wrongly: it counts by the logarithm only (Cauchy's distribution),
 * so that it stays beside what the strokes say, and is told, instead of bending all else.
 */
const DOUBTED_SIGMAS = 2.5;
const doubted = (z: number): number => Math.sign(z) * DOUBTED_SIGMAS * Math.sqrt(Math.log1p((z / DOUBTED_SIGMAS) ** 2));
const doubtedSlope = (z: number): number => (Math.abs(z) < 1e-6 ? 1 : z / (1 + (z / DOUBTED_SIGMAS) ** 2) / doubted(z));

/** The middle of what is seen of a ruler, from its stroke 0, mm. */
export const rulerMiddleMm = ({ lengthMm, graduations: { first = 0, spacingMm } }: Ruler): number =>
  first * spacingMm + lengthMm / 2;

/** A spacing typed as exact is still not better than this, as a share. */
const LEAST_SPACING = 1e-5;

function observeGraduations(y: Ruler, seen: Seen, at: number): boolean {
  const { spacingMm, graduations, edge, far, first = 0, multiplicity = 1 } = y.graduations;
  // Scatter is in px: what it is in mm grows with the ruler, or shrinking all would make every deviation smaller.
  const mmPerPx = y.lengthMm / apart(y.from, y.to);
  const { parameters } = seen;
  const turn = parameters[at + TURN]!;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const across = parameters[at + ACROSS]!;
  const rim = parameters[at + EDGE]!;
  const stretch = 1 + parameters[at + STRETCH]!;
  const skew = parameters[at + SKEW]!;
  const width = parameters[at + WIDTH]!;
  const taper = parameters[at + TAPER]!;
  const own = [0, 0, 0, 0, 0, 0, 0];
  const sigmaOf = (sigmaPx: number) =>
    (Math.hypot(sigmaPx * mmPerPx, RULER.sigmaGraduationMm) * stretch) / Math.sqrt(multiplicity);
  for (const graduation of graduations) {
    const n = first + graduation.n;
    for (const pick of graduation.places) {
      const placed = placeSeen(seen, pick);
      if (!placed) return false;
      const x = placed.place[0]!;
      const y = placed.place[1]!;
      const along = c * x + s * y;
      const up = c * y - s * x;
      own[TURN] = up + skew * along;
      own[ACROSS] = -1;
      own[EDGE] = skew;
      own[SKEW] = rim - up;
      const off = along - across - n * spacingMm * stretch - skew * (up - rim);
      own[STRETCH] = -n * spacingMm - off / stretch;
      addPlaced(seen, pick, c + skew * s, s - skew * c, off, sigmaOf(pick.sigmaPx), at, own);
    }
  }
  for (const pick of edge) {
    const placed = placeSeen(seen, pick);
    if (!placed) return false;
    const x = placed.place[0]!;
    const y = placed.place[1]!;
    own.fill(0);
    own[TURN] = -(c * x + s * y);
    own[EDGE] = -1;
    const off = c * y - s * x - rim;
    own[STRETCH] = -off / stretch;
    addPlaced(seen, pick, -s, c, off, sigmaOf(pick.sigmaPx), at, own);
  }
  for (const pick of far) {
    const placed = placeSeen(seen, pick);
    if (!placed) return false;
    const x = placed.place[0]!;
    const y = placed.place[1]!;
    const along = c * x + s * y;
    const up = c * y - s * x;
    own[TURN] = -along - taper * up;
    own[ACROSS] = taper;
    own[EDGE] = -1;
    own[SKEW] = 0;
    own[WIDTH] = -1;
    own[TAPER] = across - along;
    const off = up - rim - width - taper * (along - across);
    own[STRETCH] = -off / stretch;
    addPlaced(seen, pick, -s - taper * c, c - taper * s, off, sigmaOf(pick.sigmaPx), at, own);
  }
  return true;
}

/** Strokes that are enough to tell where a descent leads. */
const FEW_GRADUATIONS = 16;

/** A ruler with a part of its strokes: nearly the same to know, and far less to work out. */
export function subsampledGraduations(all: Graduations): Graduations {
  const every = Math.ceil(all.graduations.length / FEW_GRADUATIONS);
  if (every <= 1) return all;
  const [graduations, edge, far] = [
    subsampled(all.graduations, every),
    subsampled(all.edge, every),
    subsampled(all.far, every),
  ];
  return { ...all, graduations, edge, far, multiplicity: every };
}
