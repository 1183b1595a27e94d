import type { TriangleSet } from '../../solid';

/** Header, then 50 bytes a triangle. */
const HEADER = 80;
const RECORD = 50;

/**
 * A body as binary STL, mm. The format knows no unit: the header says it, as every reader expects millimetres.
 *
 * In: triangles over shared corners, a title, and what else is to be said. Out: the file's bytes.
 */
export function writeStl({ corners, triangles }: TriangleSet, title: string, remark = ''): Uint8Array {
  const count = triangles.length / 3;
  const bytes = new Uint8Array(HEADER + 4 + count * RECORD);
  const view = new DataView(bytes.buffer);
  // Readers take a header that begins with "solid" for the text form of the format.
  const header = `Binary STL, unit mm: ${[title, remark].filter(Boolean).join('; ')}`
    .replace(/[^\x20-\x7e]/g, '?')
    .slice(0, HEADER);
  bytes.set(new TextEncoder().encode(header));
  view.setUint32(HEADER, count, true);
  for (let t = 0; t < count; t++) {
    const [a, b, c] = [0, 1, 2].map((k) => {
      const at = 3 * triangles[3 * t + k]!;
      return [corners[at]!, corners[at + 1]!, corners[at + 2]!] as const;
    }) as [Corner, Corner, Corner];
    const offset = HEADER + 4 + t * RECORD;
    [normalOf(a, b, c), a, b, c].flat().forEach((value, k) => {
      view.setFloat32(offset + 4 * k, value, true);
    });
  }
  return bytes;
}

type Corner = readonly [number, number, number];

function normalOf(a: Corner, b: Corner, c: Corner): Corner {
  const [ux, uy, uz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
  const [vx, vy, vz] = [c[0] - a[0], c[1] - a[1], c[2] - a[2]];
  const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const long = Math.hypot(x, y, z) || 1;
  return [x / long, y / long, z / long];
}
