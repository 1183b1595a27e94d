declare const frame: unique symbol;

/** A place or direction in a plane, mm, y up. */
export interface Vec2 {
  x: number;
  y: number;
  /** Never there: what is counted from elsewhere says so by its type, and is no `Vec2`. */
  readonly [frame]?: undefined;
}

/** A place of another frame than the part's, which only its type tells; no function of geometry takes it. */
export interface Framed<Name extends string> {
  x: number;
  y: number;
  readonly [frame]: Name;
}

export const vec = (x: number, y: number): Vec2 => ({ x, y });
export const add = (a: Vec2, b: Vec2): Vec2 => ({ x: a.x + b.x, y: a.y + b.y });
export const sub = (a: Vec2, b: Vec2): Vec2 => ({ x: a.x - b.x, y: a.y - b.y });
export const scale = (a: Vec2, s: number): Vec2 => ({ x: a.x * s, y: a.y * s });
export const dot = (a: Vec2, b: Vec2): number => a.x * b.x + a.y * b.y;
export const cross = (a: Vec2, b: Vec2): number => a.x * b.y - a.y * b.x;
export const norm = (a: Vec2): number => Math.hypot(a.x, a.y);
export const between = (a: Vec2, b: Vec2): number => Math.hypot(b.x - a.x, b.y - a.y);
export const lerp = (a: Vec2, b: Vec2, t: number): Vec2 => ({ x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t });
/** Left of `a` by a quarter turn. */
export const left = (a: Vec2): Vec2 => ({ x: -a.y, y: a.x });
export const turned = (a: Vec2, angle: number): Vec2 => ({
  x: a.x * Math.cos(angle) - a.y * Math.sin(angle),
  y: a.x * Math.sin(angle) + a.y * Math.cos(angle),
});
