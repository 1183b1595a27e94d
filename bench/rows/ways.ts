import {
  CALIPER,
  DISC,
  GRID,
  type Graduation,
  knownLengthSigmaMm,
  type PixelPick,
  type Reference,
  RULER,
  rulerWidthSigmaMm,
  SHEET,
  type Sheet,
} from '../../core/src/calibration';
import { pictureOf } from '../../rig/src/camera';
import { type DrawnScene, GRADUATION_SIGMA_PX, PICK_SIGMA_PX, type PlaneName } from '../drawScene';
import type { KnownWay } from './coverage';

const degrees = (d: number): number => (d * Math.PI) / 180;
type Place = [number, number];

/** What the locator tells of a place on an edge or a rim, and of a crossing, px. */
const PLACE_SIGMA_PX = 0.06;

function length(
  scene: DrawnScene,
  id: string,
  a: Place,
  b: Place,
  plane: PlaneName,
  plusMinusMm: number | null,
): Reference | null {
  const [from, to] = [scene.pickOf(...a, plane, PICK_SIGMA_PX), scene.pickOf(...b, plane, PICK_SIGMA_PX)];
  if (!from || !to) return null;
  const true_ = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const lengthMm = true_ + knownLengthSigmaMm({ lengthMm: true_, plusMinusMm }) * scene.normal();
  return { id, kind: 'known-length', plane, from, to, lengthMm, plusMinusMm, graduations: null };
}

/** The edge stands above the row of the readings; strokes of one, five and ten, mm. */
const ABOVE_MM = 2;
const [ONES, FIVES, TENS] = [3.2, 4.8, 6.6];
/** From edge to edge, as steel rules of this length are. */
const WIDTH_MM = 19;

/** A ruler of millimetres from a place on, turned, with an error of its spacing and a skew as rulers have them. */
function ruler(
  scene: DrawnScene,
  id: string,
  [x0, y0]: Place,
  turn: number,
  lengthMm: number,
  widthPlusMinusMm: number | null = null,
): Reference | null {
  const stretch = 1 + RULER.sigmaSpacing * scene.normal();
  const skew = RULER.sigmaSkew * scene.normal();
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const pick = (x: number, y: number, sigma: number) =>
    scene.pickOf(x0 + c * x - s * y, y0 + s * x + c * y, 'reference', sigma);
  const graduations: Graduation[] = [];
  const edge: PixelPick[] = [];
  const far: PixelPick[] = [];
  const taper = RULER.sigmaTaper * scene.normal();
  const width =
    WIDTH_MM + (widthPlusMinusMm === null ? 0 : rulerWidthSigmaMm({ plusMinusMm: widthPlusMinusMm }) * scene.normal());
  for (let n = 0; n <= lengthMm; n++) {
    const deep = n % 10 === 0 ? TENS : n % 5 === 0 ? FIVES : ONES;
    const places = [0.25, 0.75].flatMap(
      (share) => pick(n * stretch + Math.tan(skew) * share * deep, ABOVE_MM - share * deep, GRADUATION_SIGMA_PX) ?? [],
    );
    if (places.length) graduations.push({ n, places });
    const place = n % 4 === 2 ? pick(n * stretch, ABOVE_MM, PLACE_SIGMA_PX) : null;
    if (place) edge.push(place);
    const other = n % 4 === 2 ? pick(n * stretch, ABOVE_MM - width - taper * (n - lengthMm / 2), PLACE_SIGMA_PX) : null;
    if (other) far.push(other);
  }
  const [from, to] = [pick(0, 0, PICK_SIGMA_PX), pick(lengthMm * stretch, 0, PICK_SIGMA_PX)];
  if (!from || !to) return null;
  const graduationsSeen = { spacingMm: 1, graduations, edge, far };
  return {
    id,
    kind: 'known-length',
    plane: 'reference',
    from,
    to,
    lengthMm,
    plusMinusMm: null,
    graduations: graduationsSeen,
    width: widthPlusMinusMm === null ? null : { widthMm: WIDTH_MM, plusMinusMm: widthPlusMinusMm },
  };
}

/** A coin on the references' plane, worn and rounded as coins are; its rim as it is seen from the lens. */
function coin(scene: DrawnScene, [x, y]: Place): Reference | null {
  const [diameterMm, thicknessMm] = [23.25, 2.33];
  const { normal, camera, heights } = scene;
  const radius = (diameterMm + DISC.sigmaDiameterMm * normal()) / 2;
  const bevel = DISC.bevelMm + DISC.sigmaBevelMm * normal();
  const [p, q] = [DISC.sigmaOvalMm * normal(), DISC.sigmaOvalMm * normal()];
  const rings = [thicknessMm - bevel, bevel].map((z) =>
    Array.from({ length: 1440 }, (_, k) => {
      const a = (2 * Math.PI * k) / 1440;
      const r = radius + p * Math.cos(2 * a) + q * Math.sin(2 * a);
      return pictureOf(camera, { x: x + r * Math.cos(a), y: y + r * Math.sin(a), z: heights.reference + z });
    }),
  );
  const middle = pictureOf(camera, { x, y, z: heights.reference + thicknessMm / 2 });
  if (!middle || rings.flat().some((r) => !r)) return null;
  const rim = Array.from({ length: 72 }, (_, k): PixelPick => {
    const angle = (2 * Math.PI * k) / 72;
    // Of both rims the one that reaches further out in this direction.
    const far = rings.map((ring) => {
      let [turn, reach] = [2, 0];
      for (const at of ring) {
        const [u, v] = [(at as Place)[0] - middle[0], (at as Place)[1] - middle[1]];
        const off = Math.abs(Math.sin((Math.atan2(v, u) - angle) / 2));
        if (off < turn) [turn, reach] = [off, Math.hypot(u, v)];
      }
      return reach;
    });
    const reach = Math.max(...far) + PLACE_SIGMA_PX * normal();
    return {
      uPx: middle[0] + reach * Math.cos(angle),
      vPx: middle[1] + reach * Math.sin(angle),
      sigmaPx: PLACE_SIGMA_PX,
    };
  });
  if (rim.some((r) => r.uPx < 0 || r.vPx < 0 || r.uPx > 4032 || r.vPx > 3024)) return null;
  return { id: 'coin', kind: 'disc', plane: 'reference', rim, diameterMm, plusMinusMm: null, thicknessMm };
}

/** A5 measured to 0.05 mm, its edges slightly bowed as cut and curled paper is. */
function sheet(scene: DrawnScene): Reference | null {
  const [w, h] = [210, 148];
  const { normal } = scene;
  const [width, height] = [w + 0.025 * normal(), h + 0.025 * normal()];
  const skew = SHEET.sigmaSkew * normal();
  const bows = [0, 1, 2, 3].map(() => 0.01 * normal());
  const c: Place[] = [
    [-w / 2, -h / 2],
    [-w / 2 + width, -h / 2],
    [-w / 2 + width + skew * height, -h / 2 + height],
    [-w / 2 + skew * height, -h / 2 + height],
  ];
  const edges = c.map(([x, y], k) => {
    const [p, q] = c[(k + 1) % 4]!;
    const long = Math.hypot(p - x, q - y);
    return Array.from({ length: 44 }, (_, n) => {
      const t = 0.06 + (0.88 * (n + 0.5)) / 44;
      const bow = bows[k]! * 4 * t * (1 - t);
      return scene.pickOf(
        x + t * (p - x) - (bow * (q - y)) / long,
        y + t * (q - y) + (bow * (p - x)) / long,
        'reference',
        PLACE_SIGMA_PX,
      );
    });
  });
  if (edges.flat().some((e) => !e)) return null;
  return {
    id: 'sheet',
    kind: 'sheet',
    plane: 'reference',
    edges: edges as PixelPick[][] as Sheet['edges'],
    widthMm: w,
    heightMm: h,
    plusMinusMm: 0.05,
  };
}

/** A grid of 10 mm, measured to 0.05 mm over all of it; a part hides its middle. */
function grid(scene: DrawnScene): Reference | null {
  const plusMinusShare = 0.05 / 180;
  const sigma = plusMinusShare / 2;
  const stretch = 1 + sigma * scene.normal();
  const ratio = sigma * GRID.ratioShare * scene.normal();
  const skew = sigma * GRID.skewShare * scene.normal();
  const crossings = Array.from({ length: 19 * 14 }, (_, k) => [k % 19, Math.floor(k / 19)] as const).flatMap(
    ([i, j]) => {
      if (Math.abs(i - 9) < 4 && Math.abs(j - 6.5) < 3) return [];
      const [x, y] = [10 * i * stretch + skew * 10 * j, 10 * j * (stretch + ratio)];
      const own = GRID.sigmaCrossingMm;
      const pick = scene.pickOf(
        x - 90 + own * scene.normal(),
        y - 65 + own * scene.normal(),
        'reference',
        PLACE_SIGMA_PX,
      );
      return pick ? [{ i, j, pick }] : [];
    },
  );
  return crossings.length < 60
    ? null
    : { id: 'grid', kind: 'grid', plane: 'reference', crossings, pitchMm: 10, plusMinusShare };
}

const all = (...list: (Reference | null)[]): Reference[] | null => (list.includes(null) ? null : (list as Reference[]));

const RULE = (s: DrawnScene) => length(s, 'rule', [-75, -55], [75, -55], 'reference', null);
const ACROSS = (s: DrawnScene) => length(s, 'across', [60, -30], [60, 60], 'face', 0.05);
const OPPOSITE = (s: DrawnScene) => length(s, 'opposite', [-60, 55], [60, 55], 'face', 0.05);
const OTHER = (s: DrawnScene) => length(s, 'other', [-65, -30], [-65, 50], 'face', 0.05);
const Graduations = (s: DrawnScene) => ruler(s, 'strokes', [-75, -57], 0, 150);
const MEASURED = (s: DrawnScene) => ruler(s, 'strokes', [-75, -57], 0, 150, CALIPER.plusMinusMm);
const UPRIGHT = (s: DrawnScene) => ruler(s, 'upright', [-82, -50], degrees(90), 120);

/** Within 100 mm of the ruler along the lower edge, any direction. */
const NEAR_RULER = { reachMm: 60, upMm: -14 } as const;

export const WAYS: readonly KnownWay[] = [
  { name: 'one ruler, two readings, held anyhow', slow: true, hold: 'free', say: (s) => all(RULE(s)) },
  { name: 'one ruler, two readings, held flat-on', hold: 'flat-on', say: (s) => all(RULE(s)) },
  { name: 'a ruler and a length across', slow: true, hold: 'free', say: (s) => all(RULE(s), ACROSS(s)) },
  {
    name: 'a ruler, a length across, one opposite',
    slow: true,
    hold: 'free',
    say: (s) => all(RULE(s), ACROSS(s), OPPOSITE(s)),
  },
  {
    name: 'four known lengths round the part',
    hold: 'free',
    say: (s) => all(RULE(s), ACROSS(s), OPPOSITE(s), OTHER(s)),
  },
  {
    name: 'one ruler by its strokes',
    errors: { wanted: '95 % ≤ 0.35 mm', tilt: 20 },
    hold: 'free',
    ...NEAR_RULER,
    say: (s) => all(Graduations(s)),
  },
  {
    name: 'one ruler by its strokes, its width measured',
    errors: { wanted: '95 % ≤ 0.35 mm', tilt: 20 },
    hold: 'free',
    ...NEAR_RULER,
    say: (s) => all(MEASURED(s)),
  },
  {
    name: 'one ruler by its strokes, saved camera',
    errors: { wanted: '95 % ≤ 0.12 mm', tilt: 20 },
    hold: 'free',
    saved: true,
    ...NEAR_RULER,
    say: (s) => all(Graduations(s)),
  },
  {
    name: 'two rulers by their strokes at right angles',
    errors: { wanted: '95 % ≤ 0.10 mm', tilt: 15 },
    hold: 'free',
    say: (s) => all(Graduations(s), UPRIGHT(s)),
  },
  {
    name: 'a ruler by its strokes and a coin opposite',
    errors: { wanted: '95 % ≤ 0.25 mm', tilt: 15 },
    hold: 'free',
    say: (s) => all(Graduations(s), coin(s, [40, 50])),
  },
  {
    name: 'a checked grid',
    errors: { wanted: 'median ≤ 0.02, 95 % ≤ 0.05 mm', tilt: 25, k1: 0.12 },
    hold: 'free',
    on: 'reference',
    say: (s) => all(grid(s)),
  },
  {
    name: 'paper measured to 0.05 mm',
    errors: { wanted: 'median ≤ 0.02, 95 % ≤ 0.05 mm', tilt: 25, k1: 0.12 },
    hold: 'free',
    on: 'reference',
    say: (s) => all(sheet(s)),
  },
  {
    name: 'a coin alone, within 60 mm',
    slow: true,
    errors: { wanted: '95 % ≤ 0.7 mm', tilt: 10 },
    hold: 'free',
    reachMm: 60,
    on: 'reference',
    say: (s) => all(coin(s, [0, 0])),
  },
  {
    name: 'a face 12 mm above the table, grid and saved camera',
    errors: { wanted: '95 % ≤ 0.08 mm', tilt: 20 },
    hold: 'free',
    saved: true,
    faceMm: 12,
    say: (s) => all(grid(s)),
  },
];
