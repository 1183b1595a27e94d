import type { Rect } from '@steady-moth/core/job';
import type { BoardMapper } from '../../../frames/boardMap';
import type { Box } from './cropDrag';

/* Between rectangles of the original picture and boxes on the board, which may be turned and flipped but not tilted. */

export function boxOf({ leftPx, topPx, widthPx, heightPx }: Rect, mapper: BoardMapper): Box {
  const a = mapper.toBoard({ uPx: leftPx, vPx: topPx }) ?? { x: 0, y: 0 };
  const b = mapper.toBoard({ uPx: leftPx + widthPx, vPx: topPx + heightPx }) ?? a;
  return {
    left: Math.min(a.x, b.x),
    right: Math.max(a.x, b.x),
    top: Math.min(a.y, b.y),
    bottom: Math.max(a.y, b.y),
  };
}

/** In whole pixels. */
export function rectOf({ left, top, right, bottom }: Box, mapper: BoardMapper): Rect | null {
  const a = mapper.toPicture({ x: left, y: top });
  const b = mapper.toPicture({ x: right, y: bottom });
  if (!a || !b) return null;
  const [leftPx, topPx] = [Math.round(Math.min(a.uPx, b.uPx)), Math.round(Math.min(a.vPx, b.vPx))];
  const widthPx = Math.round(Math.max(a.uPx, b.uPx)) - leftPx;
  const heightPx = Math.round(Math.max(a.vPx, b.vPx)) - topPx;
  return { leftPx, topPx, widthPx, heightPx };
}
