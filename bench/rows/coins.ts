import { calibrate, type Disc, distance, figureOf, type PlanePick } from '../../core/src/calibration';
import { type DiscFound, findDisc } from '../../core/src/find';
import { seededRandom } from '../../core/src/numeric';
import type { Pixels } from '../../core/src/raster';
import { buildCamera, type Camera, pictureOf } from '../../rig/src/camera';
import { type CoinKind, harderCoin } from '../../rig/src/harder';
import type { Coin } from '../../rig/src/scene';
import { photographed } from './photographed';

export interface CoinRow {
  scenes: number;
  /** Its own rim: the ellipse of its places within 2.5 % of its outline. */
  right: number;
  /** Lengths on the table by this coin alone that lie within the ± told, of all that were found. */
  held: number;
  /** Half of them are told to so much, 95 % are so far off, as shares. */
  told: number;
  off95: number;
  /** Another circle, and nothing said of a doubt. */
  wrong: number;
  /** Another circle, with a doubt said or the right one offered beside it. */
  doubted: number;
  refused: number;
}

const RIGHT_SHARE = 0.025;

export async function measureCoins(kind: CoinKind, firstSeed: number, scenes: number): Promise<CoinRow> {
  const row: CoinRow = {
    scenes,
    right: 0,
    held: 0,
    told: Number.NaN,
    off95: Number.NaN,
    wrong: 0,
    doubted: 0,
    refused: 0,
  };
  const lengths: { off: number; told: number }[] = [];
  for (let k = 0; k < scenes; k++) {
    const seed = firstSeed + k;
    const { scene, coin } = harderCoin(kind, seed);
    const pixels = await photographed(scene);
    const camera = buildCamera(scene.camera);
    const random = seededRandom(seed);
    const [angle, far] = [6.28 * random(), 0.3 * coin.diameterMm * random()];
    const click = pictureOf(camera, {
      x: coin.lie.x + far * Math.cos(angle),
      y: coin.lie.y + far * Math.sin(angle),
      z: coin.thickness,
    })!;
    const found = findDisc(pixels, { uPx: click[0], vPx: click[1] });
    const trueArea = outlineArea(camera, coin);
    if (!found.ok) {
      row.refused += 1;
      continue;
    }
    const ratio = Math.sqrt((Math.PI * found.ellipse.a * found.ellipse.b) / trueArea);
    if (Math.abs(ratio - 1) < RIGHT_SHARE) row.right += 1;
    else if (found.doubt) row.doubted += 1;
    else row.wrong += 1;
    lengths.push(lengthBy(found, coin, camera, pixels));
  }
  row.held = lengths.filter((l) => l.off <= l.told).length;
  row.told = lengths.map((l) => l.told).sort((a, b) => a - b)[lengths.length >> 1] ?? Number.NaN;
  row.off95 = lengths.map((l) => l.off).sort((a, b) => a - b)[Math.floor(0.95 * lengths.length)] ?? Number.NaN;
  return row;
}

/** Length that is measured on the table beside the coin, mm. */
const LENGTH_MM = 20;

/** How far a length on the table comes out wrong when the coin alone makes the picture true, and its ±, as shares. */
function lengthBy(
  { rim, foot }: DiscFound,
  coin: Coin,
  camera: Camera,
  { width, height }: Pixels,
): { off: number; told: number } {
  const { diameterMm, thickness, lie } = coin;
  const disc: Disc = {
    id: 'coin',
    kind: 'disc',
    plane: 'table',
    rim,
    ...(foot && { foot }),
    diameterMm,
    plusMinusMm: COIN_MADE_MM,
    thicknessMm: thickness,
  };
  const result = calibrate({
    facts: {
      widthPx: width,
      heightPx: height,
      focal35Mm: (FULL_FRAME_MM * camera.cPx) / Math.hypot(width, height),
      focalMm: null,
      doubts: [],
      resolution: null,
    },
    lens: 'photo',
    believeResolution: false,
    hold: 'free',
    planes: [{ id: 'table', heightMm: 0, plusMinusMm: 0 }],
    references: [disc],
  });
  const ends = [-0.5, 0.5].map((t): PlanePick => {
    const [u, v] = pictureOf(camera, { x: lie.x + t * LENGTH_MM, y: lie.y, z: 0 })!;
    return { uPx: u, vPx: v, sigmaPx: 0, plane: 'table' };
  });
  const figure = result.ok ? figureOf(result.calibration, ends, distance) : null;
  if (!figure) return { off: Number.POSITIVE_INFINITY, told: 0 };
  return { off: Math.abs(figure.value / LENGTH_MM - 1), told: figure.plusMinus / LENGTH_MM };
}

/** A coin's size is known to so much, and the diagonal of the format that focal lengths are told for, mm. */
const COIN_MADE_MM = 0.05;
const FULL_FRAME_MM = 43.27;

/** A coin's rim bulges most from here to as far below its face, mm. */
const BEVEL_MM = 0.22;

/** Area of a coin's outline as the picture shows it, px²: of the hull round its widest circles. */
function outlineArea(camera: Camera, { lie, thickness, diameterMm }: Coin): number {
  const places = [BEVEL_MM, thickness - BEVEL_MM].flatMap((z) =>
    Array.from({ length: 180 }, (_, k) => {
      const t = (2 * Math.PI * k) / 180;
      const [x, y] = [lie.x + (diameterMm / 2) * Math.cos(t), lie.y + (diameterMm / 2) * Math.sin(t)];
      return pictureOf(camera, { x, y, z })!;
    }),
  );
  // The furthest place in each direction: corners of the hull, closely enough.
  const hull = Array.from({ length: 360 }, (_, k) => {
    const [c, s] = [Math.cos((Math.PI * k) / 180), Math.sin((Math.PI * k) / 180)];
    return places.reduce((best, p) => (p[0] * c + p[1] * s > best[0] * c + best[1] * s ? p : best));
  });
  return Math.abs(
    hull.reduce((area, [u, v], k) => {
      const [p, q] = hull[(k + 1) % hull.length]!;
      return area + (u * q - p * v) / 2;
    }, 0),
  );
}
