/**
 * The simulated camera. It has its own mathematics, on purpose: the estimator must not be able to share a mistake
 * with it. It also has what the estimator does not model: a third radial term and decentring.
 */
export interface CameraSetup {
  widthPx: number;
  heightPx: number;
  /** Camera constant, px. */
  cPx: number;
  /** Principal point, px. */
  centre: [number, number];
  radial: [number, number, number];
  decentring: [number, number];
  /** Where the principal ray meets the table, mm. */
  target: [number, number];
  /** Along the principal ray, lens to table, mm. */
  distanceMm: number;
  /** Angle off the vertical, rad, and the direction on the table towards which the lens is moved, rad. */
  tilt: number;
  tiltTowards: number;
  /** Turn about the principal ray, rad. */
  roll: number;
}

/** A point of the scene, mm, z up from the table. */
export interface ScenePoint {
  x: number;
  y: number;
  z: number;
}

/** The camera with its axes worked out: three unit vectors, right, down, and forward into the scene. */
export interface Camera extends CameraSetup {
  lens: ScenePoint;
  right: ScenePoint;
  down: ScenePoint;
  forward: ScenePoint;
}

export function buildCamera(setup: CameraSetup): Camera {
  const s = Math.sin(setup.tilt);
  const back = { x: s * Math.cos(setup.tiltTowards), y: s * Math.sin(setup.tiltTowards), z: Math.cos(setup.tilt) };
  const forward = { x: -back.x, y: -back.y, z: -back.z };
  const lens = {
    x: setup.target[0] + setup.distanceMm * back.x,
    y: setup.target[1] + setup.distanceMm * back.y,
    z: setup.distanceMm * back.z,
  };
  // Up in the picture is the table's y, as far as the view allows.
  const along = forward.y;
  const up = normal({ x: -along * forward.x, y: 1 - along * forward.y, z: -along * forward.z });
  const side = crossed(forward, up);
  const [c, n] = [Math.cos(setup.roll), Math.sin(setup.roll)];
  const right = { x: c * side.x + n * up.x, y: c * side.y + n * up.y, z: c * side.z + n * up.z };
  const down = { x: n * side.x - c * up.x, y: n * side.y - c * up.y, z: n * side.z - c * up.z };
  return { ...setup, lens, right, down, forward };
}

/** Where a scene point is pictured, px; null behind the lens. */
export function pictureOf(camera: Camera, p: ScenePoint): [number, number] | null {
  const d = { x: p.x - camera.lens.x, y: p.y - camera.lens.y, z: p.z - camera.lens.z };
  const depth = dotted(d, camera.forward);
  if (depth <= 0) return null;
  const [u, v] = distort(camera, dotted(d, camera.right) / depth, dotted(d, camera.down) / depth);
  return [camera.centre[0] + camera.cPx * u, camera.centre[1] + camera.cPx * v];
}

function distort({ radial: [k1, k2, k3], decentring: [p1, p2] }: Camera, x: number, y: number): [number, number] {
  const r2 = x * x + y * y;
  const g = 1 + r2 * (k1 + r2 * (k2 + r2 * k3));
  return [x * g + 2 * p1 * x * y + p2 * (r2 + 2 * x * x), y * g + p1 * (r2 + 2 * y * y) + 2 * p2 * x * y];
}

/** Rounds of the inverse; each gains two to three digits at the distortions of real lenses. */
const INVERSE_ROUNDS = 9;

/** Direction of the ray of a picture point, not normalised, into `out`. */
export function rayOf(camera: Camera, u: number, v: number, out: ScenePoint): void {
  const xd = (u - camera.centre[0]) / camera.cPx;
  const yd = (v - camera.centre[1]) / camera.cPx;
  const [k1, k2, k3] = camera.radial;
  const [p1, p2] = camera.decentring;
  let x = xd;
  let y = yd;
  for (let n = 0; n < INVERSE_ROUNDS; n++) {
    const r2 = x * x + y * y;
    const g = 1 + r2 * (k1 + r2 * (k2 + r2 * k3));
    const nx = (xd - 2 * p1 * x * y - p2 * (r2 + 2 * x * x)) / g;
    const ny = (yd - p1 * (r2 + 2 * y * y) - 2 * p2 * x * y) / g;
    const moved = Math.abs(nx - x) + Math.abs(ny - y);
    x = nx;
    y = ny;
    if (moved < 1e-11) break;
  }
  const { right, down, forward } = camera;
  out.x = x * right.x + y * down.x + forward.x;
  out.y = x * right.y + y * down.y + forward.y;
  out.z = x * right.z + y * down.z + forward.z;
}

const dotted = (a: ScenePoint, b: ScenePoint): number => a.x * b.x + a.y * b.y + a.z * b.z;
const crossed = (a: ScenePoint, b: ScenePoint): ScenePoint => ({
  x: a.y * b.z - a.z * b.y,
  y: a.z * b.x - a.x * b.z,
  z: a.x * b.y - a.y * b.x,
});
function normal(a: ScenePoint): ScenePoint {
  const length = Math.sqrt(dotted(a, a));
  return { x: a.x / length, y: a.y / length, z: a.z / length };
}
