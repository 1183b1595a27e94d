import { placingThrough } from '@steady-moth/core/job/calibrated';
import type { PicturePlacing } from '@steady-moth/core/sketch';
import { type BoardFrame, boardMapper } from './boardMap';

/** One for a frame, however often it is asked for: whatever was made through it can be kept by its identity. */
const placings = new WeakMap<BoardFrame, PicturePlacing>();

/** Where a picture's places lie through the frame that it has on the board, y up. */
export function placingOfFrame(frame: BoardFrame): PicturePlacing {
  const made = placings.get(frame) ?? makePlacing(frame);
  placings.set(frame, made);
  return made;
}

function makePlacing(frame: BoardFrame): PicturePlacing {
  if (frame.kind === 'true') return placingThrough(frame);
  const mapper = boardMapper(frame);
  return {
    isTrue: false,
    place: (at) => mapper.toPlace(at),
    turned: null,
  };
}
