import { placingThrough } from '@steady-moth/core/job/calibrated';
import type { PicturePlacing } from '@steady-moth/core/sketch';
import { type BoardFace, boardMapper } from './boardMap';

/** One for a face, however often it is asked for: whatever was made through it can be kept by its identity. */
const placings = new WeakMap<BoardFace, PicturePlacing>();

/** Where a picture's places lie through the face that it has on the board, y up. */
export function placingOfFace(face: BoardFace): PicturePlacing {
  const made = placings.get(face) ?? makePlacing(face);
  placings.set(face, made);
  return made;
}

function makePlacing(face: BoardFace): PicturePlacing {
  if (face.kind === 'true') return placingThrough(face);
  const mapper = boardMapper(face);
  return {
    isTrue: false,
    place: (at) => mapper.toPlace(at),
    turned: null,
  };
}
