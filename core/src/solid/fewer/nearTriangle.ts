/**
 * Square of the distance from a place to a triangle, mm²: to its inside, a side or a corner, whichever is nearest; negative
 * where that is not its inside.
 *
 * @param c corners, x y z in turn
 * @param i first figure of the triangle's first corner in `c`, and so on
 */
export function squareToTriangle(
  c: Float64Array,
  i: number,
  j: number,
  k: number,
  x: number,
  y: number,
  z: number,
): number {
  const ax = c[i]!;
  const ay = c[i + 1]!;
  const az = c[i + 2]!;
  const ux = c[j]! - ax;
  const uy = c[j + 1]! - ay;
  const uz = c[j + 2]! - az;
  const vx = c[k]! - ax;
  const vy = c[k + 1]! - ay;
  const vz = c[k + 2]! - az;
  const px = x - ax;
  const py = y - ay;
  const pz = z - az;
  const uu = ux * ux + uy * uy + uz * uz;
  const uv = ux * vx + uy * vy + uz * vz;
  const vv = vx * vx + vy * vy + vz * vz;
  const pu = px * ux + py * uy + pz * uz;
  const pv = px * vx + py * vy + pz * vz;
  const det = uu * vv - uv * uv;
  // Shares of both sides at the foot of the perpendicular.
  const s = vv * pu - uv * pv;
  const t = uu * pv - uv * pu;
  if (det > 0 && s >= 0 && t >= 0 && s + t <= det) {
    const up = px * (uy * vz - uz * vy) + py * (uz * vx - ux * vz) + pz * (ux * vy - uy * vx);
    return (up * up) / det;
  }
  return -Math.min(
    squareToSide(px, py, pz, ux, uy, uz, uu, pu),
    squareToSide(px, py, pz, vx, vy, vz, vv, pv),
    squareToSide(px - ux, py - uy, pz - uz, vx - ux, vy - uy, vz - uz, uu + vv - 2 * uv, pv - pu - uv + uu),
  );
}

/** From a place to a side that begins at zero: its way, the square of its length, and the place's product with it. */
function squareToSide(
  px: number,
  py: number,
  pz: number,
  ux: number,
  uy: number,
  uz: number,
  uu: number,
  pu: number,
): number {
  const at = uu > 0 ? Math.max(0, Math.min(1, pu / uu)) : 0;
  const dx = px - at * ux;
  const dy = py - at * uy;
  const dz = pz - at * uz;
  return dx * dx + dy * dy + dz * dz;
}
