import type { Form } from '@steady-moth/core/geometry';
import type { ScenePoint } from '../camera';
import { chain, type Turned } from '../scene';
import type { Grains } from './surface';

/** Where a ray meets a turned part, in its own mm: along the axis, across it, and up from it. */
export interface Met {
  x: number;
  y: number;
  z: number;
  /** Which straight piece of the profile, or 7 beyond the ends. */
  piece: number;
}

const widest = ({ profile }: Turned): number => Math.max(...profile.map(([, r]) => r));

/** Its outline seen from far above, for shadows. */
export function sideOf(profile: Turned['profile']): Form {
  const places = [
    ...profile.map(([x, r]) => ({ x, y: -r })),
    ...[...profile].reverse().map(([x, r]) => ({ x, y: r })),
  ].filter((p, k, all) => k === 0 || Math.hypot(p.x - all[k - 1]!.x, p.y - all[k - 1]!.y) > 1e-9);
  return chain(places.map((from, k) => ({ kind: 'line', from, to: places[(k + 1) % places.length]! })));
}

/**
 * Steps along a ray within the widest cylinder. A ray that only grazes is missed when its way inside is shorter than a
 * step: at a radius of 15 mm that moves the limb by less than half a micrometre.
 */
const STEPS = 200;
const HALVINGS = 26;

export function meetTurned(item: Turned, lens: ScenePoint, ray: ScenePoint, cos: number, sin: number): Met | null {
  const r = widest(item);
  const dx = lens.x - item.lie.x;
  const dy = lens.y - item.lie.y;
  const from = { x: cos * dx + sin * dy, y: cos * dy - sin * dx, z: lens.z - item.base - r };
  const way = { x: cos * ray.x + sin * ray.y, y: cos * ray.y - sin * ray.x, z: ray.z };
  // The widest cylinder about the axis.
  const a = way.y ** 2 + way.z ** 2;
  const b = from.y * way.y + from.z * way.z;
  const c = from.y ** 2 + from.z ** 2 - r * r;
  const root = b * b - a * c;
  if (root <= 0) return null;
  const near = (-b - Math.sqrt(root)) / a;
  const far = (-b + Math.sqrt(root)) / a;
  const length = item.profile[item.profile.length - 1]![0];
  const inside = (t: number): boolean => {
    const x = from.x + t * way.x;
    if (x < 0 || x > length) return false;
    const own = radiusAt(item.profile, x);
    return (from.y + t * way.y) ** 2 + (from.z + t * way.z) ** 2 <= own * own;
  };
  const step = (far - near) / STEPS;
  for (let k = 1; k <= STEPS; k++) {
    if (!inside(near + k * step)) continue;
    let [out, hit] = [near + (k - 1) * step, near + k * step];
    for (let n = 0; n < HALVINGS; n++) {
      const middle = (out + hit) / 2;
      if (inside(middle)) hit = middle;
      else out = middle;
    }
    const x = from.x + hit * way.x;
    const onEnd = x < 1e-4 || x > length - 1e-4;
    return { x, y: from.y + hit * way.y, z: from.z + hit * way.z, piece: onEnd ? 6 : pieceAt(item.profile, x) };
  }
  return null;
}

function pieceAt(profile: Turned['profile'], x: number): number {
  for (let k = 1; k < profile.length; k++) if (x <= profile[k]![0]) return k - 1;
  return profile.length - 2;
}

function radiusAt(profile: Turned['profile'], x: number): number {
  const k = pieceAt(profile, x);
  const [x0, r0] = profile[k]!;
  const [x1, r1] = profile[k + 1]!;
  return x1 > x0 ? r0 + ((r1 - r0) * (x - x0)) / (x1 - x0) : Math.max(r0, r1);
}

/** Height of the lamp over the bench, rad. */
const LAMP_UP = 0.9;

export function shadeTurned(item: Turned, met: Met, lightFrom: number, { fine }: Grains, out: Float64Array): void {
  const around = Math.hypot(met.y, met.z) || 1;
  const slope = met.piece === 6 ? 1e3 : slopeAt(item.profile, met.x);
  const size = Math.hypot(1, slope);
  const normal = { x: -slope / size, y: met.y / around / size, z: met.z / around / size };
  const lamp = {
    x: Math.cos(LAMP_UP) * Math.cos(lightFrom),
    y: Math.cos(LAMP_UP) * Math.sin(lightFrom),
    z: Math.sin(LAMP_UP),
  };
  const facing = Math.max(0, normal.x * lamp.x + normal.y * lamp.y + normal.z * lamp.z);
  // Turning leaves fine rings; a soft gleam runs along where the lamp is mirrored upwards.
  const rings = 1 + 0.06 * fine.at(met.x * 34, 3.7);
  const gleam = 0.11 * Math.max(0, normal.z * 0.92 + normal.y * lamp.y * 0.5) ** 24;
  const light = (0.3 + 0.85 * facing) * rings;
  for (let k = 0; k < 3; k++) out[k] = item.colour[k]! * light + gleam;
}

function slopeAt(profile: Turned['profile'], x: number): number {
  const k = pieceAt(profile, x);
  const [x0, r0] = profile[k]!;
  const [x1, r1] = profile[k + 1]!;
  return x1 > x0 ? (r1 - r0) / (x1 - x0) : 0;
}
