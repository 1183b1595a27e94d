import type { Rect } from '@steady-moth/core/job';
import type { PictureMap } from '@steady-moth/core/sketch';
import { boardPlace, offBoard, onBoard } from '../../../frames/place';
import type { CropBox } from './cropDrag';

/* Between rectangles of the original picture and boxes on the board, which may be turned and flipped but not tilted. */

export function boxOf({ leftPx, topPx, widthPx, heightPx }: Rect, mapper: PictureMap): CropBox {
  const at = (uPx: number, vPx: number) => {
    const place = mapper.toPlace({ uPx, vPx });
    return place ? onBoard(place) : null;
  };
  const a = at(leftPx, topPx) ?? boardPlace(0, 0);
  const b = at(leftPx + widthPx, topPx + heightPx) ?? a;
  return {
    left: Math.min(a.x, b.x),
    right: Math.max(a.x, b.x),
    top: Math.min(a.y, b.y),
    bottom: Math.max(a.y, b.y),
  };
}

/** In whole pixels. */
export function rectOf({ left, top, right, bottom }: CropBox, mapper: PictureMap): Rect | null {
  const a = mapper.toPicture(offBoard(boardPlace(left, top)));
  const b = mapper.toPicture(offBoard(boardPlace(right, bottom)));
  if (!a || !b) return null;
  const [leftPx, topPx] = [Math.round(Math.min(a.uPx, b.uPx)), Math.round(Math.min(a.vPx, b.vPx))];
  const widthPx = Math.round(Math.max(a.uPx, b.uPx)) - leftPx;
  const heightPx = Math.round(Math.max(a.vPx, b.vPx)) - topPx;
  return { leftPx, topPx, widthPx, heightPx };
}
