import { type BoardPlace, boardPlace } from '../../../frames/place';

/** A rectangle on the board, left above right below. */
export interface CropBox {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** What of a box is taken grip of: a side or corner, all of it, nothing of it (a new one), or its line of symmetry. */
export type Grip =
  | { kind: 'side'; x: -1 | 0 | 1; y: -1 | 0 | 1 }
  | { kind: 'all' }
  | { kind: 'new'; from: BoardPlace }
  | { kind: 'line' };

export type Symmetry = 'none' | 'upright' | 'level';

export interface CropRules {
  /** Width over height, null for free. */
  aspect: number | null;
  symmetry: Symmetry;
  /** All of the picture. */
  within: CropBox;
}

/** Smaller than this a crop is a slip of the finger, in board units. */
export const LEAST_SIDE = 8;

export const middleOf = ({ left, top, right, bottom }: CropBox): BoardPlace =>
  boardPlace((left + right) / 2, (top + bottom) / 2);

/** What lies under a place: sides and corners first, then the line of symmetry, then the inside. */
export function gripAt(box: CropBox, at: BoardPlace, reach: number, symmetry: Symmetry): Grip {
  const near = (a: number, b: number) => Math.abs(a - b) <= reach;
  const inX = at.x >= box.left - reach && at.x <= box.right + reach;
  const inY = at.y >= box.top - reach && at.y <= box.bottom + reach;
  if (inX && inY) {
    const x = near(at.x, box.left) ? -1 : near(at.x, box.right) ? 1 : 0;
    const y = near(at.y, box.top) ? -1 : near(at.y, box.bottom) ? 1 : 0;
    if (x !== 0 || y !== 0) return { kind: 'side', x, y };
    const middle = middleOf(box);
    if (symmetry === 'upright' && near(at.x, middle.x)) return { kind: 'line' };
    if (symmetry === 'level' && near(at.y, middle.y)) return { kind: 'line' };
    return { kind: 'all' };
  }
  return { kind: 'new', from: at };
}

/** The box after what was held moved from one place to another, within the rules and the picture. */
export function dragged(box: CropBox, grip: Grip, from: BoardPlace, to: BoardPlace, rules: CropRules): CropBox {
  const by = { x: to.x - from.x, y: to.y - from.y };
  if (grip.kind === 'all') return movedWithin(box, by, rules.within);
  if (grip.kind === 'line') {
    const middle = middleOf(box);
    const line = rules.symmetry === 'upright' ? middle.x + by.x : middle.y + by.y;
    return symmetricAbout(box, line, rules);
  }
  if (grip.kind === 'side') return resized(box, grip, by, rules);
  // A new one grows from where it was begun.
  const start = grip.from;
  const away = { x: to.x - start.x, y: to.y - start.y };
  const point = { left: start.x, right: start.x, top: start.y, bottom: start.y };
  const way = { x: away.x < 0 ? (-1 as const) : (1 as const), y: away.y < 0 ? (-1 as const) : (1 as const) };
  return resized(point, way, away, { ...rules, symmetry: 'none' });
}

/** The box made symmetric about a line: as much of it as lies in the picture on both sides. */
export function symmetricAbout(box: CropBox, line: number, { symmetry, within }: CropRules): CropBox {
  if (symmetry === 'none') return box;
  const [low, high, least, most] =
    symmetry === 'upright'
      ? [box.left, box.right, within.left, within.right]
      : [box.top, box.bottom, within.top, within.bottom];
  const at = Math.min(Math.max(line, least + LEAST_SIDE / 2), most - LEAST_SIDE / 2);
  const half = Math.min((high - low) / 2, at - least, most - at);
  return symmetry === 'upright'
    ? { ...box, left: at - half, right: at + half }
    : { ...box, top: at - half, bottom: at + half };
}

function movedWithin(box: CropBox, by: { x: number; y: number }, within: CropBox): CropBox {
  const x = Math.min(Math.max(by.x, within.left - box.left), within.right - box.right);
  const y = Math.min(Math.max(by.y, within.top - box.top), within.bottom - box.bottom);
  return { left: box.left + x, right: box.right + x, top: box.top + y, bottom: box.bottom + y };
}

/** A box's extent along one axis while one of its sides, or none, is moved. */
interface Extent {
  /** What stays where it is: the far side, or the middle when both sides move alike. */
  fixed: number;
  way: -1 | 0 | 1;
  size: number;
  /** How large it may become. */
  room: number;
}

function extent(
  low: number,
  high: number,
  way: -1 | 0 | 1,
  by: number,
  mirrored: boolean,
  least: number,
  most: number,
): Extent {
  const moved = way < 0 ? low + by : high + by;
  if (mirrored || way === 0) {
    const fixed = (low + high) / 2;
    const room = 2 * Math.min(fixed - least, most - fixed);
    const size = way === 0 ? high - low : Math.max(LEAST_SIDE, 2 * way * (moved - fixed));
    return { fixed, way: 0, size: Math.min(size, room), room };
  }
  const fixed = way < 0 ? high : low;
  const room = way < 0 ? fixed - least : most - fixed;
  return { fixed, way, size: Math.min(Math.max(LEAST_SIDE, way * (moved - fixed)), room), room };
}

function resized(
  { left, right, top, bottom }: CropBox,
  way: { x: -1 | 0 | 1; y: -1 | 0 | 1 },
  by: { x: number; y: number },
  { aspect, symmetry, within }: CropRules,
): CropBox {
  const x = extent(left, right, way.x, by.x, symmetry === 'upright', within.left, within.right);
  const y = extent(top, bottom, way.y, by.y, symmetry === 'level', within.top, within.bottom);
  let [width, height] = [x.size, y.size];
  if (aspect) {
    // What a side's move asks for decides; a corner keeps inside what was dragged.
    const asked = way.x === 0 ? height * aspect : way.y === 0 ? width : Math.min(width, height * aspect);
    width = Math.min(asked, x.room, y.room * aspect);
    height = width / aspect;
  }
  const [l, r] = spread(x, width);
  const [t, b] = spread(y, height);
  return { left: l, right: r, top: t, bottom: b };
}

function spread({ fixed, way }: Extent, size: number): [number, number] {
  if (way === 0) return [fixed - size / 2, fixed + size / 2];
  return way > 0 ? [fixed, fixed + size] : [fixed - size, fixed];
}
