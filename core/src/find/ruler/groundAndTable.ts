import { medianOf } from '../../numeric';
import type { Rgb } from '../shared/addColour';

/** A ruler's ground and the table, told apart by colour. */
export interface GroundAndTable {
  /** For each px of each ray 1 where it is as the ruler's ground, 0 where it is as the table; NaN outside of the picture. */
  likeGround: Float64Array[];
  /** From the ground to the table, a unit of linear light. */
  across: Rgb;
  /** Whether a shadow on the table is still the table. */
  isShadowFree: boolean;
}

/** The table is told from here before the graduated edge, px: nearer by may lie its shadow. */
const TABLE_PX = { from: 20, to: 8 } as const;
/** Beyond the longest strokes the ground is clean over so many px at least. */
const CLEAN_PX = 4;
/** Least angle between both colours that a shadow does not hide, and least change of any kind, as shares of the ground. */
const LEAST_TURN = 0.08;
const LEAST_CHANGE = 0.05;
/** The light changes along a ruler: each ray is told by the median of so many to both sides. */
const NEIGHBOURS = 5;

/**
 * Tells ground from table along rays across a ruler.
 *
 * A shadow makes a colour darker and leaves its direction: in the component of the ground's colour at right angles to
 * the table's the table is nothing, in light or in shade. Where both colours are nearly of one direction (gray on gray)
 * there is no such component, and the plain difference is taken.
 *
 * In: linear colours along each ray, three numbers a px; how many px of them lie before the graduated edge; how far
 * from it the longest strokes end and the search begins. Out: null where ground and table are alike.
 */
export function groundAndTable(
  rays: readonly Float64Array[],
  before: number,
  longest: number,
  until: number,
): GroundAndTable | null {
  const tables = rays.map((ray) => meanOf(ray, before - TABLE_PX.from, before - TABLE_PX.to));
  const from = before + Math.round(longest) + CLEAN_PX;
  const grounds = rays.map((ray) => meanOf(ray, from, Math.max(from + CLEAN_PX, before + until)));
  const [table, ground] = [medianColour(tables), medianColour(grounds)];
  if (Number.isNaN(table[0]) || Number.isNaN(ground[0])) return null;
  const size = Math.hypot(...ground);
  const share = dot(ground, table) / dot(table, table);
  const own: Rgb = [ground[0] - share * table[0], ground[1] - share * table[1], ground[2] - share * table[2]];
  const plain: Rgb = [ground[0] - table[0], ground[1] - table[1], ground[2] - table[2]];
  const isShadowFree = Math.hypot(...own) > LEAST_TURN * size;
  const turned = isShadowFree ? own : plain;
  const long = Math.hypot(...turned);
  if (long < LEAST_CHANGE * size) return null;
  const w: Rgb = [turned[0] / long, turned[1] / long, turned[2] / long];
  const [low, high] = [tables, grounds].map((all) => smoothed(all.map((c) => dot(w, c)))) as [number[], number[]];
  const likeGround = rays.map((ray, k) => {
    const [a, b] = [low[k]!, high[k]!];
    return Float64Array.from(
      { length: ray.length / 3 },
      (_, t) => (w[0] * ray[3 * t]! + w[1] * ray[3 * t + 1]! + w[2] * ray[3 * t + 2]! - a) / (b - a),
    );
  });
  return { likeGround, across: [-w[0], -w[1], -w[2]], isShadowFree };
}

const dot = (a: Rgb, b: Rgb): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

function meanOf(ray: Float64Array, from: number, to: number): Rgb {
  const sum = [0, 0, 0];
  for (let t = from; t < to; t++) for (let c = 0; c < 3; c++) sum[c]! += ray[3 * t + c]! / (to - from);
  return [sum[0]!, sum[1]!, sum[2]!];
}

/** The median of what is known; NaN where nothing is. */
const medianKnown = (values: readonly number[]): number => medianOf(values.filter((v) => !Number.isNaN(v)));

const medianColour = (all: readonly Rgb[]): Rgb => [
  medianKnown(all.map((c) => c[0])),
  medianKnown(all.map((c) => c[1])),
  medianKnown(all.map((c) => c[2])),
];

const smoothed = (values: readonly number[]): number[] =>
  values.map((_, k) => medianKnown(values.slice(Math.max(0, k - NEIGHBOURS), k + NEIGHBOURS + 1)));
