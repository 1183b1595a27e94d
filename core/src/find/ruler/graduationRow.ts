import type { Graduation, PixelPick } from '../../calibration';
import type { Vec2 } from '../../geometry';
import type { Pixels } from '../../raster';
import { edgeCentre, lineCentre } from '../shared/centre';
import { greenAt } from '../shared/greenAt';
import { smoothLine } from '../shared/smoothLine';
import { findFarEdge, type GraduationEnds, type SeenGraduation } from './farEdge';

/** A place on a graduation: which it is, and along which way it runs, px. */
export interface GraduationPlace {
  n: number;
  at: Vec2;
  down: Vec2;
  /** Both its ends, where they are known. */
  tips?: GraduationEnds;
}

/** Strokes taken as lines, of all that are counted: those of a long ruler are spaced out. */
const MOST_TAKEN = 240;
/** Far enough along the stroke that it has ended, in periods. */
const LONGEST_PERIODS = 12;
const LEAST_GRADUATION_PX = 12;
/** The tip of a stroke is rounded and blurred: so much of it is left out at each end, px. */
const TIP_PX = 2.5;
const MOST_HALF_PX = 22;
/** A stroke this much weaker than its like is a scratch, or half hidden. */
const LEAST_CONTRAST_SHARE = 0.35;

/** Each stroke at two places along it, places along the edge that they stand on, and along the other long edge. */
export function takeGraduations(
  pixels: Pixels,
  strokes: readonly GraduationPlace[],
  period: number,
  dark = true,
): { graduations: Graduation[]; edge: PixelPick[]; far: PixelPick[] } {
  const found = spacedOut(strokes).flatMap((stroke) => {
    const ends = stroke.tips ?? graduationEnds(pixels, stroke.at, stroke.down, period, dark);
    const taken = ends && halves(pixels, ends, stroke.down, period, dark);
    return taken ? [{ ...stroke, ends, ...taken }] : [];
  });
  const contrasts = found.map((f) => f.contrast).sort((a, b) => a - b);
  const usual = contrasts[contrasts.length >> 1]!;
  const clear = found.filter((f) => f.contrast > LEAST_CONTRAST_SHARE * usual);
  const [a, b] = [clear[0]!, clear[clear.length - 1]!];
  const length = a ? Math.hypot(b.at.x - a.at.x, b.at.y - a.at.y) : 0;
  const seen = clear.map((s) => {
    const along = Math.hypot(s.at.x - a.at.x, s.at.y - a.at.y);
    return { ...s, share: length > 0 ? along / length : 0 };
  });
  const { edge, foot } = findRim(pixels, seen, period);
  return {
    graduations: clear.map(({ n, places }) => ({ n, places })),
    edge,
    far: findFarEdge(pixels, seen, foot, period),
  };
}

/**
 * Every so many of the strokes of a long ruler, and the last one: of the ways to do so the one that has the longest, which
 * tell the most of how it lies and of where its figures stand.
 */
function spacedOut(strokes: readonly GraduationPlace[]): GraduationPlace[] {
  const every = Math.ceil(strokes.length / MOST_TAKEN);
  const ways = Array.from({ length: every }, (_, first) => strokes.filter((__, k) => k % every === first));
  const reach = (way: readonly GraduationPlace[]): number =>
    way.reduce((sum, { tips }) => sum + (tips ? Math.hypot(tips[1].x - tips[0].x, tips[1].y - tips[0].y) : 0), 0) /
    way.length;
  const taken = ways.reduce((best, way) => (reach(way) > reach(best) ? way : best));
  const last = strokes[strokes.length - 1]!;
  return taken[taken.length - 1] === last ? taken : [...taken, last];
}

/** Both ends of a stroke through a place: where its depth has gone by half. */
export function graduationEnds(
  pixels: Pixels,
  p: Vec2,
  down: Vec2,
  period: number,
  dark = true,
): GraduationEnds | null {
  const side = { x: -down.y, y: down.x };
  const sign = dark ? 1 : -1;
  /** How much darker than its ground half a period to both sides. */
  const depth = (t: number): number => {
    const [x, y] = [p.x + t * down.x, p.y + t * down.y];
    const at = (s: number) => sign * greenAt(pixels, x + s * side.x, y + s * side.y);
    return Math.min(at(-0.5 * period), at(0.5 * period)) - Math.min(at(-1), at(0), at(1));
  };
  const own = depth(0);
  if (own <= 0) return null;
  const walk = (way: 1 | -1): number => {
    let gone = 0;
    for (let t = 1; t < LONGEST_PERIODS * period; t++) {
      gone = depth(way * t) < 0.5 * own ? gone + 1 : 0;
      if (gone >= 3) return way * (t - 3);
    }
    return way * LONGEST_PERIODS * period;
  };
  const [a, b] = [walk(-1), walk(1)];
  if (b - a < LEAST_GRADUATION_PX) return null;
  return [
    { x: p.x + a * down.x, y: p.y + a * down.y },
    { x: p.x + b * down.x, y: p.y + b * down.y },
  ];
}

/** A stroke's two halves, each located across it. */
function halves(
  pixels: Pixels,
  [a, b]: GraduationEnds,
  down: Vec2,
  period: number,
  dark: boolean,
): { places: PixelPick[]; contrast: number } | null {
  const length = Math.hypot(b.x - a.x, b.y - a.y) - 2 * TIP_PX;
  const halfLengthPx = Math.max(3, Math.min(MOST_HALF_PX, length / 4));
  const places: PixelPick[] = [];
  let contrast = 0;
  for (const share of [0.25, 0.75]) {
    const t = TIP_PX + share * length;
    const [x, y] = [a.x + t * down.x, a.y + t * down.y];
    const [nx, ny] = [-down.y, down.x];
    const line = lineCentre(pixels, x, y, nx, ny, { reachPx: Math.max(3, 0.5 * period), halfLengthPx });
    if (!line || line.contrast < 0 !== dark || Math.abs(line.offPx) > 0.35 * period) return null;
    places.push({ uPx: x + line.offPx * nx, vPx: y + line.offPx * ny, sigmaPx: line.sigmaPx });
    contrast += Math.abs(line.contrast) / 2;
  }
  return { places, contrast };
}

const RIM_PLACES = 40;
const RIM_REACH_PX = 9;

/**
 * Places along the edge that the strokes stand on, and which of their ends does: beyond which one is found everywhere;
 * where none is, that end of which the places lie along one line.
 */
function findRim(
  pixels: Pixels,
  graduations: readonly SeenGraduation[],
  period: number,
): { edge: PixelPick[]; foot: 0 | 1 } {
  const every = Math.max(1, Math.floor(graduations.length / RIM_PLACES));
  const sides = ([0, 1] as const).map((end) =>
    graduations.flatMap(({ down, ends }, k): PixelPick[] => {
      if (k % every) return [];
      // Between two strokes, so that none of them bends the edge.
      const x = ends[end].x - 0.5 * period * down.y;
      const y = ends[end].y + 0.5 * period * down.x;
      const edge = edgeCentre(pixels, x, y, down.x, down.y, {
        reachPx: RIM_REACH_PX,
        halfLengthPx: Math.max(2.5, 0.3 * period),
      });
      if (!edge || Math.abs(edge.contrast) < LEAST_RIM_STEP) return [];
      return [{ uPx: x + edge.offPx * down.x, vPx: y + edge.offPx * down.y, sigmaPx: edge.sigmaPx }];
    }),
  );
  const [first, second] = sides.map(smoothLine) as [PixelPick[], PixelPick[]];
  if (first.length || second.length)
    return first.length >= second.length ? { edge: first, foot: 0 } : { edge: second, foot: 1 };
  return { edge: [], foot: evenness(graduations, 0) <= evenness(graduations, 1) ? 0 : 1 };
}

/** How unevenly one end of the strokes goes on from stroke to stroke, against their row, px. */
function evenness(graduations: readonly SeenGraduation[], end: 0 | 1): number {
  const off = graduations.map(({ at, down, ends }) => (ends[end].x - at.x) * down.x + (ends[end].y - at.y) * down.y);
  return off.slice(1).reduce((sum, v, k) => sum + Math.abs(v - off[k]!), 0);
}

/** A step that is an edge of something, linear light. */
const LEAST_RIM_STEP = 0.02;
