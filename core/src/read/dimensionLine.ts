import type { WordPlace } from './lettering';

/** A dimension line with the two extension lines that it runs between, px of the page as it lies. */
export interface DimensionLine {
  /** Its own row at either end, and where the extension lines cross it. */
  from: { x: number; y: number };
  to: { x: number; y: number };
  /** To which side of it, and how far off, both extension lines can be picked clear of arrowheads. */
  aside: number;
}

interface Mask {
  width: number;
  height: number;
  ink: Uint8Array;
}

/** All against the height of the letters. */
const BELOW = 1.5;
const TALL = 0.8;
const LOOK = 2;
/** A mark is looked for between these distances from the extension line, so far to both sides of its own. */
const MARK = { from: 0.1, to: 1, aside: 0.25, least: 0.08 } as const;
const WIDEST_LINE = 0.35;
const ASIDE = 0.8;
const LEAST_ASIDE = 0.3;
/** With an arrowhead, filled or open, a stroke or a dot there is so many times as much ink as the line alone has. */
const THICKER = 1.5;
/** A line is no thicker than this. */
const MOST_THICK = 0.22;
/** Ink missing along a line, px. */
const MOST_GAP_PX = 4;

/**
 * The dimension line that a figure belongs to: it runs along the figure's foot, below it or broken by it, and ends with
 * an arrowhead or a stroke at an extension line on either side. Null where there is none: the figure of a leader, of a
 * table, of the title block.
 */
export function dimensionLineOf(mask: Mask, word: WordPlace): DimensionLine | null {
  const tall = word.y1 - word.y0 + 1;
  const middle = Math.round((word.x0 + word.x1) / 2);
  for (let y = word.y1 + 2; y <= word.y1 + BELOW * tall; y++) {
    if (!isInk(mask, middle, y)) continue;
    const found = between(mask, middle, y, middle, y, tall);
    if (found) return found;
    while (isInk(mask, middle, y + 1)) y += 1;
  }
  // Broken by its figure: the line goes on at both its sides, at half its height.
  for (let off = 0; off <= 0.3 * tall; off++)
    for (const y of [(word.y0 + word.y1) / 2 - off, (word.y0 + word.y1) / 2 + off].map(Math.round)) {
      const left = seek(mask, word.x0 - 2, y, -1, tall);
      const right = left === null ? null : seek(mask, word.x1 + 2, y, 1, tall);
      if (left === null || right === null) continue;
      const found = between(mask, left, y, right, y, tall);
      if (found) return found;
    }
  return null;
}

const isInk = ({ width, height, ink }: Mask, x: number, y: number): boolean =>
  x >= 0 && y >= 0 && x < width && y < height && ink[y * width + x] === 1;

function seek(mask: Mask, x: number, y: number, way: 1 | -1, tall: number): number | null {
  for (let k = 0; k < 0.9 * tall; k++) if (isInk(mask, x + way * k, y)) return x + way * (k + 2);
  return null;
}

function between(mask: Mask, left: number, yl: number, right: number, yr: number, tall: number): DimensionLine | null {
  const from = walk(mask, left, yl, -1, tall);
  const to = from && walk(mask, right, yr, 1, tall);
  if (!from || !to || to.x - from.x < tall) return null;
  const above = Math.min(from.up, to.up);
  const below = Math.min(from.down, to.down);
  const reach = Math.max(above, below);
  if (reach < LEAST_ASIDE * tall) return null;
  const aside = (above >= below ? -1 : 1) * Math.min(ASIDE * tall, 0.6 * reach);
  return { from: { x: from.x, y: from.y }, to: { x: to.x, y: to.y }, aside };
}

interface End {
  x: number;
  y: number;
  /** How far the extension line reaches to either side, px. */
  up: number;
  down: number;
}

interface Step extends End {
  /** Pixels of ink near the line, across it. */
  inked: number;
}

/** Along a line to the first extension line at which it is ended by a mark. */
function walk(mask: Mask, x0: number, y0: number, way: 1 | -1, tall: number): End | null {
  let y = y0;
  let gap = 0;
  let recentred = 0;
  const steps: Step[] = [];
  const look = Math.ceil(LOOK * tall);
  const isTall = (s: { up: number; down: number }) => s.up + s.down >= TALL * tall;
  let crossing: number | null = null;
  let missing: number | null = null;
  for (let x = x0; x >= 0 && x < mask.width; x += way) {
    if (!isInk(mask, x, y)) {
      const near = [-1, 1].find((d) => isInk(mask, x, y + d));
      if (near !== undefined) {
        y += near;
        gap = 0;
      } else gap += 1;
    } else gap = 0;
    const up = gap ? 0 : reachOf(mask, x, y, -1, look);
    const down = gap ? 0 : reachOf(mask, x, y, 1, look);
    // Kept to the middle of its thickness, so that it stays on a line that drifts: seldom, so that no slanting stroke
    // leads it astray.
    if (!gap && up + down < MOST_THICK * tall && Math.abs(down - up) > 1 && Math.abs(x - recentred) > 0.4 * tall) {
      y += Math.sign(down - up);
      recentred = x;
    }
    steps.push({ x, y, up, down, inked: inkBeside(mask, x, y, Math.round(MARK.aside * tall)) });
    if (missing === null && gap > MOST_GAP_PX) missing = steps.length - 1;
    if (crossing === null && isTall(steps[steps.length - 1]!)) crossing = steps.length - 1;
    const behind = steps.length - 1 - (crossing ?? missing ?? steps.length - 1);
    if (missing !== null && crossing === null) return null;
    if (crossing !== null && behind >= MARK.to * tall) {
      const end = endAt(steps, crossing, tall);
      if (end) return end;
      if (missing !== null) return null;
      crossing = null;
      // On with what lies behind it, where another may stand.
      const next = steps.findIndex((s, k) => k > steps.length - 1 - behind + WIDEST_LINE * tall && isTall(s));
      if (next >= 0) crossing = next;
    }
  }
  return crossing === null ? null : endAt(steps, crossing, tall);
}

/** A crossing that is one: thin, and with a mark before it or behind it. */
function endAt(steps: readonly Step[], at: number, tall: number): End | null {
  let last = at;
  while (last + 1 < steps.length && steps[last + 1]!.up + steps[last + 1]!.down >= TALL * tall) last += 1;
  if (last - at + 1 > WIDEST_LINE * tall) return null;
  const usual = steps
    .slice(0, at)
    .map((one) => one.inked)
    .sort((a, b) => a - b);
  const line = usual.length > 0 ? usual[Math.floor(0.15 * usual.length)]! : 2;
  const isMarked = [
    [at - Math.round(MARK.to * tall), at - Math.round(MARK.from * tall)],
    [last + Math.round(MARK.from * tall), last + Math.round(MARK.to * tall)],
  ].some(([from, to]) => {
    const run = steps.slice(Math.max(0, from!), Math.max(0, to!));
    return (
      run.filter((one) => one.inked >= THICKER * line + 1 && one.up + one.down < TALL * tall).length >=
      MARK.least * tall
    );
  });
  if (!isMarked) return null;
  const middle = steps[Math.round((at + last) / 2)]!;
  return {
    x: (steps[at]!.x + steps[last]!.x) / 2,
    // The line's own row, before its mark.
    y: steps[Math.max(0, at - Math.round(1.1 * tall))]!.y,
    up: middle.up,
    down: middle.down,
  };
}

function inkBeside(mask: Mask, x: number, y: number, reach: number): number {
  let sum = 0;
  for (let d = -reach; d <= reach; d++) if (isInk(mask, x, y + d)) sum += 1;
  return sum;
}

/** How far ink goes on from a place up or down, px; it may lean by a pixel a step of many. */
function reachOf(mask: Mask, x: number, y: number, way: 1 | -1, most: number): number {
  let at = x;
  let k = 0;
  while (k < most) {
    const next = y + way * (k + 1);
    if (isInk(mask, at, next)) k += 1;
    else if (k > 6 && isInk(mask, at - 1, next)) at -= 1;
    else if (k > 6 && isInk(mask, at + 1, next)) at += 1;
    else break;
  }
  return k;
}
