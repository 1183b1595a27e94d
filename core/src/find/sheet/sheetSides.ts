import type { PicturePoint } from '../../calibration';
import { isInside, type Vec2 } from '../../geometry';
import type { Rgb } from '../shared/addColour';
import { areaOf } from '../shared/blobs';
import type { Line, PictureLines, Small } from '../shared/strongLines';

/** A quadrangle whose four sides are the same step of colour, inwards; px of the picture. */
export interface Sides {
  /** Counter-clockwise as it is seen. */
  corners: [Vec2, Vec2, Vec2, Vec2];
  /** Mean colours beside its sides, levels of 255. */
  inside: Rgb;
  outside: Rgb;
  /** Of the worst side, the share of its stretches that show the step. */
  seen: number;
  /** Of the worst side, its step in what the picture's colours change by chance. */
  clear: number;
}

/** Neighbouring sides meet at such angles: sine between them. */
const CORNER_SINE = 0.65;
/** A side is looked at in so many stretches, and beyond its ends over such a share of its length. */
const STRETCHES = 12;
const BEYOND = 0.12;
/** So many of them show the step of the whole side to this share, and beyond its ends at most so much of it is left. */
const SEEN = { share: 0.7, like: 0.35, beyond: 0.6 } as const;
/** Steps of the four sides: as long, as a ratio, and one way, as the cosine between them. */
const ALIKE = { long: 0.35, way: 0.8 } as const;
/** A step is so much clearer than what changes by chance over as short a way. */
const CLEAR = 3;
/** Shortest side and smallest sheet, as shares of the small copy's long side and area. */
const LEAST = { side: 0.04, area: 0.004 } as const;
/** How far on either hand a step is looked at, small pixels. */
const OFFS = [2, 3, 4] as const;
/** Of sheets within each other the inner one is meant if it is so clear against the clearest. */
const AS_CLEAR = 0.1;

/**
 * The sheets of a picture by their sides alone: of its straight lines each four that close, and have the same step of
 * colour on all their length, from outside to inside, and no more of it beyond their ends. What is printed or lies on a
 * sheet, and how its light falls off, does not matter. The grain of a table has long lines too, but not four with the
 * same step inwards.
 *
 * In: lines of a picture; out: quadrangles, in px of it.
 */
export function sheetsBySides({ small, lines }: PictureLines): Sides[] {
  const segments = segmentsOf(small, lines);
  const find = (line: number, p: number, q: number) => segments.get(keyOf(line, Math.min(p, q), Math.max(p, q)));
  const found: Sides[] = [];
  for (const { line: a, ends } of segments.values())
    for (let c = a + 1; c < lines.length; c++) {
      const [b, d] = ends;
      // Each four once, beginning with the side of the lowest number.
      if (b < a || c === b || c === d) continue;
      const four = [find(a, d, b), find(b, a, c), find(c, b, d), find(d, c, a)];
      if (four.some((s) => !s)) continue;
      const sheet = closed(small, lines, four as Segment[]);
      if (sheet) found.push(sheet);
    }
  return found;
}

/**
 * Of sheets the one that a place lies in: of several within each other the innermost that is clear, of several that
 * nearly coincide, such as with the table's edge beside the sheet's, the one whose sides show best.
 */
export function sheetAbout(sheets: readonly Sides[], { uPx, vPx }: PicturePoint): Sides | null {
  const about = sheets.filter(({ corners }) => isInside(corners, { x: uPx, y: vPx }));
  const clearest = Math.max(0, ...about.map((s) => s.clear));
  const likely = about.filter((s) => s.clear >= AS_CLEAR * clearest);
  const innermost = Math.min(...likely.map((s) => areaOf(s.corners)));
  const same = likely.filter((s) => areaOf(s.corners) <= SAME_AREA * innermost);
  return same.sort((p, q) => q.seen * q.clear - p.seen * p.clear)[0] ?? null;
}

/** Sheets larger than another by less, as a ratio, are taken for the same. */
const SAME_AREA = 1.25;

/** The part of one line between two others. */
interface Segment {
  line: number;
  /** The others, the lower number first, and where it crosses them. */
  ends: [number, number];
  at: [Vec2, Vec2];
  /** Colours on the hand of the line's normal and on the other one, levels; the change between them. */
  hands: [Rgb, Rgb];
  step: Rgb;
  seen: number;
  clear: number;
}

const keyOf = (line: number, p: number, q: number): number => (line * 1000 + p) * 1000 + q;

/** All parts of lines between two others that are a step of one colour. */
function segmentsOf(small: Small, lines: readonly Line[]): Map<number, Segment> {
  const { width, height } = small;
  const crossings = lines.map((a) =>
    lines.map((b) => {
      const det = a.nx * b.ny - a.ny * b.nx;
      if (Math.abs(det) < CORNER_SINE) return null;
      const at = { x: (a.off * b.ny - b.off * a.ny) / det, y: (a.nx * b.off - b.nx * a.off) / det };
      return at.x < 1 || at.y < 1 || at.x > width - 1 || at.y > height - 1 ? null : at;
    }),
  );
  const least = LEAST.side * Math.max(width, height);
  const segments = new Map<number, Segment>();
  for (let line = 0; line < lines.length; line++)
    for (let p = 0; p < lines.length; p++)
      for (let q = p + 1; q < lines.length; q++) {
        const [from, to] = [crossings[line]![p]!, crossings[line]![q]!];
        if (!from || !to || Math.hypot(to.x - from.x, to.y - from.y) < least) continue;
        const side = sideSeen(small, lines[line]!, from, to);
        if (side) segments.set(keyOf(line, p, q), { line, ends: [p, q], at: [from, to], ...side });
      }
  return segments;
}

/** Four parts of lines as one sheet, if they go round it and have the same step inwards. */
function closed(small: Small, lines: readonly Line[], four: readonly Segment[]): Sides | null {
  const corners = four.map(({ ends, at }, k) => at[ends.indexOf(four[(k + 3) % 4]!.line)]!);
  const turns = corners.map((p, k) => {
    const [q, r] = [corners[(k + 1) % 4]!, corners[(k + 2) % 4]!];
    return (q.x - p.x) * (r.y - q.y) - (q.y - p.y) * (r.x - q.x);
  });
  if (!turns.every((t) => t > 0) && !turns.every((t) => t < 0)) return null;
  if (areaOf(corners) < LEAST.area * small.width * small.height) return null;
  const middle = { x: meanOf(corners.map((p) => p.x)), y: meanOf(corners.map((p) => p.y)) };
  const inwards = four.map(({ line, step, hands }) => {
    const { nx, ny, off } = lines[line]!;
    const isOnNormal = nx * middle.x + ny * middle.y > off;
    return isOnNormal ? { step, hands } : { step: scaled(step, -1), hands: [hands[1], hands[0]] as const };
  });
  const mean = meanRgb(inwards.map((s) => s.step));
  const size = Math.hypot(...mean);
  for (const { step } of inwards) {
    const length = Math.hypot(...step);
    if (length < ALIKE.long * size || length > size / ALIKE.long) return null;
    if (dot(step, mean) < ALIKE.way * length * size) return null;
  }
  // In rows counted downwards a positive turn is clockwise as it is seen.
  const seenRound = turns[0]! > 0 ? [...corners].reverse() : corners;
  return {
    corners: seenRound.map((p) => ({ x: p.x * small.step, y: p.y * small.step })) as Sides['corners'],
    inside: meanRgb(inwards.map((s) => s.hands[0])),
    outside: meanRgb(inwards.map((s) => s.hands[1])),
    seen: Math.min(...four.map((s) => s.seen)),
    clear: Math.min(...four.map((s) => s.clear)),
  };
}

const meanOf = (all: readonly number[]): number => all.reduce((a, b) => a + b, 0) / all.length;
const rgb = (of: (c: 0 | 1 | 2) => number): Rgb => [of(0), of(1), of(2)];
const meanRgb = (all: readonly Rgb[]): Rgb => rgb((c) => meanOf(all.map((v) => v[c])));
const scaled = (v: Rgb, by: number): Rgb => rgb((c) => by * v[c]);
const dot = (a: Rgb, b: Rgb): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** The step of colour along one side, towards its line's normal, and how much of it shows it. */
function sideSeen(
  small: Small,
  { nx, ny }: Line,
  from: Vec2,
  to: Vec2,
): Pick<Segment, 'hands' | 'step' | 'seen' | 'clear'> | null {
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  const way = { x: (to.x - from.x) / length, y: (to.y - from.y) / length };
  const across = (start: number, end: number) => handsOf(small, from, way, nx, ny, start, end);
  const stretches = Array.from({ length: STRETCHES }, (_, k) =>
    across(((k + 0.15) / STRETCHES) * length, ((k + 0.85) / STRETCHES) * length),
  );
  const steps = stretches.map(stepOf);
  const step = rgb((c) => halfwayMedian(steps.map((s) => s[c])));
  const size = Math.hypot(...step);
  const clear = size / small.chance;
  if (clear < CLEAR) return null;
  const along = (s: Rgb) => dot(s, step) / (size * size);
  const seen = steps.filter((s) => along(s) > SEEN.like).length / STRETCHES;
  if (seen < SEEN.share) return null;
  // Beyond both ends the step ends: what goes on is the edge of something longer.
  const beyond = [across(-BEYOND * length - 3, -3), across(length + 3, (1 + BEYOND) * length + 3)];
  if (beyond.some((s) => along(stepOf(s)) > SEEN.beyond)) return null;
  return { step, seen, clear, hands: [meanRgb(stretches.map((s) => s[0])), meanRgb(stretches.map((s) => s[1]))] };
}

const stepOf = ([on, other]: readonly [Rgb, Rgb]): Rgb => rgb((c) => on[c] - other[c]);

const halfwayMedian = (all: number[]): number => {
  const sorted = all.sort((a, b) => a - b);
  return (sorted[(sorted.length - 1) >> 1]! + sorted[sorted.length >> 1]!) / 2;
};

/** Mean colours on the hand of the normal and on the other one, over a stretch of the way. */
function handsOf(
  { width, height, levels }: Small,
  from: Vec2,
  way: Vec2,
  nx: number,
  ny: number,
  start: number,
  end: number,
): [Rgb, Rgb] {
  const [on, other]: [[number, number, number], [number, number, number]] = [
    [0, 0, 0],
    [0, 0, 0],
  ];
  let count = 0;
  for (let t = start; t <= end; t += 1) {
    const [x, y] = [from.x + t * way.x, from.y + t * way.y];
    for (const off of OFFS) {
      const here = indexAt(width, height, x + off * nx, y + off * ny);
      const there = indexAt(width, height, x - off * nx, y - off * ny);
      if (here < 0 || there < 0) continue;
      for (let c = 0; c < 3; c++) {
        on[c]! += levels[3 * here + c]!;
        other[c]! += levels[3 * there + c]!;
      }
      count += 1;
    }
  }
  const share = 1 / Math.max(1, count);
  return [scaled(on, share), scaled(other, share)];
}

const indexAt = (width: number, height: number, x: number, y: number): number => {
  const [i, j] = [Math.floor(x), Math.floor(y)];
  return i >= 0 && j >= 0 && i < width && j < height ? j * width + i : -1;
};
