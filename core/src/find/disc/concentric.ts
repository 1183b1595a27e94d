import type { Ellipse } from '../../fit';
import type { Vec2 } from '../../geometry';
import type { EdgePixel } from './edgePixels';

/** Circles about one centre as a camera sees them: ellipses of one form. */
export interface Concentric {
  centre: Vec2;
  /** The form, of area 1: exp of the symmetric matrix [p q; q −p]. */
  p: number;
  q: number;
  /** Their radii, px, with the share of directions in which each is seen beyond chance, inner ones first. */
  rings: { radius: number; seen: number }[];
  /** How much speaks for it. */
  merit: number;
}

const LEAST_RADIUS = 8;
export const MOST_RADIUS = 280;

/** The click lies within so much of the radius that is looked for. */
const WITHIN = 0.97;
const VOTE_STEP = 2;
const BLUR = 1.3;
/** So many peaks are looked at, and nearer than this they are one, px. */
const PEAKS = { count: 3, apart: 8 } as const;
const ANYWHERE = { count: 4, apart: 40 } as const;

/** Places that most edges point at, of circles about the click. */
const centresOf = (edges: readonly EdgePixel[], click: Vec2): Vec2[] =>
  peaksOf(edges, { left: click.x - MOST_RADIUS, top: click.y - MOST_RADIUS, size: 2 * MOST_RADIUS }, click, PEAKS);

/** Places that most edges of a whole picture point at, those nearest to one another as one. */
export const centresAnywhere = (edges: readonly EdgePixel[], longPx: number): Vec2[] =>
  peaksOf(thinned(edges, ENOUGH.anywhere), { left: 0, top: 0, size: longPx }, null, ANYWHERE);

/**
 * Peaks of votes in a square, the highest first: each edge votes along its normal, both ways, and where a click is given only for
 * circles about it.
 */
function peaksOf(
  edges: readonly EdgePixel[],
  { left, top, size: side }: { left: number; top: number; size: number },
  click: Vec2 | null,
  peaks: { count: number; apart: number },
): Vec2[] {
  const size = Math.ceil(side / VOTE_STEP);
  const votes = new Float32Array(size * size);
  const strong = quantileOf(edges, 0.8);
  for (const { x, y, nx, ny, strength } of edges) {
    const weight = Math.min(1, strength / strong);
    // |click − (e + r n)| < WITHIN |r|: a quadratic in r, but stepping is as quick as its cases.
    for (let r = -MOST_RADIUS; r <= MOST_RADIUS; r += VOTE_STEP) {
      const size2 = r * r;
      if (size2 < LEAST_RADIUS * LEAST_RADIUS) continue;
      const [cx, cy] = [x + r * nx, y + r * ny];
      if (click && (click.x - cx) ** 2 + (click.y - cy) ** 2 > WITHIN * WITHIN * size2) continue;
      const [i, j] = [Math.floor((cx - left) / VOTE_STEP), Math.floor((cy - top) / VOTE_STEP)];
      if (i >= 0 && j >= 0 && i < size && j < size) votes[j * size + i]! += weight / Math.sqrt(Math.abs(r));
    }
  }
  const smooth = blurred(votes, size, BLUR);
  const found: Vec2[] = [];
  for (let n = 0; n < peaks.count; n++) {
    let best = -1;
    for (let k = 0; k < smooth.length; k++) if (best < 0 || smooth[k]! > smooth[best]!) best = k;
    if (!(smooth[best]! > 0)) break;
    const [i, j] = [best % size, Math.floor(best / size)];
    found.push({ x: left + (i + 0.5) * VOTE_STEP, y: top + (j + 0.5) * VOTE_STEP });
    const clear = Math.ceil(peaks.apart / VOTE_STEP);
    for (let y = Math.max(0, j - clear); y <= Math.min(size - 1, j + clear); y++)
      smooth.fill(0, y * size + Math.max(0, i - clear), y * size + Math.min(size, i + clear + 1));
  }
  return found;
}

function blurred(values: Float32Array, size: number, sigma: number): Float32Array {
  const reach = Math.ceil(3 * sigma);
  const kernel = Array.from({ length: 2 * reach + 1 }, (_, k) => Math.exp(-((k - reach) ** 2) / (2 * sigma * sigma)));
  let from = values;
  for (const step of [1, size]) {
    const to = new Float32Array(values.length);
    for (let j = reach; j < size - reach; j++)
      for (let i = reach; i < size - reach; i++) {
        let sum = 0;
        for (let k = -reach; k <= reach; k++) sum += kernel[k + reach]! * from[j * size + i + k * step]!;
        to[j * size + i] = sum;
      }
    from = to;
  }
  return from;
}

const quantileOf = (edges: readonly EdgePixel[], share: number): number => {
  const all = edges.map((e) => e.strength).sort((a, b) => a - b);
  return all[Math.min(all.length - 1, Math.floor(share * all.length))] ?? 1;
};

const SECTORS = 72;
/** Cosine within which an edge runs along a ring. */
const ALONG = 0.93;
/** What is seen less than that of the chance of seeing it is nothing. */
const CHANCE = 0.7;
/** Rings about a place are compared with what is seen so many widths inward and outward of them. */
const ABOUT = 12;
const MOST_FORM = 0.26;
const FULL_VOICE_PX = 150;

/** How edges lie about a centre: how many directions each radius is seen in. */
interface Tally {
  merit: number;
  /** By radius in steps of the width: share of directions beyond chance. */
  seen: Float64Array;
}

class Counter {
  private readonly cells: Uint8Array;
  private readonly counts: Float64Array;
  private readonly flat: Float64Array;
  private readonly width: number;

  constructor(edges: readonly EdgePixel[], width: number) {
    this.width = width;
    const bins = Math.ceil(MOST_RADIUS / width) + 1;
    this.cells = new Uint8Array(bins * SECTORS);
    this.counts = new Float64Array(bins);
    this.flat = new Float64Array(4 * edges.length);
    for (const [k, e] of edges.entries()) this.flat.set([e.x, e.y, e.nx, e.ny], 4 * k);
  }

  tally(v: readonly number[]): Tally {
    const [x, y, p, q] = v as [number, number, number, number];
    const size = Math.hypot(p, q);
    const [ch, sh] = [Math.cosh(size), size > 1e-9 ? Math.sinh(size) / size : 1];
    // Inverse of the form.
    const [xx, xy, yy] = [ch - sh * p, -sh * q, ch + sh * p];
    const { cells, counts, width, flat } = this;
    cells.fill(0);
    counts.fill(0);
    const bins = counts.length;
    for (let k = 0; k < flat.length; k += 4) {
      const dx = flat[k]! - x;
      const dy = flat[k + 1]! - y;
      const u = xx * dx + xy * dy;
      const w = xy * dx + yy * dy;
      const radius = Math.sqrt(u * u + w * w);
      const bin = Math.floor(radius / width);
      if (radius < LEAST_RADIUS || bin >= bins) continue;
      const gx = xx * u + xy * w;
      const gy = xy * u + yy * w;
      const along = gx * flat[k + 2]! + gy * flat[k + 3]!;
      if (along * along < ALONG * ALONG * (gx * gx + gy * gy)) continue;
      const sector = Math.min(SECTORS - 1, Math.floor(((Math.atan2(w, u) + Math.PI) / (2 * Math.PI)) * SECTORS));
      cells[bin * SECTORS + sector] = 1;
      counts[bin]! += 1;
    }
    const seen = new Float64Array(bins);
    let merit = 0;
    for (let bin = 1; bin < bins - 1; bin++) {
      // What straddles two steps counts in both.
      let filled = 0;
      const at = bin * SECTORS;
      for (let s = 0; s < SECTORS; s++) filled += cells[at + s]! | cells[at + SECTORS + s]!;
      if (filled < 0.2 * SECTORS) continue;
      const expected = (2 * usualAbout(counts, bin)) / SECTORS;
      const chance = CHANCE * (1 - Math.exp(-expected));
      const beyond = (filled / SECTORS - chance) / (1 - chance);
      if (beyond <= 0) continue;
      seen[bin] = beyond;
      // A larger ring is more edge: by chance a small one is soon seen all round.
      merit += beyond * beyond * beyond * Math.min(1, (bin * width) / FULL_VOICE_PX);
    }
    // Forms far from round are not what a table seen from above shows.
    if (size > MOST_FORM) merit -= 10 * (size - MOST_FORM);
    return { merit, seen };
  }
}

const near = new Float64Array(2 * ABOUT + 1);

/** Edges at a radius by chance: the median of what its neighbours have, so that other rings count little. */
function usualAbout(counts: Float64Array, bin: number): number {
  let n = 0;
  for (let k = Math.max(0, bin - ABOUT); k <= Math.min(counts.length - 1, bin + ABOUT); k++)
    if (Math.abs(k - bin) > 1) near[n++] = counts[k]!;
  const some = near.subarray(0, n);
  some.sort();
  return some[n >> 1]!;
}

/** Forms that the search starts from: round, and tilted by this much which way. */
const FORMS = [
  [0, 0],
  ...Array.from({ length: 7 }, (_, k) => {
    const t = (2 * Math.PI * k) / 7;
    return [0.05 * Math.cos(t), 0.05 * Math.sin(t)] as const;
  }),
] as const;
const WIDTHS = [1.5, 0.75] as const;
const STEPS = { place: 3, form: 0.03 } as const;
/** So many of the coarse starts are followed to their end. */
const FOLLOWED = 3;

/** Edges of a family run square to the way from its centre, within this cosine, however it is tilted. */
const ROUGHLY_ALONG = 0.8;
/** More edges than these tell no more, and cost more. */
const ENOUGH = { coarse: 5000, fine: 9000, votes: 20000, anywhere: 30000 } as const;

const thinned = <T>(list: readonly T[], most: number): readonly T[] => {
  const every = Math.ceil(list.length / most);
  return every <= 1 ? list : list.filter((_, k) => k % every === 0);
};

/** How far from the centre a click may lie before it is looked for once more from there, as a share of the outermost ring. */
const OFF_CENTRE = 0.35;

/** The family of rings about the click that most edges lie on; null where there is none. */
export function concentricAbout(edges: readonly EdgePixel[], click: Vec2): Concentric | null {
  const first = lookFrom(edges, click);
  const far = first?.rings.at(-1);
  if (!first || !far) return first;
  const away = Math.hypot(first.centre.x - click.x, first.centre.y - click.y);
  const second = away > OFF_CENTRE * far.radius ? lookFrom(edges, first.centre) : null;
  return second && second.merit > first.merit ? second : first;
}

function lookFrom(edges: readonly EdgePixel[], click: Vec2): Concentric | null {
  let best: { v: number[]; merit: number; own: readonly EdgePixel[] } | null = null;
  for (const centre of centresOf(thinned(edges, ENOUGH.votes), click)) {
    const own = edges.filter((e) => isAbout(centre, e));
    const coarse = new Counter(thinned(own, ENOUGH.coarse), 2 * WIDTHS[0]);
    const starts = FORMS.map(([p, q]) => [centre.x, centre.y, p, q]).map((v) => ({ v, merit: coarse.tally(v).merit }));
    starts.sort((a, b) => b.merit - a.merit);
    const wide = new Counter(thinned(own, ENOUGH.fine), WIDTHS[0]);
    for (const { v } of starts.slice(0, FOLLOWED)) {
      const found = climbed((at) => wide.tally(at).merit, v, [STEPS.place, STEPS.place, STEPS.form, STEPS.form], 45);
      if (!best || found.merit > best.merit) best = { ...found, own };
    }
  }
  if (!best) return null;
  const few = thinned(best.own, ENOUGH.fine);
  const fine = new Counter(few, WIDTHS[1]);
  const { v } = climbed((at) => fine.tally(at).merit, best.v, [1, 1, 0.01, 0.01], 60);
  const [x, y, p, q] = v as [number, number, number, number];
  const { seen, merit } = new Counter(few, WIDTHS[0]).tally(v);
  return { centre: { x, y }, p, q, merit, rings: ringsOf(seen, WIDTHS[0]) };
}

function isAbout({ x, y }: Vec2, e: EdgePixel): boolean {
  const [dx, dy] = [e.x - x, e.y - y];
  const square = dx * dx + dy * dy;
  const along = dx * e.nx + dy * e.ny;
  return square < MOST_RADIUS * MOST_RADIUS && along * along > ROUGHLY_ALONG * ROUGHLY_ALONG * square;
}

/** Local peaks of what is seen; the radius of each is the middle of the two steps that it counts. */
function ringsOf(seen: Float64Array, width: number): Concentric['rings'] {
  const rings: Concentric['rings'] = [];
  for (let k = 1; k < seen.length - 1; k++)
    if (seen[k]! > 0.2 && seen[k]! >= seen[k - 1]! && seen[k]! > seen[k + 1]!)
      rings.push({ radius: (k + 1) * width, seen: seen[k]! });
  return rings;
}

/** The highest place of a merit near a start, by a simplex that turns over, grows and shrinks (Nelder & Mead 1965). */
function climbed(
  merit: (at: readonly number[]) => number,
  start: readonly number[],
  steps: readonly number[],
  most: number,
): { v: number[]; merit: number } {
  const n = start.length;
  const corner = (v: number[]) => ({ v, merit: merit(v) });
  const simplex = [
    corner([...start]),
    ...steps.map((step, k) => corner(start.map((value, j) => (j === k ? value + step : value)))),
  ];
  for (let round = 0; round < most; round++) {
    simplex.sort((a, b) => b.merit - a.merit);
    const worst = simplex[n]!;
    const centre = start.map((_, j) => simplex.slice(0, n).reduce((sum, c) => sum + c.v[j]!, 0) / n);
    const along = (t: number) => corner(centre.map((c, j) => c + t * (c - worst.v[j]!)));
    const turned = along(1);
    if (turned.merit > simplex[0]!.merit) {
      const further = along(2);
      simplex[n] = further.merit > turned.merit ? further : turned;
    } else if (turned.merit > simplex[n - 1]!.merit) simplex[n] = turned;
    else {
      const back = turned.merit > worst.merit ? along(0.5) : along(-0.5);
      if (back.merit > Math.max(worst.merit, turned.merit)) simplex[n] = back;
      else
        for (let k = 1; k <= n; k++)
          simplex[k] = corner(simplex[k]!.v.map((value, j) => (value + simplex[0]!.v[j]!) / 2));
    }
  }
  return simplex.reduce((best, c) => (c.merit > best.merit ? c : best));
}

/** A ring counts as the rim from so much seen on, and against the one seen best. */
const RIM_SEEN = 0.55;
const RIM_SHARE = 0.5;

/** The outermost ring that is seen nearly all round, as an ellipse; null where none is. */
export function rimOf({ centre, p, q, rings }: Concentric): Ellipse | null {
  const most = Math.max(0, ...rings.map((r) => r.seen));
  const rim = rings.findLast((r) => r.seen > RIM_SEEN && r.seen > RIM_SHARE * most);
  return rim ? ellipseOf(centre, p, q, rim.radius) : null;
}

function ellipseOf({ x, y }: Vec2, p: number, q: number, radius: number): Ellipse {
  const size = Math.hypot(p, q);
  return { x, y, a: radius * Math.exp(size), b: radius * Math.exp(-size), turn: Math.atan2(q, p) / 2 };
}
