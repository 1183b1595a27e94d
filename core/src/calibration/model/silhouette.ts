/* A turned part seen from the side: where its axis lies and how wide it is, by the outlines that a lens sees. */

/** The axis on its plane, mm: a place on it and its direction, from the first pick on a silhouette to the second. */
export interface TurnedAxis {
  x: number;
  y: number;
  dx: number;
  dy: number;
}

/** Where a turned part is: along its axis from the axis's place, and how far from it, mm; + on the left of its way. */
export interface OnTurned {
  along: number;
  radius: number;
  side: 1 | -1;
  /** Slope of the radius along the axis. */
  slope: number;
}

/**
 * The axis from both silhouettes: each silhouette and the lens span a plane that touches the part, and the axis lies on the one
 * that halves the angle between both, for a cylinder and a cone alike. NaN where the silhouettes do not lie apart.
 *
 * In: places of the silhouettes' picks on the axis's plane from `p[at]` on; the lens, its height over that plane.
 */
export function axisFrom(p: ArrayLike<number>, at: number, lens: ArrayLike<number>): TurnedAxis {
  const place = (k: number) => [p[at + 2 * k]!, p[at + 2 * k + 1]!] as const;
  const [a0, a1, b0, b1] = [place(0), place(1), place(2), place(3)];
  const first = touching(lens, a0, [a1[0]! - a0[0]!, a1[1]! - a0[1]!], b0);
  const second = touching(lens, b0, [b1[0]! - b0[0]!, b1[1]! - b0[1]!], a0);
  const [mx, my] = [first[0] - second[0], first[1] - second[1]];
  const through = mx * lens[0]! + my * lens[1]! + (first[2] - second[2]) * lens[2]!;
  const size = Math.hypot(mx, my);
  const along = (a1[0]! - a0[0]!) * -my + (a1[1]! - a0[1]!) * mx < 0 ? -1 : 1;
  const [dx, dy] = [(-my / size) * along, (mx / size) * along];
  // The place on it nearest to the middle of the picks.
  const [cx, cy] = [(a0[0]! + a1[0]! + b0[0]! + b1[0]!) / 4, (a0[1]! + a1[1]! + b0[1]! + b1[1]!) / 4];
  const off = (through - mx * cx - my * cy) / (size * size);
  return { x: cx + off * mx, y: cy + off * my, dx, dy };
}

/** Unit normal of the plane through the lens and a line on the plane z = 0, towards `inside`. */
function touching(
  lens: ArrayLike<number>,
  [x, y]: readonly [number, number],
  [tx, ty]: readonly [number, number],
  inside: readonly [number, number],
): readonly [number, number, number] {
  const [rx, ry, rz] = [x - lens[0]!, y - lens[1]!, -lens[2]!];
  // ray × tangent
  const n = [-rz * ty, rz * tx, rx * ty - ry * tx];
  const size = Math.hypot(n[0]!, n[1]!, n[2]!);
  const way = n[0]! * (inside[0] - x) + n[1]! * (inside[1] - y) < 0 ? -1 : 1;
  return [(way * n[0]!) / size, (way * n[1]!) / size, (way * n[2]!) / size];
}

/**
 * The place of a turned part whose silhouette is seen at (x, y) of the axis's plane and runs along (tx, ty) there: the ray
 * touches the part where the normal of the plane through the lens and the silhouette meets the axis. Exact for any profile;
 * on a cylinder it is r = w / sqrt(1 + (w/D)²) on the principal ray.
 * NaN where the silhouette runs square to the axis, as an end does.
 */
export function silhouetteAt(
  axis: TurnedAxis,
  lens: ArrayLike<number>,
  x: number,
  y: number,
  tx: number,
  ty: number,
): OnTurned {
  const { dx, dy } = axis;
  const ray = [x - lens[0]!, y - lens[1]!, -lens[2]!];
  const n = [-ray[2]! * ty, ray[2]! * tx, ray[0]! * ty - ray[1]! * tx];
  // axis × normal: what is square to both
  const w = [dy * n[2]!, -dx * n[2]!, dx * n[1]! - dy * n[0]!];
  const [ax, ay, az] = [axis.x - lens[0]!, axis.y - lens[1]!, -lens[2]!];
  const s = (ax * w[0]! + ay * w[1]! + az * w[2]!) / (ray[0]! * w[0]! + ray[1]! * w[1]! + ray[2]! * w[2]!);
  const met = [s * ray[0]! - ax, s * ray[1]! - ay, s * ray[2]! - az];
  const along = met[0]! * dx + met[1]! * dy;
  const across = met[1]! * dx - met[0]! * dy;
  const radius = Math.hypot(across, met[2]!);
  const side = across < 0 ? -1 : 1;
  const out = ((n[1]! * dx - n[0]! * dy) * across + n[2]! * met[2]!) / radius;
  return { along, radius, side, slope: -(n[0]! * dx + n[1]! * dy) / out };
}

/**
 * Where along the axis an end or a shoulder of a known radius lies whose near rim is seen at (x, y) of the axis's plane:
 * it stands higher than the axis and looks D / (D − r) times as far off. `across` is how far beside the axis the rim
 * is met. NaN where the ray misses it.
 */
export function nearRimAt(
  axis: TurnedAxis,
  lens: ArrayLike<number>,
  x: number,
  y: number,
  radius: number,
): { along: number; across: number } {
  const { dx, dy } = axis;
  const from = [lens[0]! - axis.x, lens[1]! - axis.y, lens[2]];
  const ray = [x - lens[0]!, y - lens[1]!, -lens[2]!];
  const [fa, ra] = [from[1]! * dx - from[0]! * dy, ray[1]! * dx - ray[0]! * dy];
  const a = ra * ra + ray[2]! * ray[2]!;
  const b = fa * ra + from[2]! * ray[2]!;
  const c = fa * fa + from[2]! * from[2]! - radius * radius;
  const s = (-b - Math.sqrt(b * b - a * c)) / a;
  return { along: (from[0]! + s * ray[0]!) * dx + (from[1]! + s * ray[1]!) * dy, across: fa + s * ra };
}

/**
 * Where a rounded end of a turned part ends in its flat face, seen at (x, y) of the axis's plane: the end is seen where the round, a ring
 * of tube r = `radius` − across, turns away from the lens, and that is neither on the axis's plane nor as high as the part is wide.
 * There the normal, n across and along, is square to the way to the lens, and the place lies at across + r n from the axis.
 * NaN where it is seen farther from the axis than the part is wide, or from before its end.
 */
export function roundedEndAt(
  axis: TurnedAxis,
  lens: ArrayLike<number>,
  x: number,
  y: number,
  radius: number,
): { along: number; across: number } {
  const { dx, dy } = axis;
  const inAxis = (px: number, py: number) => ({
    along: (px - axis.x) * dx + (py - axis.y) * dy,
    across: (py - axis.y) * dx - (px - axis.x) * dy,
  });
  const [eye, seen] = [inAxis(lens[0]!, lens[1]!), inAxis(x, y)];
  const far = lens[2]!;
  // The place on the ray at a height over the axis, and how far the ring's surface there lies beyond it.
  const at = (up: number) => {
    const s = up / far;
    const along = seen.along + s * (eye.along - seen.along);
    const across = seen.across + s * (eye.across - seen.across);
    const away = Math.hypot(across, up);
    const out = ((eye.across - across) * across + (far - up) * up) / (away || 1);
    const steep = Math.max(0, out) / Math.abs(along - eye.along);
    const tube = radius - Math.abs(across);
    const normal = 1 / Math.hypot(1, steep);
    return {
      along,
      across,
      tube,
      normal: { out: normal, along: steep * normal },
      over: away - Math.abs(across) - tube * normal,
    };
  };
  let [low, high] = [0, radius];
  if (!(at(low).tube > 0) || !(at(high).over > 0)) return { along: Number.NaN, across: Number.NaN };
  for (let k = 0; k < HALVINGS; k++) {
    const middle = (low + high) / 2;
    if (at(middle).over > 0) high = middle;
    else low = middle;
  }
  const found = at((low + high) / 2);
  const way = Math.sign(found.along - eye.along);
  return { along: found.along + way * found.tube * (1 - found.normal.along), across: found.across };
}

/** Of a radius: enough for the last digit that counts. */
const HALVINGS = 40;

/** Radius halfway along a silhouette whose two places stand from `p[at]` on, mm. */
export function halfwayRadius(axis: TurnedAxis, lens: ArrayLike<number>, p: ArrayLike<number>, at: number): number {
  const [x0, y0, x1, y1] = [p[at]!, p[at + 1]!, p[at + 2]!, p[at + 3]!];
  return silhouetteAt(axis, lens, (x0 + x1) / 2, (y0 + y1) / 2, x1 - x0, y1 - y0).radius;
}

/** What two picks on a turned part measure: its diameter across the axis, or a length along it. */
export interface SpanOnTurned {
  what: 'diameter' | 'length';
  mm: number;
}

/**
 * Between two picks on a turned part: across its axis, on both silhouettes where they run along it, its diameter; along its
 * axis, at corners of ends or shoulders, the length between them. Both in the middle of ends, where the near rims are seen,
 * take the radius between the picked silhouettes.
 *
 * In: places on the axis's plane, those of the silhouettes' four picks and then both picks; the lens, its height over that plane.
 */
export function spanOnTurned(p: ArrayLike<number>, lens: ArrayLike<number>): SpanOnTurned {
  const axis = axisFrom(p, 0, lens);
  const [x0, y0, x1, y1] = [p[8]!, p[9]!, p[10]!, p[11]!];
  const a = silhouetteAt(axis, lens, x0, y0, axis.dx, axis.dy);
  const b = silhouetteAt(axis, lens, x1, y1, axis.dx, axis.dy);
  const [ex, ey] = [x1 - x0, y1 - y0];
  if (Math.abs(ey * axis.dx - ex * axis.dy) > Math.abs(ex * axis.dx + ey * axis.dy))
    return { what: 'diameter', mm: Math.abs(a.side * a.radius - b.side * b.radius) };
  const radius = halfwayRadius(axis, lens, p, 0);
  if (Math.max(a.radius, b.radius) >= radius / 2) return { what: 'length', mm: Math.abs(a.along - b.along) };
  const rim = (x: number, y: number) => nearRimAt(axis, lens, x, y, radius).along;
  return { what: 'length', mm: Math.abs(rim(x0, y0) - rim(x1, y1)) };
}
