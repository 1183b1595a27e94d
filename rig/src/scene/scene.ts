import type { Form } from '@steady-moth/core/geometry';
import type { CameraSetup } from '../camera';

/** Where a thing lies: its own origin on the table, mm, and its turn, rad. */
export interface Lie {
  x: number;
  y: number;
  turn: number;
}

export type Rgb = readonly [number, number, number];

interface Body {
  lie: Lie;
  /** Height of the underside over the table, mm. */
  base: number;
  thickness: number;
}

/** A flat part cut from sheet: outer form first, then its holes, in its own mm. */
export interface Plate extends Body {
  kind: 'plate';
  forms: Form[];
  /** Linear light reflected, red, green, blue. */
  colour: Rgb;
  /** Share of its rim where the finish is worn off, 0 to 1. */
  wear: number;
  /** What it is made of; painted sheet where nothing is said. */
  finish?: Finish;
  /** Knots and cracks of wood. */
  flaws?: Flaw[];
}

export type Finish = 'rubber' | 'paper' | 'plywood';

export interface Flaw {
  x: number;
  y: number;
  radius: number;
}

/** A part turned on a lathe, lying on its side: own x along its axis, which lies as high as its widest radius. */
export interface Turned extends Body {
  kind: 'turned';
  /** Places along the axis and the radius there, mm, joined straight; the first at 0. */
  profile: [number, number][];
  colour: Rgb;
}

/** A steel rule: own origin at graduation 0 on the graduated edge, the body below it. */
export interface Rule extends Body {
  kind: 'rule';
  lengthMm: number;
  widthMm: number;
  /** A length of which nothing is true but the spacing: 1 says that a millimetre is one. */
  spacing: number;
  /** Sixteenths of an inch instead of millimetres. */
  inches?: boolean;
  /** Steel with black strokes where nothing is said. */
  look?: {
    ground: Rgb;
    ink: Rgb;
    /** How much of its light the marks of brushing, or its grain, take and give along it. */
    brushed: number;
    /** Strokes stand so far apart; 1 where nothing is said. */
    everyMm?: 2;
  };
}

export interface Coin extends Body {
  kind: 'coin';
  diameterMm: number;
  colour: Rgb;
  /** What is inside of a ring of another metal. */
  core?: { diameterMm: number; colour: Rgb };
  /** Diameter of a ring engraved in its face, mm. */
  ringMm?: number;
  /** Notches across its rim, light and dark. */
  isMilled?: boolean;
}

/** Paper, its own origin at its lower left corner. */
export interface Sheet extends Body {
  kind: 'sheet';
  widthMm: number;
  heightMm: number;
  /** White where nothing is said. */
  colour?: Rgb;
}

/** A mat with printed lines, its own origin at a crossing in its lower left corner. */
export interface GridMat extends Body {
  kind: 'mat';
  widthMm: number;
  heightMm: number;
  pitchMm: number;
  colour: Rgb;
  /** Share of its face where the print is rubbed off. */
  worn?: number;
}

export type Item = Plate | Turned | Rule | Coin | Sheet | GridMat;

/** What the lens and the file do to the light. */
export interface Film {
  /** Blur of the lens, σ in px. */
  blurPx: number;
  /** Noise at mid grey, in steps of 255. */
  noise: number;
  /** Strength of the sharpening that cameras apply, 0 to 1. */
  sharpening: number;
  /** How far the tone curve bends the standard one, 0 to 1. */
  toneCurve: number;
  /** Darkening into the corners, 0 to 1. */
  vignette: number;
  /** How much of each colour the white balance lets through; 1 where nothing is said. */
  gain?: Rgb;
  /** Each pixel sees one colour through its filter, as phones' do; the others are filled in from beside it. */
  isMosaic?: boolean;
  /** Noise reduction: σ over which differences of colour are smoothed, px. */
  colourBlurPx?: number;
}

export interface Scene {
  seed: number;
  camera: CameraSetup;
  items: Item[];
  film: Film;
  /** Direction on the table from which the light comes, rad. */
  lightFrom: number;
  /** Mean brightness of the bench top, 0 to 1 of linear light. */
  benchTone: number;
  /** A table top of one colour instead of worn wood, with a grain of so much of its light. */
  table?: { colour: Rgb; grain: number };
  /** How much light a cast shadow takes, 0 to 1, and how soft it is for a thing 1 mm high, mm; else as a soft lamp. */
  shadow?: { dark: number; softMm: number };
}

/** From a thing's own mm to the scene's. */
export function toScene({ x, y, turn }: Lie, px: number, py: number): [number, number] {
  const c = Math.cos(turn);
  const s = Math.sin(turn);
  return [x + c * px - s * py, y + s * px + c * py];
}
