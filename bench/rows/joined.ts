import {
  type CalibrationInput,
  distance,
  type EstimateResult,
  estimate,
  figureOf,
  type JoinedInput,
  joinPictures,
  type KnownLength,
  type PlanePick,
  RULER,
} from '../../core/src/calibration';
import { normalRandom, seededRandom } from '../../core/src/numeric';
import { buildCamera, pictureOf } from '../../rig/src/camera';
import { FACTS, GRADUATION_SIGMA_PX } from '../drawScene';
import type { Coverage } from './coverage';

/** Ends of a part that is longer than either picture, and holes that both show, mm. */
const ENDS = [
  [-200, 10],
  [205, -20],
] as const;
const HOLES = [
  [-30, -40],
  [25, 45],
  [28, -50],
] as const;
const PICK_SIGMA_PX = 0.15;
const RULE = { from: -220, y: 78, row: 2 } as const;

/** Two pictures of one part, each camera drawn from its priors, tilt to 15°, one rule of 450 mm along both. */
function drawPair(seed: number): { joined: JoinedInput; ends: PlanePick[] } {
  const random = seededRandom(seed * 7717 + 3);
  const normal = normalRandom(random);
  const stretch = 1 + RULER.sigmaSpacing * normal();
  const skew = RULER.sigmaSkew * normal();
  const views = ([-85, 90] as const).map((x, k) => {
    const camera = buildCamera({
      widthPx: FACTS.widthPx,
      heightPx: FACTS.heightPx,
      cPx: 3100 * (1 + 0.04 * normal()),
      centre: [2016 + 50 * normal(), 1512 + 50 * normal()],
      radial: [0.05 * normal(), 0.02 * normal(), 0.004 * normal()],
      decentring: [0.0003 * normal(), 0.0003 * normal()],
      target: [x, 6 * normal()],
      distanceMm: 320 + 40 * random(),
      tilt: (15 * random() * Math.PI) / 180,
      tiltTowards: 2 * Math.PI * random(),
      roll: 0.15 * normal(),
    });
    const pick = (px: number, py: number, sigmaPx: number) => {
      const [uPx, vPx] = pictureOf(camera, { x: px, y: py, z: 0 }) ?? [-1, -1];
      return { uPx: uPx + sigmaPx * normal(), vPx: vPx + sigmaPx * normal(), sigmaPx };
    };
    const on = (n: number, down: number, sigma: number) =>
      pick(RULE.from + n * stretch + skew * down, RULE.y - down, sigma);
    const [first, last] = k === 0 ? [20, 250] : [200, 425];
    const graduations = Array.from({ length: last - first + 1 }, (_, n) => ({
      n,
      places: [0.8, 2.4].map((down) => on(first + n, down, GRADUATION_SIGMA_PX)),
    }));
    const edge = Array.from({ length: 40 }, (_, n) => on(first + (n * (last - first)) / 40, 0, 0.06));
    const rule: KnownLength = {
      id: 'rule',
      kind: 'known-length',
      plane: 'table',
      from: on(first, RULE.row, PICK_SIGMA_PX),
      to: on(last, RULE.row, PICK_SIGMA_PX),
      lengthMm: last - first,
      plusMinusMm: null,
      graduations: { spacingMm: 1, first, graduations, edge, far: [] },
    };
    const input: CalibrationInput = {
      facts: { ...FACTS, focalMm: null },
      lens: 'photo',
      believeResolution: false,
      hold: 'free',
      planes: [],
      references: [rule],
    };
    return { id: `${k}`, input, pick };
  });
  const seen = (k: number, [x, y]: readonly [number, number]): PlanePick & { picture: string } => ({
    ...views[k]!.pick(x, y, PICK_SIGMA_PX),
    plane: 'table',
    picture: `${k}`,
  });
  return {
    joined: {
      pictures: views.map(({ id, input }) => ({ id, input })),
      points: HOLES.map((at, n) => ({ id: `${n}`, seen: [seen(0, at), seen(1, at)] })),
      references: [{ id: 'rule', seen: views.map(({ id }) => ({ picture: id, reference: 'rule' })) }],
    },
    ends: [seen(0, ENDS[0]), seen(1, ENDS[1])],
  };
}

/** A length of 406 mm from one end of a part to the other, over two joined pictures; errors and ± of all of it. */
export function measureJoined(firstSeed: number, scenes: number): Coverage {
  const truth = Math.hypot(ENDS[1][0] - ENDS[0][0], ENDS[1][1] - ENDS[0][1]);
  const errors: number[] = [];
  const told: number[] = [];
  let held = 0;
  let several = 0;
  for (let seed = firstSeed; errors.length < scenes; seed++) {
    const { joined, ends } = drawPair(seed);
    const found = joinPictures(joined);
    const figure = found.ok ? figureOf(found.calibrations['0']!, ends, distance) : null;
    if (found.ok && found.calibrations['0']!.otherTilts.length) several += 1;
    const error = figure ? Math.abs(figure.value - truth) : Number.POSITIVE_INFINITY;
    if (figure && error <= figure.plusMinus) held += 1;
    errors.push(error);
    told.push(figure?.plusMinus ?? Number.POSITIVE_INFINITY);
  }
  errors.sort((p, q) => p - q);
  told.sort((p, q) => p - q);
  return {
    scenes,
    held,
    medianMm: errors[scenes >> 1]!,
    q95Mm: errors[Math.floor(0.95 * scenes)]!,
    toldMm: told[scenes >> 1]!,
    several,
  };
}

/** Settling two joined pictures, ms: from nothing, and while a pick of one of them is dragged. */
export function timeJoined(): { wholeMs: number; draggedMs: number } {
  const { joined } = drawPair(5);
  const median = (work: () => void): number => {
    const times = Array.from({ length: 7 }, () => {
      const started = performance.now();
      work();
      return performance.now() - started;
    });
    return times.sort((a, b) => a - b)[3]!;
  };
  const other = estimate(joined.pictures[1]!.input);
  const single = (input: CalibrationInput): EstimateResult =>
    input === joined.pictures[1]!.input ? other : estimate(input);
  return {
    wholeMs: median(() => joinPictures(joined, { draws: 0 })),
    draggedMs: median(() => joinPictures(joined, { draws: 0, single })),
  };
}
