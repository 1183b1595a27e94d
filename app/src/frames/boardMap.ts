import { type PicturePoint, type PlaneMap, planeMapper } from '@steady-moth/core/calibration';
import type { Vec2 } from '@steady-moth/core/geometry';
import type { Rect } from '@steady-moth/core/job';
import type { TurnedOnBoard } from '@steady-moth/core/job/calibrated';
import type { PictureMap } from '@steady-moth/core/sketch';
import { type BoardPlace, boardPlace, offBoard, onBoard } from './place';

/**
 * What the board shows: the picture as it is, in its own pixels, or true, in millimetres on the part's plane.
 */
export type BoardFrame =
  | { kind: 'picture'; turns: 0 | 1 | 2 | 3; flip: boolean; widthPx: number; heightPx: number }
  | {
      kind: 'true';
      map: PlaneMap;
      /** How high each plane of the picture lies, mm. */
      heights: Record<string, number>;
      turned: TurnedOnBoard | null;
    };

/** One mapper for a frame, however often it is asked for. */
const mappers = new WeakMap<BoardFrame, PictureMap>();

export function boardMapper(frame: BoardFrame): PictureMap {
  const made = mappers.get(frame) ?? makeMapper(frame);
  mappers.set(frame, made);
  return made;
}

function makeMapper(frame: BoardFrame): PictureMap {
  if (frame.kind === 'picture') return preparedMapper(frame);
  const mapper = planeMapper(frame.map);
  return {
    toPlace(point) {
      const place = mapper.toPart(point);
      return place && { x: place.xMm, y: place.yMm };
    },
    toPicture: ({ x, y }) => mapper.toPicture({ xMm: x, yMm: y }),
  };
}

/** How places of the ground straight below the part's plane are pictured; null where nothing lies below it. */
export function footMapper(frame: BoardFrame): PictureMap | null {
  if (frame.kind === 'picture' || !(frame.map.heightMm > GROUND_MM)) return null;
  return makeMapper({ ...frame, map: { ...frame.map, heightMm: GROUND_MM } });
}

/** Heights are counted from what everything lies on. */
const GROUND_MM = 0;

/** The picture in its own pixels: flipped about its upright middle line, then turned clockwise and moved back. */
function preparedMapper(frame: Extract<BoardFrame, { kind: 'picture' }>): PictureMap {
  const { to, from } = turnedMap(frame);
  const flip = ({ uPx, vPx }: PicturePoint): PicturePoint =>
    frame.flip ? { uPx: frame.widthPx - uPx, vPx } : { uPx, vPx };
  return {
    toPlace: (point) => offBoard(to(flip(point))),
    toPicture: (place) => flip(from(onBoard(place))),
  };
}

interface PixelMap {
  to(point: PicturePoint): BoardPlace;
  from(place: BoardPlace): PicturePoint;
}

/** Turned clockwise by quarter turns about its left top corner and moved back. */
function turnedMap({ turns, widthPx: w, heightPx: h }: Extract<BoardFrame, { kind: 'picture' }>): PixelMap {
  switch (turns) {
    case 0:
      return { to: ({ uPx, vPx }) => boardPlace(uPx, vPx), from: ({ x, y }) => ({ uPx: x, vPx: y }) };
    case 1:
      return { to: ({ uPx, vPx }) => boardPlace(h - vPx, uPx), from: ({ x, y }) => ({ uPx: y, vPx: h - x }) };
    case 2:
      return { to: ({ uPx, vPx }) => boardPlace(w - uPx, h - vPx), from: ({ x, y }) => ({ uPx: w - x, vPx: h - y }) };
    case 3:
      return { to: ({ uPx, vPx }) => boardPlace(vPx, w - uPx), from: ({ x, y }) => ({ uPx: w - y, vPx: x }) };
  }
}

/**
 * Points along the rim of a rectangle of the picture, in order round it, that have a place on the board: what "all of
 * it" means when a horizon cuts it, and how its rim is bent by the lens.
 */
export function rectOutline(mapper: PictureMap, { leftPx, topPx, widthPx, heightPx }: Rect): Vec2[] {
  const places: Vec2[] = [];
  const STEPS = 8;
  const corners = [
    [leftPx, topPx],
    [leftPx + widthPx, topPx],
    [leftPx + widthPx, topPx + heightPx],
    [leftPx, topPx + heightPx],
  ] as const;
  corners.forEach(([u, v], side) => {
    const [toU, toV] = corners[(side + 1) % 4]!;
    for (let k = 0; k < STEPS; k++) {
      const t = k / STEPS;
      const place = mapper.toPlace({ uPx: u + t * (toU - u), vPx: v + t * (toV - v) });
      if (place) places.push(place);
    }
  });
  return places;
}

/**
 * What of a picture a crop or a view shows, in order round it. On the true board it is straightened with the page: a
 * level rectangle about the same middle, as wide and high as the crop is across its middle there.
 */
export function clipOutline(frame: BoardFrame, rect: Rect): Vec2[] {
  const mapper = boardMapper(frame);
  const { leftPx, topPx, widthPx, heightPx } = rect;
  const at = (u: number, v: number) => mapper.toPlace({ uPx: leftPx + u * widthPx, vPx: topPx + v * heightPx });
  const [left, right, upper, lower] = [at(0, 0.5), at(1, 0.5), at(0.5, 0), at(0.5, 1)];
  // Where a horizon cuts it there is nothing to straighten.
  if (frame.kind === 'picture' || !left || !right || !upper || !lower) return rectOutline(mapper, rect);
  const across = Math.hypot(right.x - left.x, right.y - left.y) / 2;
  const down = Math.hypot(lower.x - upper.x, lower.y - upper.y) / 2;
  const lies = Math.abs(right.x - left.x) >= Math.abs(right.y - left.y);
  const [halfX, halfY] = lies ? [across, down] : [down, across];
  const x = (left.x + right.x + upper.x + lower.x) / 4;
  const y = (left.y + right.y + upper.y + lower.y) / 4;
  return [
    { x: x - halfX, y: y - halfY },
    { x: x + halfX, y: y - halfY },
    { x: x + halfX, y: y + halfY },
    { x: x - halfX, y: y + halfY },
  ];
}

/** All of a picture, as a rectangle of it. */
export const wholeOf = ({ widthPx, heightPx }: { widthPx: number; heightPx: number }): Rect => ({
  leftPx: 0,
  topPx: 0,
  widthPx,
  heightPx,
});

/**
 * How a picture lies on the board about a place, to the nearest quarter turn: clockwise, after left and right changed
 * places.
 */
export function liesAt(mapper: PictureMap, { uPx, vPx }: PicturePoint): { turns: 0 | 1 | 2 | 3; flip: boolean } {
  const seen = (u: number, v: number) => {
    const place = mapper.toPlace({ uPx: u, vPx: v });
    return place && onBoard(place);
  };
  const [here, right, below] = [seen(uPx, vPx), seen(uPx + 1, vPx), seen(uPx, vPx + 1)];
  if (!here || !right || !below) return { turns: 0, flip: false };
  const [ux, uy, vx, vy] = [right.x - here.x, right.y - here.y, below.x - here.x, below.y - here.y];
  const flip = ux * vy - uy * vx < 0;
  // Flipped first, the old right runs the other way.
  const angle = flip ? Math.atan2(-uy, -ux) : Math.atan2(uy, ux);
  return { turns: ((Math.round(angle / (Math.PI / 2)) + 4) % 4) as 0 | 1 | 2 | 3, flip };
}
