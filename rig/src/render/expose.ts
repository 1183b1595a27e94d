import { buildCamera, type Camera, rayOf, type ScenePoint } from '../camera';
import { type Item, type Scene, toScene } from '../scene';
import { buildGrains, type Grains, type Surface } from './surface';
import { buildSurface, shadeBench } from './surfaces';
import { meetTurned, shadeTurned } from './turned';

/** A part of the picture, px. */
export interface Frame {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** Linear light in a frame of the picture, three values a pixel, rows from the top. */
export interface Exposure extends Frame {
  light: Float32Array;
}

interface StagedBody {
  item: Item;
  surface: Surface;
  cos: number;
  sin: number;
  number: number;
  /** A circle on the table round all of it, for a quick no. */
  middleX: number;
  middleY: number;
  reachMm: number;
}

/** A scene with everything worked out that its frames share: several frames of one picture cost it once. */
export interface Stage {
  scene: Scene;
  camera: Camera;
  grains: Grains;
  /** Highest first. */
  bodies: StagedBody[];
}

/** Sub-samples each way in a pixel that a border crosses. */
const FINE = 6;

/**
 * Follows one ray through each pixel's centre, and 36 through each pixel on a border between two places, so that
 * borders stand where the geometry says to a few thousandths of a pixel.
 * @param progress told the share done, 0 to 1
 */
export function expose(stage: Stage, frame: Frame, progress?: (share: number) => void): Exposure {
  const { left, top, width, height } = frame;
  const light = new Float32Array(width * height * 3);
  // One row and column more all round, to see the borders of the frame's own rim.
  const wide = width + 2;
  const places = [new Int16Array(wide), new Int16Array(wide), new Int16Array(wide)];
  const rows = [new Float32Array(wide * 3), new Float32Array(wide * 3), new Float32Array(wide * 3)];
  const ray: ScenePoint = { x: 0, y: 0, z: 0 };
  const out = new Float64Array(3);
  const readRow = (y: number) => {
    const slot = (y + 3) % 3;
    for (let i = 0; i < wide; i++) {
      rayOf(stage.camera, left + i - 0.5, top + y + 0.5, ray);
      places[slot]![i] = lookAlong(stage, ray, out);
      rows[slot]!.set(out, i * 3);
    }
  };
  readRow(-1);
  readRow(0);
  for (let y = 0; y < height; y++) {
    readRow(y + 1);
    const [above, here, below] = [places[(y + 2) % 3]!, places[y % 3]!, places[(y + 1) % 3]!];
    const own = rows[y % 3]!;
    for (let x = 0; x < width; x++) {
      const i = x + 1;
      const place = here[i];
      const at = (y * width + x) * 3;
      if (
        here[i - 1] === place &&
        here[i + 1] === place &&
        above[i] === place &&
        below[i] === place &&
        above[i - 1] === place &&
        above[i + 1] === place &&
        below[i - 1] === place &&
        below[i + 1] === place
      ) {
        light[at] = own[i * 3]!;
        light[at + 1] = own[i * 3 + 1]!;
        light[at + 2] = own[i * 3 + 2]!;
      } else lookFinely(stage, left + x, top + y, ray, out, light, at);
    }
    if (progress && y % 128 === 0) progress(y / height);
  }
  return { ...frame, light };
}

function lookFinely(
  stage: Stage,
  x: number,
  y: number,
  ray: ScenePoint,
  out: Float64Array,
  light: Float32Array,
  at: number,
): void {
  let [r, g, b] = [0, 0, 0];
  for (let j = 0; j < FINE; j++)
    for (let i = 0; i < FINE; i++) {
      rayOf(stage.camera, x + (i + 0.5) / FINE, y + (j + 0.5) / FINE, ray);
      lookAlong(stage, ray, out);
      r += out[0]!;
      g += out[1]!;
      b += out[2]!;
    }
  const share = 1 / (FINE * FINE);
  light[at] = r * share;
  light[at + 1] = g * share;
  light[at + 2] = b * share;
}

export function setStage(scene: Scene): Stage {
  const grains = buildGrains(scene.seed);
  const bodies = scene.items
    .flatMap((item, number) => rounded(item).map((piece) => stageBody(piece, number + 1, grains)))
    .sort((a, b) => b.item.base + b.item.thickness - (a.item.base + a.item.thickness));
  return { scene, camera: buildCamera(scene.camera), grains, bodies };
}

/** A coin's edge is rounded off: it bulges most between two heights, and its face is a little narrower, mm. */
const COIN_BEVEL_MM = 0.22;
const COIN_FACE_INSET_MM = 0.15;

function rounded(item: Item): Item[] {
  if (item.kind !== 'coin') return [item];
  const { base, thickness, diameterMm } = item;
  return [
    { ...item, base: base + COIN_BEVEL_MM, thickness: thickness - 2 * COIN_BEVEL_MM },
    {
      ...item,
      base: base + thickness - COIN_BEVEL_MM,
      thickness: COIN_BEVEL_MM,
      diameterMm: diameterMm - 2 * COIN_FACE_INSET_MM,
    },
  ];
}

function stageBody(item: Item, number: number, grains: Grains): StagedBody {
  const surface = buildSurface(item, grains);
  const { minX, minY, maxX, maxY } = surface.outline;
  const [middleX, middleY] = toScene(item.lie, (minX + maxX) / 2, (minY + maxY) / 2);
  const reachMm = Math.hypot(maxX - minX, maxY - minY) / 2;
  return {
    item,
    surface,
    cos: Math.cos(item.lie.turn),
    sin: Math.sin(item.lie.turn),
    number,
    middleX,
    middleY,
    reachMm,
  };
}

/** Steps along a ray inside a body's height, in search of its wall. */
const WALL_STEPS = 4;

/** Light along a ray into `out`; returns a number for the kind of place met. */
function lookAlong(stage: Stage, ray: ScenePoint, out: Float64Array): number {
  const { scene } = stage;
  const { lens } = stage.camera;
  for (const { item, surface, cos, sin, number, middleX, middleY, reachMm } of stage.bodies) {
    const { outline } = surface;
    if (item.kind === 'turned') {
      const met = meetTurned(item, stage.camera.lens, ray, cos, sin);
      if (!met) continue;
      shadeTurned(item, met, scene.lightFrom - item.lie.turn, stage.grains, out);
      return number * 8 + (met.piece % 7);
    }
    const topAlong = (item.base + item.thickness - lens.z) / ray.z;
    const offX = lens.x + topAlong * ray.x - middleX;
    const offY = lens.y + topAlong * ray.y - middleY;
    if (offX * offX + offY * offY > (reachMm + item.thickness) ** 2) continue;
    const footAlong = (item.base - lens.z) / ray.z;
    for (let k = 0; k <= WALL_STEPS; k++) {
      const along = topAlong + ((footAlong - topAlong) * k) / WALL_STEPS;
      const dx = lens.x + along * ray.x - item.lie.x;
      const dy = lens.y + along * ray.y - item.lie.y;
      const x = cos * dx + sin * dy;
      const y = cos * dy - sin * dx;
      if (
        k === 0 &&
        (x < outline.minX - item.thickness ||
          x > outline.maxX + item.thickness ||
          y < outline.minY - item.thickness ||
          y > outline.maxY + item.thickness)
      )
        break;
      if (!outline.inside(x, y)) continue;
      if (k > 0) {
        out.set(surface.wall);
        return number * 8 + 7;
      }
      const kind = surface.shade(x, y, out);
      lightFrom(stage, dx + item.lie.x, dy + item.lie.y, out, item.base + item.thickness, number);
      return number * 8 + kind;
    }
  }
  const along = -lens.z / ray.z;
  const x = lens.x + along * ray.x;
  const y = lens.y + along * ray.y;
  shadeBench(stage.scene, stage.grains, x, y, out);
  lightFrom(stage, x, y, out, 0, 0);
  return 0;
}

/** A soft lamp from one side: light falls off across the bench, things cast a soft shadow and darken their contact. */
function lightFrom(
  { scene, bodies }: Stage,
  x: number,
  y: number,
  out: Float64Array,
  level: number,
  own: number,
): void {
  const lx = Math.cos(scene.lightFrom);
  const ly = Math.sin(scene.lightFrom);
  let light = 1 + 0.0011 * (lx * (x - scene.camera.target[0]) + ly * (y - scene.camera.target[1]));
  for (const { item, surface, cos, sin, number, middleX, middleY, reachMm } of bodies) {
    const rise = item.base + item.thickness - level;
    if (number === own || rise <= 0) continue;
    if ((x - middleX) ** 2 + (y - middleY) ** 2 > (reachMm + 6 * rise) ** 2) continue;
    const sx = x + lx * rise * 0.7 - item.lie.x;
    const sy = y + ly * rise * 0.7 - item.lie.y;
    const cast = surface.outline.rim(cos * sx + sin * sy, cos * sy - sin * sx);
    const softness = 0.04 + (scene.shadow?.softMm ?? 0.5) * rise;
    light *= 1 - (scene.shadow?.dark ?? 0.42) * fall(cast / softness);
    const cx = x - item.lie.x;
    const cy = y - item.lie.y;
    const near = surface.outline.rim(cos * cx + sin * cy, cos * cy - sin * cx);
    if (near < 6 * rise) light *= 1 - 0.3 * Math.exp(-Math.max(0, near) / (0.35 * rise + 0.005));
  }
  out[0]! *= light;
  out[1]! *= light;
  out[2]! *= light;
}

/** 1 well inside, 0 well outside, smooth between −1 and 1. */
function fall(t: number): number {
  if (t <= -1) return 1;
  if (t >= 1) return 0;
  const s = (1 - t) / 2;
  return s * s * (3 - 2 * s);
}
