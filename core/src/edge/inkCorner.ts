import type { Pixels } from '../raster';
import type { Located } from './settleSeat';

interface PicturePoint {
  uPx: number;
  vPx: number;
}

/** Circles round a place on which strokes are looked for: the smallest one that shows each stroke by itself, px. */
const RADII = [14, 19, 26, 35] as const;
/** How far out places lie on each stroke, as multiples of that; together they must be straight. */
const OUT = [1, 1.3, 1.6, 1.9, 2.2] as const;
/** A stroke is at most so wide, px, and strokes that meet differ by this angle at least. */
const WIDEST_PX = 16;
const CLEAR = { px: 12, widths: 1.2 } as const;
const APART = Math.sin(Math.PI / 9);
/** How far a place may lie beside the line through the others, px; one that lies further is left out, with more it is a curve. */
const STRAIGHT_PX = 0.2;
/** Paper and ink differ by this much at least, levels of 255. */
const LEAST_CONTRAST = 60;
const WINDOW_PX = 44;
/** What no middle of a stroke is known better than, px, and what running on to the corner makes of it. */
const LEAST_SIGMA_PX = 0.08;
const RUNS_ON = 2;

/**
 * The place where the middles of two strokes meet near a place: a corner, a crossing, or where one ends on another. Of a broad
 * stroke the outer tip of a corner lies half its width and more beside that. Where one stroke ends alone, its end.
 *
 * In: the picture of a drawing and a place, px; out: the corner or the end within `searchPx`, null where there is neither.
 */
export function locateInkCorner(pixels: Pixels, uPx: number, vPx: number, searchPx: number): Located | null {
  const levels = levelsAbout(pixels, uPx, vPx);
  if (!levels) return null;
  const ink = (levels.paper + levels.ink) / 2;
  for (const radius of RADII) {
    const arms = darkRuns(pixels, uPx, vPx, radius, ink);
    if (arms.length === 0 || arms.length > 6) continue;
    // Far enough out that no stroke's own place takes in the others where they meet.
    const widest = Math.max(...arms.map((a) => a.width));
    if (widest > WIDEST_PX || radius < CLEAR.px + CLEAR.widths * widest) continue;
    const lines = arms.flatMap((arm) => strokeAlong(pixels, { uPx, vPx }, arm, radius, levels) ?? []);
    const [only] = lines;
    const corner =
      arms.length > 1
        ? nearestMeeting(lines, uPx, vPx, searchPx)
        : only
          ? loneEnd(pixels, only, { uPx, vPx }, searchPx, levels)
          : null;
    const isInk = (p: Located) => brightness(pixels, p.uPx, p.vPx) < ink;
    // A straight end lies on the very edge of its ink.
    if (corner && (arms.length === 1 || isInk(corner))) return corner;
  }
  return null;
}

interface Levels {
  ink: number;
  paper: number;
}

/** A thin stroke that ends in the middle covers this share of the window twice. */
const INK_SHARE = 0.008;

/** Ink and paper about a place; null where these are no two brightnesses, or off the picture. */
function levelsAbout(pixels: Pixels, uPx: number, vPx: number): Levels | null {
  const { width, height } = pixels;
  const far = RADII[RADII.length - 1]! * OUT[OUT.length - 1]! + WIDEST_PX;
  if (uPx < far || vPx < far || uPx > width - far || vPx > height - far) return null;
  const seen: number[] = [];
  for (let y = -WINDOW_PX; y <= WINDOW_PX; y += 3)
    for (let x = -WINDOW_PX; x <= WINDOW_PX; x += 3) seen.push(brightness(pixels, uPx + x, vPx + y));
  seen.sort((a, b) => a - b);
  const [ink, paper] = [seen[Math.floor(INK_SHARE * seen.length)]!, seen[Math.floor(0.8 * seen.length)]!];
  return paper - ink < LEAST_CONTRAST ? null : { ink, paper };
}

function brightness({ width, data }: Pixels, uPx: number, vPx: number): number {
  const at = 4 * (Math.floor(vPx) * width + Math.floor(uPx));
  return (data[at]! + 2 * data[at + 1]! + data[at + 2]!) / 4;
}

/** Dark stretches of a circle: the direction of each one's middle, rad, and its length, px. */
function darkRuns(pixels: Pixels, uPx: number, vPx: number, radius: number, ink: number) {
  const count = Math.ceil(4 * Math.PI * radius);
  const step = (2 * Math.PI) / count;
  const dark = Array.from(
    { length: count },
    (_, k) => brightness(pixels, uPx + radius * Math.cos(k * step), vPx + radius * Math.sin(k * step)) < ink,
  );
  const start = dark.indexOf(false);
  const runs: { angle: number; width: number }[] = [];
  if (start < 0) return runs;
  let run = 0;
  for (let n = 1; n <= count; n++) {
    const k = (start + n) % count;
    if (dark[k]) run += 1;
    else if (run > 0) {
      runs.push({ angle: (start + n - 1 - (run - 1) / 2) * step, width: run * step * radius });
      run = 0;
    }
  }
  return runs;
}

interface Stroke {
  uPx: number;
  vPx: number;
  /** Unit direction along it. */
  along: { u: number; v: number };
  sigmaPx: number;
  widthPx: number;
}

/** The straight stroke that leaves the circle in a direction, by its middle at some places; null where it bends or ends. */
function strokeAlong(
  pixels: Pixels,
  middle: PicturePoint,
  { angle, width }: { angle: number; width: number },
  radius: number,
  levels: Levels,
): Stroke | null {
  const places: PicturePoint[] = [];
  let way = { u: Math.cos(angle), v: Math.sin(angle) };
  let from = middle;
  for (const [k, out] of OUT.entries()) {
    const reach = radius * (out - (OUT[k - 1] ?? 0));
    const found = middleAt(
      pixels,
      { uPx: from.uPx + reach * way.u, vPx: from.vPx + reach * way.v },
      way,
      width,
      levels,
    );
    if (!found) return null;
    places.push(found);
    // On along the stroke itself, which need not run towards where it was looked for.
    const last = places[k - 1];
    if (last) {
      const length = Math.hypot(found.uPx - last.uPx, found.vPx - last.vPx);
      way = { u: (found.uPx - last.uPx) / length, v: (found.vPx - last.vPx) / length };
    }
    from = found;
  }
  const line = lineThrough(places);
  const furthest = Math.max(...places.map((p) => Math.abs(beside(line, p))));
  return furthest > STRAIGHT_PX ? null : { ...line, sigmaPx: Math.max(LEAST_SIGMA_PX, furthest), widthPx: width };
}

/** Rows along a stroke that are averaged, px from a place, and how far beside its own width darkness is weighed. */
const ROWS = [-2, -1, 0, 1, 2] as const;
const MARGIN_PX = 4;
const STEP_PX = 0.25;

/** The middle of the darkness across a stroke; null where there is none, or it is not a stroke's alone. */
function middleAt(
  pixels: Pixels,
  at: PicturePoint,
  way: { u: number; v: number },
  width: number,
  { ink, paper }: Levels,
): PicturePoint | null {
  const reach = width / 2 + MARGIN_PX;
  let [sum, moment, edge] = [0, 0, 0];
  for (let t = -reach; t <= reach; t += STEP_PX)
    for (const row of ROWS) {
      const seen = between(pixels, at.uPx + row * way.u - t * way.v, at.vPx + row * way.v + t * way.u);
      const dark = Math.min(1, Math.max(0, (paper - seen) / (paper - ink)));
      const counted = dark < FAINT ? 0 : dark;
      sum += counted;
      moment += counted * t;
      if (Math.abs(t) > reach - 1) edge += counted;
    }
  if (sum === 0 || edge > MOST_AT_EDGE * sum) return null;
  const off = moment / sum;
  return { uPx: at.uPx - off * way.v, vPx: at.vPx + off * way.u };
}

/** Paper that is hardly darker than paper, and as much darkness at the ends of a profile as makes it no stroke alone. */
const FAINT = 0.15;
const MOST_AT_EDGE = 0.04;

function between(pixels: Pixels, uPx: number, vPx: number): number {
  const [x, y] = [Math.floor(uPx - 0.5), Math.floor(vPx - 0.5)];
  const [fx, fy] = [uPx - 0.5 - x, vPx - 0.5 - y];
  const row = (v: number) =>
    brightness(pixels, x + 0.5, v + 0.5) * (1 - fx) + brightness(pixels, x + 1.5, v + 0.5) * fx;
  return row(y) * (1 - fy) + row(y + 1) * fy;
}

type Line = Pick<Stroke, 'uPx' | 'vPx' | 'along'>;

const beside = ({ uPx, vPx, along }: Line, p: PicturePoint): number =>
  (p.uPx - uPx) * along.v - (p.vPx - vPx) * along.u;

/** The line nearest to places, by the direction in which they spread most. */
function lineThrough(places: readonly PicturePoint[]): Line {
  const n = places.length;
  const u = places.reduce((sum, p) => sum + p.uPx / n, 0);
  const v = places.reduce((sum, p) => sum + p.vPx / n, 0);
  let [uu, uv, vv] = [0, 0, 0];
  for (const p of places) {
    uu += (p.uPx - u) ** 2;
    uv += (p.uPx - u) * (p.vPx - v);
    vv += (p.vPx - v) ** 2;
  }
  const turn = Math.atan2(2 * uv, uu - vv) / 2;
  return { uPx: u, vPx: v, along: { u: Math.cos(turn), v: Math.sin(turn) } };
}

/** From this width on it shows whether a stroke ends round, px: a thinner one's end is all blur. */
const SHOWS_ROUND_PX = 6;
/** At this share of its width from its tip a round end is 0.8 times as broad as the stroke, a straight one just as broad. */
const NEAR_TIP = 0.2;
const ROUND = 0.9;
/** No end is known better, px. */
const END_SIGMA_PX = 0.35;

/**
 * Where a stroke ends alone: a pen's middle, where it ends round; its tip, where it was cut straight; halfway between, with
 * a σ for either, where it is too thin to show.
 */
function loneEnd(
  pixels: Pixels,
  stroke: Stroke,
  near: PicturePoint,
  searchPx: number,
  { ink, paper }: Levels,
): Located | null {
  const { along, widthPx } = stroke;
  // Outwards is away from where the stroke was seen.
  const sign = Math.sign((near.uPx - stroke.uPx) * along.u + (near.vPx - stroke.vPx) * along.v) || 1;
  const way = { u: sign * along.u, v: sign * along.v };
  const start = (near.uPx - stroke.uPx) * way.u + (near.vPx - stroke.vPx) * way.v;
  const at = (t: number, across = 0): PicturePoint => ({
    uPx: stroke.uPx + t * way.u - across * way.v,
    vPx: stroke.vPx + t * way.v + across * way.u,
  });
  const darkAt = (p: PicturePoint) => (paper - between(pixels, p.uPx, p.vPx)) / (paper - ink);
  // From well within the stroke outwards, to where it is half as dark.
  const last = start + searchPx + widthPx;
  let tip: number | null = null;
  for (let t = start - 2 * searchPx - widthPx; t < last; t += STEP_PX) {
    const [a, b] = [darkAt(at(t)), darkAt(at(t + STEP_PX))];
    if (a >= 0.5 && b < 0.5) {
      tip = t + (STEP_PX * (a - 0.5)) / (a - b);
      break;
    }
  }
  if (tip === null) return null;
  const breadth = (t: number): number => {
    let sum = 0;
    for (let across = -widthPx; across <= widthPx; across += STEP_PX)
      sum += STEP_PX * Math.max(0, Math.min(1, darkAt(at(t, across))));
    return sum;
  };
  const full = breadth(tip - 2 * widthPx);
  const isRound = breadth(tip - NEAR_TIP * full) < ROUND * full;
  const shows = full >= SHOWS_ROUND_PX;
  const end = at(tip - (shows ? (isRound ? full / 2 : 0) : full / 4));
  if (Math.hypot(end.uPx - near.uPx, end.vPx - near.vPx) > searchPx) return null;
  return {
    ...end,
    kind: 'line',
    dark: true,
    sigmaPx: shows ? END_SIGMA_PX : Math.hypot(END_SIGMA_PX, full / 4),
    softPx: 0,
    normal: Math.atan2(along.u, -along.v),
    bend: 0,
    blurPx: widthPx / 2,
    contrast: 1,
    rows: ROWS.length * OUT.length,
  };
}

/** Where two strokes of different directions meet, nearest to a place. */
function nearestMeeting(strokes: readonly Stroke[], uPx: number, vPx: number, searchPx: number): Located | null {
  let best: Located | null = null;
  let nearest = searchPx;
  for (const [k, p] of strokes.entries())
    for (const q of strokes.slice(k + 1)) {
      const sine = p.along.u * q.along.v - p.along.v * q.along.u;
      if (Math.abs(sine) < APART) continue;
      const t = ((q.uPx - p.uPx) * q.along.v - (q.vPx - p.vPx) * q.along.u) / sine;
      const at = { uPx: p.uPx + t * p.along.u, vPx: p.vPx + t * p.along.v };
      const away = Math.hypot(at.uPx - uPx, at.vPx - vPx);
      if (away > nearest) continue;
      nearest = away;
      const sigmaPx = (RUNS_ON * Math.hypot(p.sigmaPx, q.sigmaPx)) / Math.abs(sine);
      best = {
        ...at,
        kind: 'line',
        dark: true,
        sigmaPx,
        softPx: 0,
        normal: Math.atan2(p.along.u, -p.along.v),
        bend: 0,
        blurPx: p.widthPx / 2,
        contrast: 1,
        rows: ROWS.length * OUT.length,
      };
    }
  return best;
}
