import { medianOf } from '../../numeric';
import type { Pixels } from '../../raster';
import { type CoarseColours, coarseColoursOf } from './coarse';

/** A small copy in colour, and by how much its colours change by chance over the short way that lines are told by. */
export interface Small extends CoarseColours {
  /** Levels of 255, over the three colours together. */
  chance: number;
}

/** A straight line of a small copy: x·nx + y·ny = off, small pixels. */
export interface Line {
  nx: number;
  ny: number;
  off: number;
  /** Its longest stretch on which edges are seen all along, small pixels. */
  run: number;
}

/** The lines of a picture, found once for all that looks along them. */
export interface PictureLines {
  small: Small;
  lines: Line[];
}

export function linesOf(pixels: Pixels): PictureLines {
  const small = smallOf(pixels);
  return { small, lines: strongLines(small) };
}

const LONG_PX = 400;
const ANGLES = 180;
/** A place votes for lines along its own edge and so many degrees to both sides. */
const SPREAD = 3;
/** One place says at most so much, in the change by chance. */
const LOUDEST = 15;
/** Places that change no more than by chance say nothing. */
const QUIET = 1.5;
/** The strongest lines of all, and the strongest of each of so many ways: a table's grain is long, and all one way. */
const LINES = { all: 18, ofOneWay: 3, ways: 8 } as const;
/** Lines nearer to each other than this are one. */
const APART = { degrees: 5, px: 5 } as const;

function smallOf(pixels: Pixels): Small {
  const coarse = coarseColoursOf(pixels, LONG_PX);
  const small = { ...coarse, levels: smoothed({ ...coarse, levels: smoothed(coarse) }) };
  return { ...small, chance: changeByChance(small) };
}

/** Smoothed by a quarter, a half and a quarter both ways: of a staircase no direction can be told. */
function smoothed({ width, levels }: CoarseColours): Float32Array {
  const across = new Float32Array(levels.length);
  const out = new Float32Array(levels.length);
  const row = 3 * width;
  for (let k = 0; k < levels.length; k++) {
    const x = k % row;
    const [before, behind] = [x < 3 ? k : k - 3, x >= row - 3 ? k : k + 3];
    across[k] = (levels[before]! + 2 * levels[k]! + levels[behind]!) / 4;
  }
  for (let k = 0; k < levels.length; k++)
    out[k] =
      (across[Math.max(k % row, k - row)]! + 2 * across[k]! + across[k + row < levels.length ? k + row : k]!) / 4;
  return out;
}

/** The median of how colours change over four small pixels, which most of a picture does by its grain alone. */
function changeByChance({ width, height, levels }: CoarseColours): number {
  const all: number[] = [];
  for (let y = 2; y < height - 2; y += 2)
    for (let x = 2; x < width - 2; x += 2) {
      const at = 3 * (y * width + x);
      let square = 0;
      for (let c = 0; c < 3; c++) square += (levels[at + 6 + c]! - levels[at - 6 + c]!) ** 2;
      all.push(Math.sqrt(square));
    }
  return Math.max(0.5, medianOf(all, 1));
}

/**
 * The straight lines that most places of a small copy lie on, strongest first, each place having a say for the lines
 * along its own edge (Hough transform with the gradient's direction; Duda and Hart 1972, O'Gorman and Clowes 1976). The
 * gradient is that of all colours together (Di Zenzo 1986).
 */
function strongLines(small: Small): Line[] {
  const { width, height } = small;
  const reach = Math.ceil(Math.hypot(width, height));
  const votes = new Float32Array(ANGLES * (2 * reach + 1));
  const [cos, sin] = [Math.cos, Math.sin].map((f) =>
    Float64Array.from({ length: ANGLES }, (_, k) => f((k * Math.PI) / ANGLES)),
  ) as [Float64Array, Float64Array];
  const crests = crestsOf(small);
  for (const { x, y, turn, weight } of crests) {
    const middle = Math.round((turn * ANGLES) / Math.PI);
    for (let j = middle - SPREAD; j <= middle + SPREAD; j++) {
      const a = ((j % ANGLES) + ANGLES) % ANGLES;
      const off = x * cos[a]! + y * sin[a]!;
      votes[a * (2 * reach + 1) + Math.round(off) + reach]! += weight;
    }
  }
  const laid = peaksOf(votes, reach, cos, sin).map((line) => throughCrests(line, crests));
  return laid.filter((line, k) => !laid.slice(0, k).some((other) => isSame(line, other, small)));
}

/** Whether two lines stay within a few pixels of each other over the middle of the picture. */
function isSame(a: Line, b: Line, { width, height }: CoarseColours): boolean {
  const turn = Math.abs(a.nx * b.ny - a.ny * b.nx);
  // Of the line's place nearest to the middle.
  const away = (width / 2) * a.nx + (height / 2) * a.ny - a.off;
  const [x, y] = [width / 2 - away * a.nx, height / 2 - away * a.ny];
  return turn < SAME.turn && Math.abs(x * b.nx + y * b.ny - b.off) < SAME.px;
}

/** A place on the crest of an edge, small pixels, and the direction across it. */
interface Crest {
  x: number;
  y: number;
  turn: number;
  weight: number;
}

function crestsOf(small: Small): Crest[] {
  const { width, height } = small;
  const { strength, angle } = gradients(small);
  const floor = QUIET * small.chance;
  const loudest = LOUDEST * small.chance;
  const crests: Crest[] = [];
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const k = y * width + x;
      const own = strength[k]!;
      if (own < floor) continue;
      const turn = angle[k]!;
      const [dx, dy] = [Math.round(Math.cos(turn)), Math.round(Math.sin(turn))];
      const [before, behind] = [strength[k - dy * width - dx]!, strength[k + dy * width + dx]!];
      if (own < behind || own <= before) continue;
      // Between its neighbours the crest is where a parabola through all three is highest.
      const peak = (0.5 * (behind - before)) / Math.max(1e-6, 2 * own - before - behind);
      const weight = Math.min(own, loudest) / small.chance;
      crests.push({ x: x + 0.5 + peak * dx, y: y + 0.5 + peak * dy, turn, weight });
    }
  return crests;
}

/** A line laid through the crests near it that cross it, three times over. */
function throughCrests(line: Omit<Line, 'run'>, crests: readonly Crest[]): Line {
  let { nx, ny, off } = line;
  for (const near of NEAR_PX) {
    let [w, x, y, xx, xy, yy] = [0, 0, 0, 0, 0, 0];
    for (const p of crests) {
      if (Math.abs(p.x * nx + p.y * ny - off) > near) continue;
      if (Math.abs(Math.cos(p.turn) * nx + Math.sin(p.turn) * ny) < ACROSS) continue;
      w += p.weight;
      x += p.weight * p.x;
      y += p.weight * p.y;
      xx += p.weight * p.x * p.x;
      xy += p.weight * p.x * p.y;
      yy += p.weight * p.y * p.y;
    }
    if (w === 0) break;
    const along = 0.5 * Math.atan2(2 * (xy - (x * y) / w), xx - (x * x) / w - (yy - (y * y) / w));
    const [cx, cy] = [-Math.sin(along), Math.cos(along)];
    const sign = cx * nx + cy * ny < 0 ? -1 : 1;
    [nx, ny] = [sign * cx, sign * cy];
    off = (x * nx + y * ny) / w;
  }
  const along = crests
    .filter((p) => Math.abs(p.x * nx + p.y * ny - off) < ON_PX)
    .map((p) => p.y * nx - p.x * ny)
    .sort((a, b) => a - b);
  let [run, from] = [0, along[0] ?? 0];
  along.forEach((t, k) => {
    if (k > 0 && t - along[k - 1]! > RUN_GAP_PX) from = t;
    run = Math.max(run, t - from);
  });
  return { nx, ny, off, run };
}

/** Crests so near to a line are on it; a stretch goes on over so much without any, small pixels. */
const ON_PX = 1.5;
const RUN_GAP_PX = 8;

const NEAR_PX = [4, 3, 2.5, 2.5] as const;
/** Laid through the crests, two lines are one if they turn less than this, rad, and lie nearer than this, small pixels. */
const SAME = { turn: 0.05, px: 5 } as const;
/** Cosine between the direction across a crest and across the line. */
const ACROSS = 0.94;

/** Size of the change of colour at each small pixel over four of them, and its direction, rad from 0 to π. */
function gradients({ width, height, levels }: CoarseColours): { strength: Float32Array; angle: Float32Array } {
  const strength = new Float32Array(width * height);
  const angle = new Float32Array(width * height);
  for (let y = 2; y < height - 2; y++)
    for (let x = 2; x < width - 2; x++) {
      const at = 3 * (y * width + x);
      let [xx, xy, yy] = [0, 0, 0];
      for (let c = 0; c < 3; c++) {
        const gx = levels[at + 3 + c]! - levels[at - 3 + c]! + levels[at + 6 + c]! - levels[at - 6 + c]!;
        const gy =
          levels[at + 3 * width + c]! -
          levels[at - 3 * width + c]! +
          levels[at + 6 * width + c]! -
          levels[at - 6 * width + c]!;
        xx += gx * gx;
        xy += gx * gy;
        yy += gy * gy;
      }
      const spread = Math.hypot(xx - yy, 2 * xy);
      strength[y * width + x] = Math.sqrt((xx + yy + spread) / 2) / 2;
      const turn = 0.5 * Math.atan2(2 * xy, xx - yy);
      angle[y * width + x] = turn < 0 ? turn + Math.PI : turn;
    }
  return { strength, angle };
}

/** The strongest lines, those beside a stronger one left out. */
function peaksOf(votes: Float32Array, reach: number, cos: Float64Array, sin: Float64Array): Omit<Line, 'run'>[] {
  const row = 2 * reach + 1;
  // Three neighbouring distances are one line: it falls between them.
  const sum = (k: number) => votes[k]! + 0.7 * ((votes[k - 1] ?? 0) + (votes[k + 1] ?? 0));
  const likely: { a: number; off: number; sum: number }[] = [];
  for (let a = 0; a < ANGLES; a++)
    for (let k = 1; k < row - 1; k++) {
      const own = sum(a * row + k);
      if (own > 0 && own >= sum(a * row + k - 1) && own > sum(a * row + k + 1))
        likely.push({ a, off: k - reach, sum: own });
    }
  likely.sort((p, q) => q.sum - p.sum);
  const found: { a: number; off: number }[] = [];
  const ofWay = Array.from({ length: LINES.ways }, () => 0);
  for (const { a, off } of likely) {
    const way = Math.floor((a * LINES.ways) / ANGLES);
    if (found.length >= LINES.all && ofWay[way]! >= LINES.ofOneWay) continue;
    const isBeside = found.some((other) => {
      const turned = Math.abs(other.a - a) > ANGLES / 2;
      const apart = turned ? ANGLES - Math.abs(other.a - a) : Math.abs(other.a - a);
      return apart < APART.degrees && Math.abs((turned ? -other.off : other.off) - off) < APART.px;
    });
    if (isBeside) continue;
    found.push({ a, off });
    ofWay[way]! += 1;
  }
  return found.map(({ a, off }) => ({ nx: cos[a]!, ny: sin[a]!, off }));
}
