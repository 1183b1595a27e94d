import { locateEdge, locateEdges, type PlaneSeen, snapCircle } from '../../core/src/edge';
import { radiusSigma } from '../../core/src/edge/snapCircle';
import { fitCircle } from '../../core/src/fit';
import { circleThrough, type Vec2 } from '../../core/src/geometry';
import { seededRandom } from '../../core/src/numeric';
import { settlePath } from '../../core/src/outline';
import type { Pixels } from '../../core/src/raster';
import { MAIN_SKETCH, newSketch, putForm } from '../../core/src/sketch';
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
  // Kinds that nothing was chosen by: a hard shadow on a rough table, and deep holes in a sheet that stands out.
  { light: 0.1, colour: 0.1, depthMm: 0.25, shadow: { dark: 0.45, softMm: 0.1 }, grain: 0.12 },
  { light: 0.25, colour: 0.1, depthMm: 1.5, shadow: { dark: 0.45, softMm: 0.3 } },
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

/** How a hole is measured: by places picked on its rim, or by a circle drawn roughly, within an outline or on its own. */
export const HOLE_WAYS = [
  'twenty places',
  'drawn roughly, its depth said',
  'so in an outline',
  'so, settled on its edge',
] as const;
export type HoleWay = (typeof HOLE_WAYS)[number];

const RIM_PLACES = 20;

/** Diameters of holes, each in every way, through the true camera. */
export async function measureHoles(
  step: HoleStep,
  firstSeed: number,
  scenes: number,
): Promise<Record<HoleWay, HoleRow>> {
  const errors = HOLE_WAYS.map((): { mm: number; plusMinus: number }[] => []);
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
      const plane = planeOf(camera, plate, form.centre);
      const drawn = {
        centre: { x: form.centre.x + 0.1 * (random() - 0.5), y: form.centre.y + 0.1 * (random() - 0.5) },
        radius: form.radius + 0.15 * (random() - 0.5),
      };
      const measured = [
        byPlaces(pixels, plane, form, random),
        bySnapping(snapCircle(pixels, plane, drawn)),
        bySnapping(snapCircle(pixels, plane, drawn, 'edge', 'inside')),
        bySettling(pixels, plane, drawn),
      ];
      measured.forEach((m, way) => {
        if (m) errors[way]!.push({ mm: m.mm - 2 * form.radius, plusMinus: m.plusMinus });
      });
    }
  }
  return Object.fromEntries(HOLE_WAYS.map((way, k) => [way, summed(errors[k]!, holes)])) as Record<HoleWay, HoleRow>;
}

function summed(errors: readonly { mm: number; plusMinus: number }[], holes: number): HoleRow {
  const sorted = errors.map((e) => Math.abs(e.mm)).sort((a, b) => a - b);
  return {
    holes,
    found: errors.length,
    held: errors.filter((e) => Math.abs(e.mm) <= e.plusMinus).length / Math.max(1, errors.length),
    within95Mm: sorted[Math.floor(0.95 * sorted.length)] ?? Number.NaN,
    plusMinusMm: errors.map((e) => e.plusMinus).sort((a, b) => a - b)[errors.length >> 1] ?? Number.NaN,
  };
}

/** A plate's face as the true camera sees it; back from the picture by a few steps of Newton's. */
function planeOf(camera: Camera, plate: Pick<Plate, 'lie' | 'base' | 'thickness'>, near: Vec2): Required<PlaneSeen> {
  const seen = (x: number, y: number, z: number) => {
    const [sx, sy] = toScene(plate.lie, x, y);
    const [uPx, vPx] = pictureOf(camera, { x: sx, y: sy, z })!;
    return { uPx, vPx };
  };
  const face = plate.base + plate.thickness;
  return {
    toPicture: ({ x, y }) => seen(x, y, face),
    toFoot: ({ x, y }) => seen(x, y, plate.base),
    toPlane({ uPx, vPx }) {
      let { x, y } = near;
      for (let k = 0; k < 6; k++) {
        const [at, right, up] = [seen(x, y, face), seen(x + 1e-3, y, face), seen(x, y + 1e-3, face)];
        const [px, qx] = [(right.uPx - at.uPx) / 1e-3, (right.vPx - at.vPx) / 1e-3];
        const [py, qy] = [(up.uPx - at.uPx) / 1e-3, (up.vPx - at.vPx) / 1e-3];
        const det = px * qy - py * qx;
        x += ((uPx - at.uPx) * qy - (vPx - at.vPx) * py) / det;
        y += ((vPx - at.vPx) * px - (uPx - at.uPx) * qx) / det;
      }
      return { x, y };
    },
  };
}

/** As `harderHoles` photographs them. */
const PX_PER_MM = 20;

const bySnapping = (found: { radius: number; radiusSigmaPx: number } | null) =>
  found && { mm: 2 * found.radius, plusMinus: (2 * 2 * found.radiusSigmaPx) / PX_PER_MM };

/** A circle that was drawn roughly within an outline, settled by all of its edge. */
function bySettling(
  pixels: Pixels,
  plane: Required<PlaneSeen>,
  drawn: { centre: Vec2; radius: number },
): { mm: number; plusMinus: number } | null {
  const sketch = newSketch(MAIN_SKETCH, '', null);
  const asSeen = { picture: 'picture', sigmaPx: 1, plane: 'face', snappedTo: 'free' as const, neighbouringEdge: null };
  let named = 0;
  putForm(
    sketch,
    { kind: 'circle', ...drawn },
    { id: 'hole', name: 'Hole', role: 'cut', layer: null },
    (place) => ({ ...asSeen, ...plane.toPicture(place)! }),
    () => `id-${named++}`,
  );
  const to = { sketch, path: sketch.paths.hole!, only: null, picture: 'picture' };
  const mapper = { toPlace: plane.toPlane, toPicture: plane.toPicture };
  const settled = settlePath(to, mapper, {
    edges: ({ uPx, vPx }, searchPx) => locateEdges(pixels, uPx, vPx, { searchPx }),
    round: (circle) => snapCircle(pixels, plane, circle, 'edge', 'inside'),
  });
  if (!settled.ok) return null;
  const [a, b, c] = Object.values(settled.picks).map((p) => ({ sigmaPx: p.sigmaPx, at: plane.toPlane(p)! }));
  const circle = circleThrough(a!.at, b!.at, c!.at);
  return circle && { mm: 2 * circle.radius, plusMinus: (2 * 2 * a!.sigmaPx) / Math.sqrt(3) / PX_PER_MM };
}

function byPlaces(
  pixels: Pixels,
  plane: PlaneSeen,
  hole: { centre: Vec2; radius: number },
  random: () => number,
): { mm: number; plusMinus: number } | null {
  const places = Array.from({ length: RIM_PLACES }, (_, k) => {
    const t = (2 * Math.PI * k) / RIM_PLACES;
    const at = plane.toPicture({
      x: hole.centre.x + hole.radius * Math.cos(t),
      y: hole.centre.y + hole.radius * Math.sin(t),
    })!;
    const found = locateEdge(pixels, at.uPx + 3 * (random() - 0.5), at.vPx + 3 * (random() - 0.5));
    return found && { ...plane.toPlane(found)!, sigmaPx: found.sigmaPx, softPx: found.softPx };
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
