import type { Vec2 } from '../../geometry';

/** How a disc lies before a camera: lengths in its own radii, the table at height zero, y against v. */
export interface DiscPose {
  /** Tilt of the table, as `CAMERA.a` and `CAMERA.b`, rad. */
  a: number;
  b: number;
  /** Logarithm of the distance along the principal ray to the table. */
  lnD: number;
  /** Where its middle stands. */
  x: number;
  y: number;
  thickness: number;
}

/** A camera without distortion: its constant and principal point, px. */
export interface Pinhole {
  cPx: number;
  u0: number;
  v0: number;
}

/** The lines along which edges of a rim are looked for: places of an ellipse near it, and which way is out. */
export interface Spoke {
  at: Vec2;
  out: Vec2;
}

/**
 * A rim is rounded off, widest so far inside both faces. Its upper edge is a line of light on that rounding, a little inside
 * the widest circle; the foot shows the widest one.
 */
const BEVEL = 0.016;
const UPPER = { belowFace: 0.5 * BEVEL, inset: 0.007 } as const;
const FOOT = { overTable: BEVEL, inset: 0.002 } as const;

/** Where a disc's upper rim and the foot of its wall cross each line, px along it; NaN where they do not. */
export interface Crossings {
  upper: Float64Array;
  foot: Float64Array;
}

/**
 * Where both circles of a disc cross each spoke, exactly: the spoke is carried back onto the circle's plane, where it is a
 * line and the circle a circle.
 */
export function crossingsOf(pose: DiscPose, { cPx, u0, v0 }: Pinhole, spokes: readonly Spoke[], into: Crossings): void {
  const turn = turned(pose.a, pose.b);
  const distance = Math.exp(pose.lnD);
  const middle = pose.thickness / 2;
  for (const [out, z, inset] of [
    [into.upper, Math.max(middle, pose.thickness - UPPER.belowFace), UPPER.inset],
    [into.foot, Math.min(middle, FOOT.overTable), FOOT.inset],
  ] as const) {
    // Rows of the map from (x, y, 1) of the plane to the picture.
    const [t00, t01, t02, t10, t11, t12, t20, t21, t22] = turn;
    const mx = [t00, t01, t02 * z] as const;
    const my = [-t10, -t11, -t12 * z] as const;
    const mz = [-t20, -t21, distance - t22 * z] as const;
    // Its inverse up to a factor: cross products of the rows.
    const yz = cross(my, mz);
    const zx = cross(mz, mx);
    const xy = cross(mx, my);
    const back = (u: number, v: number, w: number) =>
      [
        yz[0] * u + zx[0] * v + xy[0] * w,
        yz[1] * u + zx[1] * v + xy[1] * w,
        yz[2] * u + zx[2] * v + xy[2] * w,
      ] as const;
    const r2 = (1 - inset) ** 2;
    for (let k = 0; k < spokes.length; k++) {
      const { at, out: n } = spokes[k]!;
      const p = back((at.x - u0) / cPx, (at.y - v0) / cPx, 1);
      const d = back(n.x / cPx, n.y / cPx, 0);
      const [px, py] = [p[0] - pose.x * p[2], p[1] - pose.y * p[2]];
      const [dx, dy] = [d[0] - pose.x * d[2], d[1] - pose.y * d[2]];
      const aa = dx * dx + dy * dy - r2 * d[2] * d[2];
      const bb = px * dx + py * dy - r2 * p[2] * d[2];
      const cc = px * px + py * py - r2 * p[2] * p[2];
      const root = bb * bb - aa * cc;
      // The crossing outward of the middle is the larger one.
      out[k] = root > 0 && aa > 0 ? (-bb + Math.sqrt(root)) / aa : Number.NaN;
    }
  }
}

type Triple = readonly [number, number, number];

const cross = (p: Triple, q: Triple): Triple => [
  p[1] * q[2] - p[2] * q[1],
  p[2] * q[0] - p[0] * q[2],
  p[0] * q[1] - p[1] * q[0],
];

/** As the calibration's camera turns: exp([a, b, 0]×). */
function turned(
  a: number,
  b: number,
): readonly [number, number, number, number, number, number, number, number, number] {
  const angle = Math.hypot(a, b);
  const s = angle < 1e-5 ? 1 : Math.sin(angle) / angle;
  const v = angle < 1e-5 ? 0.5 : (1 - Math.cos(angle)) / (angle * angle);
  return [1 - v * b * b, v * a * b, s * b, v * a * b, 1 - v * a * a, -s * a, -s * b, s * a, 1 - v * (a * a + b * b)];
}
