import type { Vec2 } from '@steady-moth/core/geometry';
import { type PicturePoint, type PlaneMap, planeMapper } from '@steady-moth/core/truing';

/**
 * What the board shows: the picture as it is, in its own pixels, or true, in millimetres on the part's plane.
 * Board places have x to the right and y down the screen; y of the part is up, so it is turned over here, and only here.
 */
export type BoardFace =
  | { kind: 'picture'; turns: 0 | 1 | 2 | 3; widthPx: number; heightPx: number }
  | { kind: 'true'; map: PlaneMap };

export interface BoardMapper {
  toBoard(point: PicturePoint): Vec2 | null;
  toPicture(place: Vec2): PicturePoint | null;
}

export function boardMapper(face: BoardFace): BoardMapper {
  if (face.kind === 'picture') return turnedMapper(face);
  const mapper = planeMapper(face.map);
  return {
    toBoard(point) {
      const place = mapper.toPart(point);
      return place && { x: place.xMm, y: -place.yMm };
    },
    toPicture: ({ x, y }) => mapper.toPicture({ xMm: x, yMm: -y }),
  };
}

/** The picture in its own pixels, turned clockwise by quarter turns about its left top corner and moved back. */
function turnedMapper({ turns, widthPx: w, heightPx: h }: Extract<BoardFace, { kind: 'picture' }>): BoardMapper {
  switch (turns) {
    case 0:
      return { toBoard: ({ uPx, vPx }) => ({ x: uPx, y: vPx }), toPicture: ({ x, y }) => ({ uPx: x, vPx: y }) };
    case 1:
      return { toBoard: ({ uPx, vPx }) => ({ x: h - vPx, y: uPx }), toPicture: ({ x, y }) => ({ uPx: y, vPx: h - x }) };
    case 2:
      return {
        toBoard: ({ uPx, vPx }) => ({ x: w - uPx, y: h - vPx }),
        toPicture: ({ x, y }) => ({ uPx: w - x, vPx: h - y }),
      };
    case 3:
      return { toBoard: ({ uPx, vPx }) => ({ x: vPx, y: w - uPx }), toPicture: ({ x, y }) => ({ uPx: w - y, vPx: x }) };
  }
}

/** Picture pixels per unit of the board about a place: what one pixel is worth there. */
export function pxPerUnit(mapper: BoardMapper, place: Vec2): number {
  const here = mapper.toPicture(place);
  const there = mapper.toPicture({ x: place.x + 1e-3, y: place.y });
  if (!here || !there) return 1;
  return Math.hypot(there.uPx - here.uPx, there.vPx - here.vPx) / 1e-3;
}

/** Points along the picture's rim that have a place on the board: what "all of it" means when a horizon cuts it. */
export function pictureOutline(mapper: BoardMapper, widthPx: number, heightPx: number): Vec2[] {
  const places: Vec2[] = [];
  const STEPS = 8;
  for (let k = 0; k < STEPS; k++) {
    const t = k / STEPS;
    for (const [uPx, vPx] of [
      [t * widthPx, 0],
      [widthPx, t * heightPx],
      [widthPx * (1 - t), heightPx],
      [0, heightPx * (1 - t)],
    ]) {
      const place = mapper.toBoard({ uPx, vPx });
      if (place) places.push(place);
    }
  }
  return places;
}
