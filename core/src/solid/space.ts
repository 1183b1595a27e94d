import type { Vec2 } from '../geometry';

/** A place or a direction in space, mm: x to the right, y away, z up, as the first sketch is seen from above. */
export interface Vec3 {
  x: number;
  y: number;
  z: number;
}

/** A plane in space with its own x and y; its normal, x × y, points to whoever looks at it. */
export interface Frame {
  origin: Vec3;
  x: Vec3;
  y: Vec3;
}

export type Axis = 'x' | 'y' | 'z';
export const AXES: readonly Axis[] = ['x', 'y', 'z'];

const UNIT: Record<Axis, Vec3> = { x: { x: 1, y: 0, z: 0 }, y: { x: 0, y: 1, z: 0 }, z: { x: 0, y: 0, z: 1 } };
export const unitOf = (axis: Axis): Vec3 => UNIT[axis];

export const cross3 = (a: Vec3, b: Vec3): Vec3 => ({
  x: a.y * b.z - a.z * b.y,
  y: a.z * b.x - a.x * b.z,
  z: a.x * b.y - a.y * b.x,
});

export const plus3 = (a: Vec3, b: Vec3, times = 1): Vec3 => ({
  x: a.x + times * b.x,
  y: a.y + times * b.y,
  z: a.z + times * b.z,
});

export const dot3 = (a: Vec3, b: Vec3): number => a.x * b.x + a.y * b.y + a.z * b.z;
export const norm3 = (a: Vec3): number => Math.hypot(a.x, a.y, a.z);

export const normalOf = (frame: Frame): Vec3 => cross3(frame.x, frame.y);

/** A place of a plane in space. */
export const inSpace = ({ origin, x, y }: Frame, p: Vec2, up = 0): Vec3 =>
  plus3(plus3(plus3(origin, x, p.x), y, p.y), cross3(x, y), up);

/** Where the axes of a view's plane point: it is seen from above, from the front (along y), or from the right. */
export const AXES_OF_SIDE = {
  top: { x: 'x', y: 'y' },
  front: { x: 'x', y: 'z' },
  side: { x: 'y', y: 'z' },
} as const satisfies Record<string, { x: Axis; y: Axis }>;
export type SideName = keyof typeof AXES_OF_SIDE;

/** The plane of a view, `offsetMm` behind the part's own zero along the way that one looks. */
export function frameOf(side: SideName, offsetMm: number): Frame {
  const { x, y } = AXES_OF_SIDE[side];
  const flat = { origin: { x: 0, y: 0, z: 0 }, x: unitOf(x), y: unitOf(y) };
  return { ...flat, origin: plus3(flat.origin, normalOf(flat), -offsetMm) };
}

/** The six sides that a body is seen from. */
export const VIEW_SIDES = ['top', 'front', 'right', 'back', 'left', 'bottom'] as const;
export type ViewSide = (typeof VIEW_SIDES)[number];

const turned = (v: Vec3): Vec3 => ({ x: -v.x, y: -v.y, z: -v.z });

/** What lies to the right and up as a body is seen from a side; their cross product points to whoever looks. */
export const VIEW_OF: Record<ViewSide, { right: Vec3; up: Vec3 }> = {
  top: { right: UNIT.x, up: UNIT.y },
  bottom: { right: UNIT.x, up: turned(UNIT.y) },
  front: { right: UNIT.x, up: UNIT.z },
  back: { right: turned(UNIT.x), up: UNIT.z },
  right: { right: UNIT.y, up: UNIT.z },
  left: { right: turned(UNIT.y), up: UNIT.z },
};

/** A box in space; of nothing all is turned round. */
export interface Box {
  min: Vec3;
  max: Vec3;
}

export function boxOf(places: readonly Vec3[]): Box {
  const all = (axis: Axis, pick: (...n: number[]) => number) => pick(...places.map((p) => p[axis]));
  const corner = (pick: (...n: number[]) => number) => ({ x: all('x', pick), y: all('y', pick), z: all('z', pick) });
  return { min: corner(Math.min), max: corner(Math.max) };
}
