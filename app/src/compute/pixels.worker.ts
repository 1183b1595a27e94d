import type { PicturePoint } from '@steady-moth/core/calibration';
import {
  type GroundOfRim,
  isShadowLike,
  judgePicture,
  type Located,
  lensBlurOf,
  lightAcross,
  locateAs,
  locateInkCorner,
  type PictureJudgement,
  type PixelRect,
  type RimKind,
  type SnappedCircle,
  snapCircle,
} from '@steady-moth/core/edge';
import {
  type CoinHints,
  type CountResult,
  countGraduations,
  type DiscResult,
  findDisc,
  findGrid,
  findGridAnywhere,
  findRound,
  findRuler,
  findSheet,
  type GridResult,
  isLineDrawing,
  type RulerResult,
  type SheetResult,
} from '@steady-moth/core/find';
import { mapThrough } from '@steady-moth/core/geometry';
import type { Clearing } from '@steady-moth/core/job';
import { type SettleResult, settlePath, type ToSettle } from '@steady-moth/core/outline';
import {
  applyTones,
  buildClearTable,
  buildPyramid,
  buildWarpGrid,
  type ClearTable,
  clearBackground,
  clearGround,
  type DifferencePlace,
  findDifferences,
  growBackground,
  histogram,
  markDifference,
  meanColour,
  type Pixels,
  type Pyramid,
  redraw,
  type ToneSetting,
} from '@steady-moth/core/raster';
import * as Comlink from 'comlink';
import { type BoardFrame, boardMapper, footMapper } from '../frames/boardMap';
import { screenPlace } from '../frames/place';
import { fromScreen, type View } from '../frames/view';
import { decodePicture } from './decodePicture';
import { serve } from './serve';

/** What a point may snap to, the wanted kind first. */
export type SnapWish = 'edge' | 'line';

/** What the pointer is over in the original picture. */
export interface Look {
  /** The edge or stroke nearest to the place asked, then the other edges that run along it close by; empty for none. */
  located: Located[];
  /** Of each of them whether it looks like the rim of a shadow. */
  shadows: boolean[];
  /** Square of original pixels round the place asked, and its left top corner. */
  crop: ImageBitmap;
  leftPx: number;
  topPx: number;
  /** Linear light across each of them, in steps of half a pixel. */
  across: number[][];
}

/** What of a picture shall be drawn, and how. */
export interface DrawWish {
  blob: string;
  board: BoardFrame;
  view: View;
  tones: ToneSetting;
  clear: Clearing | null;
  /** The visible part, or the whole to stand in for it. */
  kind: 'visible' | 'whole';
  compare: Comparison | null;
}

/** An earlier picture shown in a picture's place, or the differences between both. */
export interface Comparison {
  blob: string;
  /** 3 × 3, row by row, from the picture's pixels to the earlier one's. */
  back: readonly number[];
  mode: 'before' | 'difference';
}

/** Where a picture differs from an earlier one, px of the picture. */
export interface DifferenceBox {
  kind: DifferencePlace['kind'];
  leftPx: number;
  topPx: number;
  widthPx: number;
  heightPx: number;
}

/** Pictures are compared so large, px of the longer side: what is smaller than some of these is not told. */
const COMPARED_PX = 1600;
const MOST_DIFFERENCES = 30;

interface Drawing {
  bitmap: ImageBitmap;
  /** Share of what was compared that differs. */
  differing: number | null;
}

/** Pixels kept at once, bytes with their halved copies: what was not looked at longest goes first. */
const MOST_HELD_BYTES = 900e6;

/** The pictures whose pixels are here, by the hash of their bytes, the last used last. */
const pyramids = new Map<string, Pyramid>();
/** Number of the latest redrawing of a picture, of each kind: each ends only its own kind. */
const redrawNumbers = new Map<string, number>();
/** The visible part as it was redrawn before its tones: a slider that moves changes only those. */
const plainDrawings = new Map<string, { key: string; data: Uint8ClampedArray<ArrayBuffer> }>();
let clearing: { key: string; table: ClearTable } | null = null;
/** The background that was grown last of each picture. */
const grounds = new Map<string, { key: string; ground: Pixels; scale: number }>();
let loading: Promise<unknown> = Promise.resolve();

function pyramidOf(blob: string): Pyramid | null {
  const found = pyramids.get(blob);
  if (!found) return null;
  pyramids.delete(blob);
  pyramids.set(blob, found);
  return found;
}

function pixelsOf(blob: string): Pixels {
  const found = pyramidOf(blob);
  if (!found) throw new Error('This picture is not loaded.');
  return found[0]!;
}

const bytesOf = (pyramid: Pyramid): number => pyramid.reduce((sum, level) => sum + level.data.byteLength, 0);

function makeRoom(): void {
  let total = [...pyramids.values()].reduce((sum, p) => sum + bytesOf(p), 0);
  for (const [blob, pyramid] of pyramids) {
    if (total <= MOST_HELD_BYTES || pyramids.size === 1) return;
    pyramids.delete(blob);
    plainDrawings.delete(blob);
    grounds.delete(blob);
    total -= bytesOf(pyramid);
  }
}

/** A stretch of redrawing after which other calls get their turn, ms. */
const REDRAW_STRETCH_MS = 8;

export interface LoadedPixels {
  widthPx: number;
  heightPx: number;
  /** Every picture that is held now. */
  held: string[];
}

/** The first drawing of a picture has been asked for by then, ms. */
const AFTER_DRAWING_MS = 300;

async function loadNow(blob: string, bytes: Blob, progress: (share: number) => void): Promise<LoadedPixels> {
  const picture = await decodePicture(bytes);
  progress(0.7);
  const pyramid = buildPyramid(picture);
  pyramids.set(blob, pyramid);
  makeRoom();
  progress(1);
  // The first look at it would wait for this otherwise; the first drawing of it comes before.
  setTimeout(() => pyramids.get(blob) === pyramid && lensBlurOf(picture), AFTER_DRAWING_MS);
  return { widthPx: picture.width, heightPx: picture.height, held: [...pyramids.keys()] };
}

/** An edge farther from a path than this is another one, px. */
const DEVIATION_PX = 12;

const calls = {
  /** Decodes a picture upright and keeps its pixels here, one at a time. */
  load(blob: string, bytes: Blob, progress: (share: number) => void): Promise<LoadedPixels> {
    const mine = loading.then(() => loadNow(blob, bytes, progress));
    loading = mine.catch(() => {});
    return mine;
  },

  /** A small copy of a picture for the rack. */
  async thumb(blob: string): Promise<Blob | null> {
    const pyramid = pyramidOf(blob);
    return pyramid && thumbnail(pyramid);
  },

  /** How often each brightness occurs. */
  async histogram(blob: string): Promise<number[]> {
    const pyramid = pyramidOf(blob);
    return pyramid ? histogram(pyramid[Math.min(3, pyramid.length - 1)]!) : [];
  },

  /** Judges the picture as it is, where the part is: sharpness, clipping, contrast. */
  async judge(blob: string, within: PixelRect | null): Promise<PictureJudgement | null> {
    const pyramid = pyramidOf(blob);
    return pyramid && judgePicture(pyramid, within);
  },

  /** Whether a loaded picture is a line drawing, to be taken by the middle of its strokes. */
  async isLineDrawing(blob: string): Promise<boolean> {
    return isLineDrawing(pixelsOf(blob));
  },

  /** The picture's own colour about a place: the mean of a few pixels, 0 to 255. */
  async colourAt(blob: string, { uPx, vPx }: PicturePoint): Promise<[number, number, number] | null> {
    return meanColour(pixelsOf(blob), Math.floor(uPx), Math.floor(vPx));
  },

  /** The places where a picture differs from the one whose place it took, in its own pixels, the largest first. */
  async differences(blob: string, earlier: Omit<Comparison, 'mode'>): Promise<DifferenceBox[]> {
    const [now, before] = [pyramidOf(blob), pyramidOf(earlier.blob)];
    if (!now || !before) return [];
    const scale = Math.min(1, COMPARED_PX / Math.max(now[0]!.width, now[0]!.height));
    const [width, height] = [Math.ceil(now[0]!.width * scale), Math.ceil(now[0]!.height * scale)];
    const own = (x: number, y: number) => ({ uPx: x / scale, vPx: y / scale });
    const then = (x: number, y: number) => {
      const at = mapThrough(earlier.back, x / scale, y / scale);
      return { uPx: at.x, vPx: at.y };
    };
    const never = () => false;
    const drawn = await drawPlain(now, own, width, height, never);
    const old = await drawPlain(before, then, width, height, never);
    if (!drawn || !old) return [];
    return findDifferences(drawn, old, width, height, MOST_DIFFERENCES).map((p) => ({
      kind: p.kind,
      leftPx: p.left / scale,
      topPx: p.top / scale,
      widthPx: p.width / scale,
      heightPx: p.height / scale,
    }));
  },

  /** Redraws what a view shows. A later call of the same kind ends an earlier one, which then answers null. */
  async redraw(wish: DrawWish): Promise<Drawing | null> {
    const { blob, board, view, kind, tones, clear, compare } = wish;
    const slot = `${kind} ${blob}`;
    const mine = (redrawNumbers.get(slot) ?? 0) + 1;
    redrawNumbers.set(slot, mine);
    const isOver = () => mine !== redrawNumbers.get(slot);
    const source = pyramidOf(blob);
    const earlier = compare && pyramidOf(compare.blob);
    if (!source || (compare && !earlier)) return null;
    const width = Math.max(1, Math.round(view.width));
    const height = Math.max(1, Math.round(view.height));
    const mapper = boardMapper(board);
    const own = (x: number, y: number) => mapper.toPicture(fromScreen(view, screenPlace(x, y)));
    const then = (x: number, y: number) => {
      const place = own(x, y);
      if (!place || !compare) return null;
      const at = mapThrough(compare.back, place.uPx, place.vPx);
      return { uPx: at.x, vPx: at.y };
    };
    const plainKey = kind === 'visible' && !compare ? JSON.stringify([board, view]) : '';
    const kept = plainDrawings.get(blob);
    let data = plainKey && kept?.key === plainKey ? kept.data.slice() : null;
    if (!data) {
      const [from, sourceOf] = earlier && compare?.mode === 'before' ? [earlier, then] : [source, own];
      data = await drawPlain(from, sourceOf, width, height, isOver);
      if (!data) return null;
      if (plainKey) plainDrawings.set(blob, { key: plainKey, data: data.slice() });
    }
    let differing: number | null = null;
    if (earlier && compare?.mode === 'difference') {
      const before = await drawPlain(earlier, then, width, height, isOver);
      if (!before) return null;
      differing = markDifference(data, before);
    } else {
      if (clear?.by === 'colour') clearBackground(data, clearTableOf(clear));
      else if (clear) {
        const { ground, scale } = groundOf(blob, source, clear);
        const small = (x: number, y: number) => {
          const at = own(x, y);
          return at && { uPx: at.uPx / scale, vPx: at.vPx / scale };
        };
        const drawn = await drawPlain([ground], small, width, height, isOver);
        if (!drawn) return null;
        clearGround(data, drawn, clear.tolerance);
      }
      applyTones(data, tones);
    }
    const bitmap = await createImageBitmap(new ImageData(data, width, height), { premultiplyAlpha: 'premultiply' });
    return Comlink.transfer({ bitmap, differing }, [bitmap]);
  },

  /** Looks at the picture round a place: its pixels for the loupe, and the edge or line to snap to. */
  async look(blob: string, at: PicturePoint, cropPx: number, wish: SnapWish, searchPx: number): Promise<Look> {
    const pixels = pixelsOf(blob);
    const leftPx = Math.round(at.uPx - cropPx / 2);
    const topPx = Math.round(at.vPx - cropPx / 2);
    // Where the middles of two strokes meet comes before the middle of either.
    const corner = wish === 'line' && searchPx > 0 ? locateInkCorner(pixels, at.uPx, at.vPx, searchPx) : null;
    const located = corner ? [corner] : searchPx > 0 ? locateAs(pixels, at, wish, searchPx) : [];
    const across = located.map((l) => lightAcross(pixels, l));
    const shadows = located.map((l) => isShadowLike(pixels, l));
    const crop = await createImageBitmap(cutColours(pixels, leftPx, topPx, cropPx));
    return Comlink.transfer({ located, shadows, crop, leftPx, topPx, across }, [crop]);
  },

  /** The edge or line nearest to each of several places; null where there is none. */
  async edgesAt(blob: string, places: readonly PicturePoint[], wish: SnapWish): Promise<(PicturePoint | null)[]> {
    const source = pixelsOf(blob);
    return places.map((at) => {
      const [nearest] = locateAs(source, at, wish, DEVIATION_PX);
      return nearest ? { uPx: nearest.uPx, vPx: nearest.vPx } : null;
    });
  },

  /** Settles a path on the edges or lines that it lies over; null where its plane is not on this board. */
  async settleOnEdges(
    blob: string,
    board: BoardFrame,
    path: ToSettle,
    plane: string,
    wish: SnapWish,
    ground: GroundOfRim,
  ): Promise<SettleResult | null> {
    const mapper = plane === 'face' ? boardMapper(board) : plane === 'table' ? footMapper(board) : null;
    const source = pixelsOf(blob);
    if (!mapper) return null;
    const { toPlace: toPlane, toPicture } = mapper;
    const toFoot = plane === 'face' ? footMapper(board)?.toPicture : undefined;
    return settlePath(path, mapper, {
      edges: (at, searchPx) => locateAs(source, at, wish, searchPx),
      round: (circle) => snapCircle(source, { toPlane, toPicture, ...(toFoot && { toFoot }) }, circle, wish, ground),
    });
  },

  /** Counts the graduations between two readings. */
  async countGraduations(blob: string, from: PicturePoint, to: PicturePoint, lengthMm: number): Promise<CountResult> {
    return countGraduations(pixelsOf(blob), from, to, lengthMm);
  },

  /** Finds a reference of a kind from one click. */
  async findReference(
    blob: string,
    kind: FoundKind,
    click: PicturePoint,
    hints: CoinHints = {},
  ): Promise<FoundReference> {
    const picture = pixelsOf(blob);
    if (kind === 'ruler') return { kind, found: findRuler(picture, click) };
    if (kind === 'disc') return { kind, found: findDisc(picture, click, hints) };
    if (kind === 'sheet') return { kind, found: findSheet(picture, click) };
    return { kind, found: findGrid(picture, click) };
  },

  /** A hole's rim about a click. */
  async findHole(blob: string, click: PicturePoint): Promise<DiscResult> {
    return findRound(pixelsOf(blob), click);
  },

  /** Finds a grid about the middle of a picture that belongs to no job; its pixels are not kept. */
  async findGridIn(bytes: Blob): Promise<{ widthPx: number; heightPx: number; grid: GridResult }> {
    const picture = await decodePicture(bytes);
    const { width, height } = picture;
    return { widthPx: width, heightPx: height, grid: findGridAnywhere(picture) };
  },

  /** Lets a drawn circle snap to a round edge; places are the board's. */
  async snapCircle(
    blob: string,
    board: BoardFrame,
    circle: { centre: { x: number; y: number }; radius: number },
    rim: RimKind,
    ground: GroundOfRim,
  ): Promise<SnappedCircle | null> {
    const { toPlace, toPicture } = boardMapper(board);
    const toFoot = footMapper(board)?.toPicture;
    return snapCircle(pixelsOf(blob), { toPlane: toPlace, toPicture, ...(toFoot && { toFoot }) }, circle, rim, ground);
  },
};

/** What is looked for about a click, and what came of it. */
export type FoundKind = 'ruler' | 'disc' | 'sheet' | 'grid';
export type FoundReference =
  | { kind: 'ruler'; found: RulerResult }
  | { kind: 'disc'; found: DiscResult }
  | { kind: 'sheet'; found: SheetResult }
  | { kind: 'grid'; found: GridResult };

export type PixelsCalls = typeof calls;
export type { PictureJudgement };

async function drawPlain(
  source: Pyramid,
  sourceOf: (x: number, y: number) => PicturePoint | null,
  width: number,
  height: number,
  isOver: () => boolean,
): Promise<Uint8ClampedArray<ArrayBuffer> | null> {
  const net = buildWarpGrid(width, height, (x, y, out) => {
    const place = sourceOf(x, y);
    if (!place) return false;
    out[0] = place.uPx;
    out[1] = place.vPx;
    return true;
  });
  const data = new Uint8ClampedArray(width * height * 4);
  let until = performance.now() + REDRAW_STRETCH_MS;
  for (let row = 0; row < height; row += 16) {
    redraw(source, net, width, row, Math.min(height, row + 16), data);
    if (performance.now() > until) {
      await breathe();
      if (isOver()) return null;
      until = performance.now() + REDRAW_STRETCH_MS;
    }
  }
  return data;
}

/** A background is grown in a copy no larger than this, px of the longer side. */
const GROWN_PX = 720;

/** The background of a picture as it was grown, and how many px of the picture one of its px is. */
function groundOf(blob: string, pyramid: Pyramid, clear: Extract<Clearing, { by: 'region' }>) {
  const key = JSON.stringify(clear);
  const known = grounds.get(blob);
  if (known?.key === key) return known;
  const level = Math.max(
    0,
    pyramid.findIndex(({ width, height }) => Math.max(width, height) <= GROWN_PX),
  );
  const scale = 2 ** level;
  const places = clear.places.map(({ uPx, vPx }) => ({ uPx: uPx / scale, vPx: vPx / scale }));
  const grown = { key, ground: growBackground(pyramid[level]!, places, clear.tolerance), scale };
  grounds.set(blob, grown);
  return grown;
}

function clearTableOf(clear: Extract<Clearing, { by: 'colour' }>): ClearTable {
  const key = JSON.stringify(clear);
  if (clearing?.key !== key) clearing = { key, table: buildClearTable(clear) };
  return clearing.table;
}

function cutColours({ width, height, data }: Pixels, left: number, top: number, size: number): ImageData {
  const image = new ImageData(size, size);
  for (let y = Math.max(0, -top); y < Math.min(size, height - top); y++) {
    const x0 = Math.max(0, -left);
    const x1 = Math.min(size, width - left);
    if (x1 <= x0) break;
    const from = ((top + y) * width + left + x0) * 4;
    image.data.set(data.subarray(from, from + (x1 - x0) * 4), (y * size + x0) * 4);
  }
  return image;
}

const THUMB_PX = 540;

/** From the smallest copy that is still larger than the thumbnail: no need to shrink all of the picture again. */
async function thumbnail(levels: Pyramid): Promise<Blob> {
  const source = levels.findLast((level) => Math.max(level.width, level.height) >= THUMB_PX) ?? levels[0]!;
  const scale = Math.min(1, THUMB_PX / Math.max(source.width, source.height));
  const small = new OffscreenCanvas(
    Math.max(1, Math.round(source.width * scale)),
    Math.max(1, Math.round(source.height * scale)),
  );
  const context = small.getContext('2d');
  if (!context) throw new Error('This browser cannot draw here.');
  const image = new ImageData(new Uint8ClampedArray(source.data), source.width, source.height);
  const bitmap = await createImageBitmap(image);
  context.imageSmoothingQuality = 'high';
  context.drawImage(bitmap, 0, 0, small.width, small.height);
  bitmap.close();
  return small.convertToBlob({ type: 'image/jpeg', quality: 0.8 });
}

/** Lets waiting messages be read. */
const breathe = (): Promise<void> =>
  new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(null);
  });

serve(calls);
