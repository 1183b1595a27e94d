import { type Form, flattenForm } from '@steady-moth/core/geometry';

/** An outline ready for many questions: is a point inside, and how far is the rim. */
export interface Outline {
  minX: number;
  minY: number;
  maxX: number;
  maxY: number;
  inside(x: number, y: number): boolean;
  /** Distance to the rim, negative inside, mm: good to a quarter millimetre, for light and wear only. */
  rim(x: number, y: number): number;
}

/** Chords stay this near to the true form, mm: a thousandth of a pixel in any picture made here. */
const CHORD_MM = 0.00005;
/** Height of a bin of the inside test, mm. */
const BIN_MM = 0.25;
const RIM_STEP_MM = 0.25;
const RIM_MARGIN_MM = 14;

export function buildOutline(forms: Form[]): Outline {
  const rings = forms.map((form) => flattenForm(form, CHORD_MM));
  const all = rings.flat();
  const minX = Math.min(...all.map((p) => p.x));
  const maxX = Math.max(...all.map((p) => p.x));
  const minY = Math.min(...all.map((p) => p.y));
  const maxY = Math.max(...all.map((p) => p.y));
  const bins = binEdges(rings, minY, maxY);
  const inside = (x: number, y: number) => {
    if (x < minX || x > maxX || y < minY || y > maxY) return false;
    const edges = bins[Math.min(bins.length - 1, Math.floor((y - minY) / BIN_MM))]!;
    let odd = false;
    for (let k = 0; k < edges.length; k += 4) {
      const y0 = edges[k + 1]!;
      const y1 = edges[k + 3]!;
      if (y0 > y !== y1 > y && x < edges[k]! + ((edges[k + 2]! - edges[k]!) * (y - y0)) / (y1 - y0)) odd = !odd;
    }
    return odd;
  };
  const coarse = forms.map((form) => flattenForm(form, 0.05));
  return { minX, minY, maxX, maxY, inside, rim: rimField(coarse, inside, minX, minY, maxX, maxY) };
}

function binEdges(rings: { x: number; y: number }[][], minY: number, maxY: number): Float64Array[] {
  const count = Math.max(1, Math.ceil((maxY - minY) / BIN_MM));
  const lists: number[][] = Array.from({ length: count }, () => []);
  for (const ring of rings)
    ring.forEach((p, k) => {
      const q = ring[(k + 1) % ring.length]!;
      const low = Math.floor((Math.min(p.y, q.y) - minY) / BIN_MM);
      const high = Math.floor((Math.max(p.y, q.y) - minY) / BIN_MM);
      for (let b = Math.max(0, low); b <= Math.min(count - 1, high); b++) lists[b]!.push(p.x, p.y, q.x, q.y);
    });
  return lists.map((l) => Float64Array.from(l));
}

function rimField(
  rings: { x: number; y: number }[][],
  inside: Outline['inside'],
  minX: number,
  minY: number,
  maxX: number,
  maxY: number,
): Outline['rim'] {
  const x0 = minX - RIM_MARGIN_MM;
  const y0 = minY - RIM_MARGIN_MM;
  const width = Math.ceil((maxX - minX + 2 * RIM_MARGIN_MM) / RIM_STEP_MM) + 2;
  const height = Math.ceil((maxY - minY + 2 * RIM_MARGIN_MM) / RIM_STEP_MM) + 2;
  const field = new Float32Array(width * height);
  const edges = rings.flatMap((ring) => ring.map((p, k) => [p, ring[(k + 1) % ring.length]!] as const));
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++) {
      const x = x0 + i * RIM_STEP_MM;
      const y = y0 + j * RIM_STEP_MM;
      let best = RIM_MARGIN_MM * RIM_MARGIN_MM;
      for (const [p, q] of edges) {
        const dx = q.x - p.x;
        const dy = q.y - p.y;
        const t = Math.min(1, Math.max(0, ((x - p.x) * dx + (y - p.y) * dy) / (dx * dx + dy * dy || 1)));
        best = Math.min(best, (x - p.x - t * dx) ** 2 + (y - p.y - t * dy) ** 2);
      }
      field[j * width + i] = (inside(x, y) ? -1 : 1) * Math.sqrt(best);
    }
  return (x, y) => {
    const gx = (x - x0) / RIM_STEP_MM;
    const gy = (y - y0) / RIM_STEP_MM;
    if (!(gx >= 0 && gy >= 0 && gx < width - 1 && gy < height - 1)) return RIM_MARGIN_MM;
    const i = Math.floor(gx);
    const j = Math.floor(gy);
    const fx = gx - i;
    const fy = gy - j;
    const at = j * width + i;
    return (
      (field[at]! * (1 - fx) + field[at + 1]! * fx) * (1 - fy) +
      (field[at + width]! * (1 - fx) + field[at + width + 1]! * fx) * fy
    );
  };
}
