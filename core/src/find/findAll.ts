import { type SheetPreset, sheetsLike } from '../calibration';
import type { Vec2 } from '../geometry';
import type { Pixels } from '../raster';
import { findCoins } from './disc/findCoin';
import { asFound, findDisc } from './disc/findDisc';
import type { DiscFound } from './disc/findRound';
import { type FoundBoard, findBoard } from './grid/board/findBoard';
import { findDots } from './grid/dots/findDots';
import { findLineGrid, type GridResult, gridsAt } from './grid/findGrid';
import { findRuler, type RulerResult, rulersBeside } from './ruler/findRuler';
import { type Row, rowAt } from './ruler/seekRows';
import { areaOf, type Blob, blobsOf, type Thing } from './shared/blobs';
import { crossingOf, longSides } from './shared/hull';
import { linesOf, type PictureLines } from './shared/strongLines';
import { type SheetResult, sheetAt } from './sheet/findSheet';
import { sheetsBySides } from './sheet/sheetSides';

type Ok<T> = Extract<T, { ok: true }>;

/** A thing of known size, or one whose size can be told, that a picture shows. */
export type FoundThing =
  | { kind: 'ruler'; found: Ok<RulerResult> }
  | { kind: 'grid'; found: Ok<GridResult> }
  | { kind: 'sheet'; found: Ok<SheetResult> }
  | { kind: 'disc'; found: { ok: true } & DiscFound };

/** Rows of strokes are looked for so far apart: as a share of the picture's long side, so many px at least and at most. */
const ROW_STEP = { share: 1 / 45, leastPx: 30, mostPx: 90 } as const;
/** A row repeats itself so well, of so many strokes, and rows that belong together lie in one line. */
const CLEAR_ROW = 0.6;
const LEAST_PERIOD_PX = 5;
const ROWS_TRIED = 5;
const FEWEST_OF_ROW = 3;
const RULER = { graduations: 20, seen: 0.75 } as const;
const GRID_STEP_PX = 320;
const GRIDS_TRIED = 2;
const GRID = { crossings: 30, lines: 4, seen: 0.5 } as const;
const SHEETS_TRIED = 4;
/** A sheet's hull is the quadrangle of its long sides, and its shape that of paper as a camera tilts it, as shares. */
const SHEET = { square: 0.06, shape: 0.08, least: 0.004, most: 0.6, fill: 0.55 } as const;
const DISCS_TRIED = 4;
/** A disc's hull is an ellipse that is nearly round; it is so large against the picture, and so well seen. */
const DISC = { round: 0.04, askew: 1.3, most: 0.08, fill: 0.85, seen: 0.7, like: 0.15 } as const;
/** Of a larger region's hue, and no brighter: what is seen through a hole. */
const GROUND_HUE = 0.07;

/**
 * Searches a whole picture for rulers, grids, sheets and discs, the surest kind first: small copies and rows that repeat
 * themselves say where, the finders what. Nothing is decided: each is offered to a person, who says what it is.
 *
 * In: the picture; out: what was found, at most two rulers, a grid, two sheets and three discs.
 */
export function findAll(pixels: Pixels): FoundThing[] {
  const found: FoundThing[] = [];
  const grid = searchGrid(pixels);
  if (grid) found.push({ kind: 'grid', found: grid });
  const lines = linesOf(pixels);
  for (const ruler of searchRulers(pixels, lines, grid)) found.push({ kind: 'ruler', found: ruler });
  // A grid tells more than a sheet; and a coin has to be named, and much that is round is none: it is looked for where
  // nothing tells its size by itself.
  if (grid) return found;
  const { regions, things } = blobsOf(pixels);
  for (const sheet of searchSheets(pixels, lines, regions)) found.push({ kind: 'sheet', found: sheet });
  if (!found.some(({ kind }) => kind === 'ruler'))
    for (const disc of searchDiscs(pixels, regions, things())) found.push({ kind: 'disc', found: disc });
  return found.sort((a, b) => ORDER.indexOf(a.kind) - ORDER.indexOf(b.kind));
}

/** A ruler tells its size by itself; a coin has to be named. */
const ORDER: readonly FoundThing['kind'][] = ['ruler', 'sheet', 'grid', 'disc'];

function searchGrid(pixels: Pixels): Ok<GridResult> | null {
  const places: Vec2[] = [];
  for (let y = GRID_STEP_PX / 2; y < pixels.height; y += GRID_STEP_PX)
    for (let x = GRID_STEP_PX / 2; x < pixels.width; x += GRID_STEP_PX)
      if (gridsAt(pixels, { x, y })) places.push({ x, y });
  // Faint lines show at few places: about the middle they are looked for more closely.
  if (places.length < 2) places.splice(0, places.length, { x: pixels.width / 2, y: pixels.height / 2 });
  for (let k = 0; k < Math.min(GRIDS_TRIED, places.length); k++) {
    const { x, y } = places[Math.floor(((k + 0.5) * places.length) / GRIDS_TRIED)]!;
    const found = findLineGrid(pixels, { uPx: x, vPx: y });
    if (found.ok && isClearGrid(found)) return found;
  }
  const board = findBoard(pixels, null) ?? findDots(pixels, null);
  return board && isClearGrid(board) ? { ok: true, ...board } : null;
}

const isClearGrid = ({ crossings, columns, rows, seen }: FoundBoard): boolean =>
  crossings.length >= GRID.crossings && Math.min(columns, rows) >= GRID.lines && seen >= GRID.seen;

function searchRulers(pixels: Pixels, lines: PictureLines, grid: Ok<GridResult> | null): Ok<RulerResult>[] {
  const box = grid && boxOf(grid.crossings.map(({ pick }) => ({ x: pick.uPx, y: pick.vPx })));
  const long = Math.max(pixels.width, pixels.height);
  const step = Math.round(Math.min(ROW_STEP.mostPx, Math.max(ROW_STEP.leastPx, ROW_STEP.share * long)));
  const isClear = (ruler: Ok<RulerResult>) =>
    ruler.count >= RULER.graduations && ruler.seen >= RULER.seen * (ruler.count + 1);
  const found = rulersBeside(pixels, lines, (at) => box !== null && isWithin(at, box))
    .filter(isClear)
    .slice(0, 2);
  // A grid's own lines are even rows as well.
  if (found.length || grid) return found;
  let rows: (Row & { repeat: number })[] = [];
  for (let y = step / 2; y < pixels.height; y += step)
    for (let x = step / 2; x < pixels.width; x += step) {
      const row = rowAt(pixels, { x, y });
      if (row && row.repeat >= CLEAR_ROW && row.period >= LEAST_PERIOD_PX) rows.push(row);
    }
  for (let tried = 0; tried < ROWS_TRIED && found.length < 2; tried++) {
    const support = rows.map((row) => rows.filter((other) => isOfOneRow(row, other, step)).length);
    const most = Math.max(0, ...support);
    if (most < FEWEST_OF_ROW) break;
    const row = rows[support.indexOf(most)]!;
    const ruler = findRuler(pixels, { uPx: row.at.x, vPx: row.at.y });
    const taken = ruler.ok && isClear(ruler);
    if (taken) found.push(ruler);
    rows = rows.filter((other) =>
      taken ? awayFrom(other.at, ruler) > BESIDE_SHARE * lengthOf(ruler) : !isOfOneRow(row, other, step),
    );
  }
  return found;
}

/** Rows nearer to a ruler than this share of its length are on it: its other edge, its figures. */
const BESIDE_SHARE = 0.25;

const lengthOf = ({ from, to }: Ok<RulerResult>): number => Math.hypot(to.uPx - from.uPx, to.vPx - from.vPx);

function awayFrom({ x, y }: Vec2, { from, to }: Ok<RulerResult>): number {
  const [dx, dy] = [to.uPx - from.uPx, to.vPx - from.vPx];
  const t = Math.max(-0.1, Math.min(1.1, ((x - from.uPx) * dx + (y - from.vPx) * dy) / (dx * dx + dy * dy)));
  return Math.hypot(x - from.uPx - t * dx, y - from.vPx - t * dy);
}

/** Alike in period and way, and one in line with the other, `step` being how far apart places are looked at, px. */
function isOfOneRow(a: Row, b: Row, step: number): boolean {
  const turn = Math.abs(a.way.x * b.way.y - a.way.y * b.way.x);
  const [dx, dy] = [b.at.x - a.at.x, b.at.y - a.at.y];
  const aside = Math.abs(dx * a.way.y - dy * a.way.x);
  return turn < 0.1 && Math.abs(Math.log(a.period / b.period)) < 0.15 && aside < step;
}

function searchSheets(pixels: Pixels, lines: PictureLines, regions: readonly Blob[]): Ok<SheetResult>[] {
  const bySides = sheetsBySides(lines);
  const likely = regions.filter(
    (r) => !r.touchesRim && r.share > SHEET.least && r.share < SHEET.most && r.fill > SHEET.fill && isQuadrangle(r),
  );
  const places = [
    // A corner may be covered of what four sides tell; of a region it may as well be missing.
    ...bySides
      .sort((p, q) => areaOf(q.corners) - areaOf(p.corners))
      .map(({ corners }) => ({ ...middleOf(corners), mostMissing: 1 })),
    ...likely.slice(0, SHEETS_TRIED).map(({ at }) => ({ ...at, mostMissing: 0 })),
  ];
  const found: { sheet: Ok<SheetResult>; middle: Vec2 }[] = [];
  for (const { x, y, mostMissing } of places) {
    if (found.some(({ middle }) => apart(middle, { x, y }) < SAME_SHEET_PX)) continue;
    const sheet = sheetAt(pixels, bySides, { uPx: x, vPx: y });
    if (!sheet.ok || sheet.missingCorners > mostMissing || !isPaperShape(sheet.ratio)) continue;
    const middle = middleOf(sheet.edges.flat().map((p) => ({ x: p.uPx, y: p.vPx })));
    if (found.every((other) => apart(other.middle, middle) > SAME_SHEET_PX)) found.push({ sheet, middle });
    if (found.length === 2) break;
  }
  return found.map(({ sheet }) => sheet);
}

const SAME_SHEET_PX = 40;

function isQuadrangle({ hull }: Blob): boolean {
  const sides = longSides(hull);
  const corners = sides?.map((side, k) => crossingOf(sides[(k + 3) % 4]!, side)) ?? [null];
  if (corners.some((c) => c === null)) return false;
  return Math.abs(areaOf(corners as Vec2[]) / areaOf(hull) - 1) < SHEET.square;
}

const ratioOf = ({ widthMm, heightMm }: SheetPreset): number => widthMm / heightMm;

const isPaperShape = (ratio: number): boolean =>
  Math.abs(Math.log(ratio / ratioOf(sheetsLike(ratio)[0]!))) < SHEET.shape;

const middleOf = (all: readonly Vec2[]): Vec2 => ({
  x: all.reduce((s, p) => s + p.x, 0) / all.length,
  y: all.reduce((s, p) => s + p.y, 0) / all.length,
});

const apart = (a: Vec2, b: Vec2): number => Math.hypot(b.x - a.x, b.y - a.y);

const MOST_DISCS = 3;

function searchDiscs(pixels: Pixels, regions: readonly Blob[], things: readonly Thing[]): ({ ok: true } & DiscFound)[] {
  const isHole = ({ within, ...thing }: Thing) =>
    !within.touchesRim && regions.some((r) => r !== within && r.share > within.share && isInShade(thing, r));
  // A coin of which both rims are seen is surely one: it is told first.
  const found: ({ ok: true } & DiscFound)[] = findCoins(pixels).slice(0, MOST_DISCS).map(asFound);
  const likely = things
    .filter((t) => t.share < DISC.most && t.fill > DISC.fill && isRound(t) && !isHole(t))
    .sort((a, b) => b.share - a.share);
  for (const thing of likely.slice(0, DISCS_TRIED)) {
    if (found.length >= MOST_DISCS) break;
    const disc = findDisc(pixels, { uPx: thing.at.x, vPx: thing.at.y });
    if (!disc.ok || disc.seen < DISC.seen || disc.doubt === 'ragged') continue;
    const { a, b, x, y } = disc.ellipse;
    if (Math.abs(Math.log((Math.PI * a * b) / areaOf(thing.hull))) > 2 * DISC.like) continue;
    if (found.every((other) => apart(other.ellipse, { x, y }) > Math.sqrt(a * b))) found.push(disc);
  }
  return found;
}

/** The hull of an ellipse: as large as that of its own width and height, and nearly round. */
function isRound({ hull }: Blob): boolean {
  const widths = Array.from({ length: 12 }, (_, k) => {
    const [c, s] = [Math.cos((k * Math.PI) / 12), Math.sin((k * Math.PI) / 12)];
    const along = hull.map((p) => p.x * c + p.y * s);
    return Math.max(...along) - Math.min(...along);
  });
  const [least, most] = [Math.min(...widths), Math.max(...widths)];
  return most / least < DISC.askew && Math.abs(areaOf(hull) / ((Math.PI / 4) * least * most) - 1) < DISC.round;
}

/** Of a ground's hue and no brighter. */
function isInShade({ colour }: Blob, ground: Blob): boolean {
  const [light, own] = [colour[0] + colour[1] + colour[2], ground.colour[0] + ground.colour[1] + ground.colour[2]];
  if (light > 1.05 * own) return false;
  return Math.hypot(...colour.map((v, c) => v / light - ground.colour[c]! / own)) < GROUND_HUE;
}

function boxOf(points: readonly Vec2[]): { min: Vec2; max: Vec2 } {
  const [xs, ys] = [points.map((p) => p.x), points.map((p) => p.y)];
  return { min: { x: Math.min(...xs), y: Math.min(...ys) }, max: { x: Math.max(...xs), y: Math.max(...ys) } };
}

const isWithin = (p: Vec2, { min, max }: { min: Vec2; max: Vec2 }): boolean =>
  p.x > min.x && p.x < max.x && p.y > min.y && p.y < max.y;
