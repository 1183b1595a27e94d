import { locateEdge } from '../../core/src/edge';
import { radiusSigma } from '../../core/src/edge/snapCircle';
import { fitCircle } from '../../core/src/fit';
import { seededRandom } from '../../core/src/numeric';
import type { Pixels } from '../../core/src/raster';
import { buildCamera, type Camera, pictureOf } from '../../rig/src/camera';
import { type HoleStep, harderHoles } from '../../rig/src/harder';
import { type Plate, toScene } from '../../rig/src/scene';
import { photographed } from './photographed';

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
