import {
  type ClungCircle,
  clingCircle,
  judgePicture,
  type Located,
  locateEdge,
  locateStroke,
  type PictureJudgement,
} from '@steady-moth/core/edge';
import {
  applyTones,
  buildNet,
  buildPyramid,
  cutPatch,
  histogram,
  type Pixels,
  type Pyramid,
  redraw,
  sampleCubic,
  type ToneSetting,
} from '@steady-moth/core/raster';
import type { PicturePoint } from '@steady-moth/core/truing';
import * as Comlink from 'comlink';
import { type BoardFace, boardMapper } from '../board/boardMap';
import type { View } from '../board/view';
import { decodePicture } from './decodePicture';

/** What a point may cling to, the wanted kind first. */
export type ClingWish = 'edge' | 'line';

/** What the pointer is over in the original picture. */
export interface Look {
  located: Located | null;
  /** Square of original pixels round the place asked, and its left top corner. */
  crop: ImageBitmap;
  leftPx: number;
  topPx: number;
  /** Linear light across the edge found, in steps of half a pixel; empty without one. */
  across: number[];
}

let pyramid: Pyramid | null = null;
/** Number of the latest redrawing of the visible part, and of the whole: each ends only its own kind. */
const redrawNumbers = { visible: 0, whole: 0 };

const pixelsOf = (): Pixels => {
  if (!pyramid) throw new Error('No picture is loaded.');
  return pyramid[0];
};

/** A stretch of redrawing after which other calls get their turn, ms. */
const REDRAW_STRETCH_MS = 8;

const face = {
  /** Decodes a picture upright and keeps its pixels here; a small copy of it comes back for the rack. */
  async load(
    bytes: Blob,
    progress: (share: number) => void,
  ): Promise<{ widthPx: number; heightPx: number; thumb: Blob }> {
    const picture = await decodePicture(bytes);
    progress(0.7);
    pyramid = buildPyramid(picture);
    progress(0.9);
    const thumb = await thumbnail(pyramid);
    progress(1);
    return { widthPx: picture.width, heightPx: picture.height, thumb };
  },

  /** How often each brightness occurs. */
  async histogram(): Promise<number[]> {
    return pyramid ? histogram(pyramid[Math.min(3, pyramid.length - 1)]) : [];
  },

  /** Judges the picture as it is: sharpness, clipping, contrast. */
  async judge(): Promise<PictureJudgement | null> {
    return pyramid && judgePicture(pyramid);
  },

  /** Redraws what a view shows. A later call of the same kind ends an earlier one, which then answers null. */
  async redraw(
    board: BoardFace,
    view: View,
    tones: ToneSetting,
    kind: 'visible' | 'whole',
  ): Promise<ImageBitmap | null> {
    redrawNumbers[kind] += 1;
    const mine = redrawNumbers[kind];
    const source = pyramid;
    if (!source) return null;
    const width = Math.max(1, Math.round(view.width));
    const height = Math.max(1, Math.round(view.height));
    const mapper = boardMapper(board);
    const net = buildNet(width, height, (x, y, out) => {
      const place = mapper.toPicture({ x: view.x + x / view.scale, y: view.y + y / view.scale });
      if (!place) return false;
      out[0] = place.uPx;
      out[1] = place.vPx;
      return true;
    });
    const image = new ImageData(width, height);
    let until = performance.now() + REDRAW_STRETCH_MS;
    for (let row = 0; row < height; row += 16) {
      redraw(source, net, width, row, Math.min(height, row + 16), image.data);
      if (performance.now() > until) {
        await breathe();
        if (mine !== redrawNumbers[kind]) return null;
        until = performance.now() + REDRAW_STRETCH_MS;
      }
    }
    applyTones(image.data, tones);
    const bitmap = await createImageBitmap(image);
    return Comlink.transfer(bitmap, [bitmap]);
  },

  /** Looks at the picture round a place: its pixels for the loupe, and the edge or line to cling to. */
  async look(at: PicturePoint, cropPx: number, wish: ClingWish, searchPx: number): Promise<Look> {
    const pixels = pixelsOf();
    const leftPx = Math.round(at.uPx - cropPx / 2);
    const topPx = Math.round(at.vPx - cropPx / 2);
    const located = searchPx > 0 ? locateAs(pixels, at, wish, searchPx) : null;
    const crop = await createImageBitmap(cutColours(pixels, leftPx, topPx, cropPx));
    return Comlink.transfer({ located, crop, leftPx, topPx, across: located ? lightAcross(pixels, located) : [] }, [
      crop,
    ]);
  },

  /** Lets a drawn circle cling to a round edge; places are the board's. */
  async cling(
    board: BoardFace,
    circle: { centre: { x: number; y: number }; radius: number },
  ): Promise<ClungCircle | null> {
    const mapper = boardMapper(board);
    return clingCircle(pixelsOf(), { toPlane: mapper.toBoard, toPicture: mapper.toPicture }, circle);
  },
};

export type PixelsFace = typeof face;
export type { PictureJudgement };

function locateAs(pixels: Pixels, at: PicturePoint, wish: ClingWish, searchPx: number): Located | null {
  return (wish === 'line' ? locateStroke : locateEdge)(pixels, at.uPx, at.vPx, { searchPx });
}

/** Reach of the brightness shown in the loupe, px. */
const ACROSS_PX = 8;

function lightAcross(pixels: Pixels, { uPx, vPx, normal }: Located): number[] {
  const patch = cutPatch(pixels, uPx, vPx, ACROSS_PX + 3);
  if (!patch) return [];
  const values: number[] = [];
  for (let d = -ACROSS_PX; d <= ACROSS_PX; d += 0.5)
    values.push(sampleCubic(patch, uPx + d * Math.cos(normal), vPx + d * Math.sin(normal)));
  return values.every(Number.isFinite) ? values : [];
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
  const source = levels.findLast((level) => Math.max(level.width, level.height) >= THUMB_PX) ?? levels[0];
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

Comlink.expose(face);
