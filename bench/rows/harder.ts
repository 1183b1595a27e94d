import sharp from 'sharp';
import { locateEdge } from '../../core/src/edge';
import { radiusSigma } from '../../core/src/edge/snapCircle';
import { findDisc } from '../../core/src/find';
import { fitCircle } from '../../core/src/fit';
import { seededRandom } from '../../core/src/numeric';
import type { Pixels } from '../../core/src/raster';
import { buildCamera, type Camera, pictureOf } from '../../rig/src/camera';
import { type CoinKind, type HoleStep, harderCoin, harderHoles } from '../../rig/src/harder';
import { shoot } from '../../rig/src/render';
import { type Coin, type Plate, type Scene, toScene } from '../../rig/src/scene';

/** A scene as a phone's file has it: JPEG with its colours at half the size. */
async function photographed(scene: Scene): Promise<Pixels> {
  const { pixels, width, height } = shoot(scene);
  const bytes = await sharp(pixels, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 90, chromaSubsampling: '4:2:0' })
    .toBuffer();
  const { data } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { width, height, data };
}

export interface CoinRow {
  scenes: number;
  /** Its own rim, within 2.5 % of its size. */
  right: number;
  /** Another circle, and nothing said of a doubt. */
  wrong: number;
  /** Another circle, with a doubt said or the right one offered beside it. */
  doubted: number;
  refused: number;
}

const RIGHT_SHARE = 0.025;

export async function measureCoins(kind: CoinKind, firstSeed: number, scenes: number): Promise<CoinRow> {
  const row: CoinRow = { scenes, right: 0, wrong: 0, doubted: 0, refused: 0 };
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
  }
  return row;
}

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

export const HOLE_STEPS: readonly HoleStep[] = [
  { light: 0.15, colour: 0.05 },
  { light: 0.05, colour: 0.05 },
  { light: 0.05, colour: 0.2 },
  { light: 0.03, colour: 0.3 },
  { light: 0, colour: 0.3 },
  { light: 0.15, colour: 0.05, depthMm: 0.5 },
];

export interface HoleRow {
  holes: number;
  found: number;
  /** Share of diameters within their ±. */
  held: number;
  /** 95 % of diameters lie so close, mm. */
  within95Mm: number;
  plusMinusMm: number;
}

const RIM_PLACES = 20;

/** Diameters of holes by twenty places of each rim, picked roughly, through the true camera. */
export async function measureHoles(step: HoleStep, firstSeed: number, scenes: number): Promise<HoleRow> {
  const errors: { mm: number; plusMinus: number }[] = [];
  let holes = 0;
  for (let k = 0; k < scenes; k++) {
    const seed = firstSeed + k;
    const { scene, plate } = harderHoles(step, seed);
    const pixels = await photographed(scene);
    const camera = buildCamera(scene.camera);
    const random = seededRandom(seed);
    for (const form of plate.forms.slice(1)) {
      if (form.kind !== 'circle') continue;
      holes += 1;
      const measured = diameterOf(pixels, camera, plate, form, random);
      if (measured) errors.push({ mm: measured.mm - 2 * form.radius, plusMinus: measured.plusMinus });
    }
  }
  const sorted = errors.map((e) => Math.abs(e.mm)).sort((a, b) => a - b);
  return {
    holes,
    found: errors.length,
    held: errors.filter((e) => Math.abs(e.mm) <= e.plusMinus).length / Math.max(1, errors.length),
    within95Mm: sorted[Math.floor(0.95 * sorted.length)] ?? Number.NaN,
    plusMinusMm: errors.map((e) => e.plusMinus).sort((a, b) => a - b)[errors.length >> 1] ?? Number.NaN,
  };
}

/** Where a picked place lies on a plate's face: inverse of the true camera by a few steps of Newton's. */
function onFace(camera: Camera, z: number, u: number, v: number, near: { x: number; y: number }) {
  let { x, y } = near;
  for (let k = 0; k < 6; k++) {
    const at = (dx: number, dy: number) => pictureOf(camera, { x: x + dx, y: y + dy, z })!;
    const [p, q] = at(0, 0);
    const [px, qx] = at(1e-3, 0).map((w, c) => (w - [p, q][c]!) / 1e-3) as [number, number];
    const [py, qy] = at(0, 1e-3).map((w, c) => (w - [p, q][c]!) / 1e-3) as [number, number];
    const det = px * qy - py * qx;
    x += ((u - p) * qy - (v - q) * py) / det;
    y += ((v - q) * px - (u - p) * qx) / det;
  }
  return { x, y };
}

/** As `harderHoles` photographs them. */
const PX_PER_MM = 20;

function diameterOf(
  pixels: Pixels,
  camera: Camera,
  plate: Pick<Plate, 'lie' | 'base' | 'thickness'>,
  hole: { centre: { x: number; y: number }; radius: number },
  random: () => number,
): { mm: number; plusMinus: number } | null {
  const z = plate.base + plate.thickness;
  const places = Array.from({ length: RIM_PLACES }, (_, k) => {
    const t = (2 * Math.PI * k) / RIM_PLACES;
    const [x, y] = toScene(
      plate.lie,
      hole.centre.x + hole.radius * Math.cos(t),
      hole.centre.y + hole.radius * Math.sin(t),
    );
    const [u, v] = pictureOf(camera, { x, y, z })!;
    const found = locateEdge(pixels, u + 3 * (random() - 0.5), v + 3 * (random() - 0.5));
    if (!found) return null;
    return { ...onFace(camera, z, found.uPx, found.vPx, { x, y }), sigmaPx: found.sigmaPx, softPx: found.softPx };
  }).filter((p): p is NonNullable<typeof p> => p !== null);
  if (places.length < RIM_PLACES / 2) return null;
  const fit = fitCircle(
    places.map(({ x, y }) => ({ x, y })),
    places.map((p) => p.sigmaPx),
  );
  if (!fit) return null;
  const scatterPx = PX_PER_MM * fit.scatter;
  const sigmaPx = radiusSigma(places, scatterPx, places.length);
  return { mm: 2 * fit.radius, plusMinus: (2 * 2 * sigmaPx) / PX_PER_MM };
}
