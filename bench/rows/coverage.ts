import {
  distance,
  figureOf,
  type Hold,
  knownLengthSigmaMm,
  type Pick,
  RULER,
  type Stroke,
  type Strokes,
  truePicture,
  type Yardstick,
} from '../../core/src/truing';
import { type DrawnScene, drawScene } from '../drawScene';

/** A way of saying what is known, as lengths between places of the scene, mm. */
export interface KnownWay {
  name: string;
  hold: Hold;
  /** Tilts beyond this are not drawn, rad. */
  mostTilt?: number;
  lengths: readonly {
    from: [number, number];
    to: [number, number];
    plane: 'yardstick' | 'face';
    plusMinusMm: number | null;
    /** The millimetre strokes between both ends are counted. */
    strokes?: boolean;
  }[];
}

const RULE = { from: [-75, -55], to: [75, -55], plane: 'yardstick', plusMinusMm: null } as const;
const ACROSS = { from: [60, -30], to: [60, 60], plane: 'face', plusMinusMm: 0.05 } as const;
const OPPOSITE = { from: [-60, 55], to: [60, 55], plane: 'face', plusMinusMm: 0.05 } as const;
const OTHER = { from: [-65, -30], to: [-65, 50], plane: 'face', plusMinusMm: 0.05 } as const;

const mutable = (l: typeof RULE | typeof ACROSS | typeof OPPOSITE | typeof OTHER) => ({
  ...l,
  from: [...l.from] as [number, number],
  to: [...l.to] as [number, number],
});

export const KNOWN_WAYS: readonly KnownWay[] = [
  { name: 'one ruler, two readings, held anyhow', hold: 'free', lengths: [RULE].map(mutable) },
  { name: 'one ruler, two readings, held flat-on', hold: 'flat-on', lengths: [RULE].map(mutable) },
  { name: 'a ruler and a length across', hold: 'free', lengths: [RULE, ACROSS].map(mutable) },
  { name: 'a ruler, a length across, one opposite', hold: 'free', lengths: [RULE, ACROSS, OPPOSITE].map(mutable) },
  { name: 'four known lengths round the part', hold: 'free', lengths: [RULE, ACROSS, OPPOSITE, OTHER].map(mutable) },
];

const STROKES = { ...mutable(RULE), strokes: true };
const ROWS_TILT = (20 * Math.PI) / 180;

/** The same with the ruler's strokes taken as lines. */
export const STROKE_WAYS: readonly KnownWay[] = [
  { name: 'one ruler by its strokes, tilt to 20°', hold: 'free', mostTilt: ROWS_TILT, lengths: [STROKES] },
  { name: 'one ruler by its strokes, any tilt', hold: 'free', lengths: [STROKES] },
];

export interface Coverage {
  scenes: number;
  held: number;
  /** Error of a 100 mm distance, mm: median and 95 % quantile. */
  medianMm: number;
  q95Mm: number;
  /** Median of the ± told, mm per 100 mm. */
  toldMm: number;
}

/** Distances anywhere on the face, of 60 to 110 mm, compared with their ±. */
export function measureCoverage(way: KnownWay, firstSeed: number, scenes: number): Coverage {
  const errors: number[] = [];
  const told: number[] = [];
  let held = 0;
  for (let seed = firstSeed; errors.length < scenes; seed++) {
    const scene = drawScene(seed, way.hold, way.mostTilt);
    const yardsticks: Yardstick[] = [];
    for (const [k, l] of way.lengths.entries()) {
      const from = scene.pickOf(...l.from, l.plane);
      const to = scene.pickOf(...l.to, l.plane);
      if (!from || !to) break;
      const true_ = Math.hypot(l.to[0] - l.from[0], l.to[1] - l.from[1]);
      const sigma = knownLengthSigmaMm({ lengthMm: true_, plusMinusMm: l.plusMinusMm });
      yardsticks.push({
        id: `y${k}`,
        kind: 'known-length',
        plane: l.plane,
        from,
        to,
        lengthMm: true_ + sigma * scene.normal(),
        plusMinusMm: l.plusMinusMm,
        strokes: l.strokes ? drawStrokes(scene, l.from, true_, l.plane) : null,
      });
    }
    const angle = seed * 2.399;
    const half = 30 + ((seed * 0.618) % 1) * 25;
    const middle: [number, number] = [30 * Math.cos(seed), 25 * Math.sin(seed * 1.7)];
    const ends = [-1, 1].map((s) =>
      scene.pickOf(middle[0] + s * half * Math.cos(angle), middle[1] + s * half * Math.sin(angle), 'face'),
    );
    if (yardsticks.length < way.lengths.length || !ends[0] || !ends[1]) continue;
    const result = truePicture({ ...scene.input, yardsticks }, { seed });
    const found = result.ok ? figureOf(result.truing, [ends[0], ends[1]], distance) : null;
    if (!found) {
      errors.push(Number.POSITIVE_INFINITY);
      continue;
    }
    const error = Math.abs(found.value - 2 * half);
    if (error <= found.plusMinus) held += 1;
    errors.push((error * 100) / (2 * half));
    told.push((found.plusMinus * 100) / (2 * half));
  }
  errors.sort((p, q) => p - q);
  told.sort((p, q) => p - q);
  return {
    scenes,
    held,
    medianMm: errors[scenes >> 1],
    q95Mm: errors[Math.floor(0.95 * scenes)],
    toldMm: told[told.length >> 1],
  };
}

/** What the locator tells of half a stroke, and of a place on a ruler's edge, px. */
const STROKE_SIGMA_PX = 0.06;
/** The edge stands above the row of the readings; strokes of one, five and ten, mm. */
const ABOVE_MM = 2;
const ONES = 3.2;
const FIVES = 4.8;
const TENS = 6.6;

/** The strokes of a ruler along x, with an error of its spacing and a skew as rulers have them. */
function drawStrokes(
  scene: DrawnScene,
  [left, row]: [number, number],
  lengthMm: number,
  plane: 'yardstick' | 'face',
): Strokes {
  const stretch = 1 + RULER.sigmaSpacing * scene.normal();
  const skew = RULER.sigmaSkew * scene.normal();
  const strokes: Stroke[] = [];
  const edge: Pick[] = [];
  const rim = row + ABOVE_MM;
  for (let n = 0; n <= Math.round(lengthMm); n++) {
    const x = left + n * stretch;
    const length = n % 10 === 0 ? TENS : n % 5 === 0 ? FIVES : ONES;
    const places = [0.25, 0.75].flatMap(
      (share) => scene.pickOf(x + Math.tan(skew) * share * length, rim - share * length, plane, STROKE_SIGMA_PX) ?? [],
    );
    if (places.length) strokes.push({ n, places });
    const place = n % 4 === 2 ? scene.pickOf(x + 0.5, rim, plane, STROKE_SIGMA_PX) : null;
    if (place) edge.push(place);
  }
  return { spacingMm: 1, strokes, edge };
}
