import type { Hold, PictureFacts } from '../truing';
import type { LengthUnit } from '../units';

/** Version of the document's form; each older one has one pure upgrade step (`upgrade.ts`). */
export const DOCUMENT_VERSION = 3;

/** All that is kept for one thing to be made, but for the bytes of its pictures, which lie beside it by their hash. */
export interface JobDocument {
  version: typeof DOCUMENT_VERSION;
  id: string;
  name: string;
  /** ISO 8601, UTC. */
  createdAt: string;
  unit: LengthUnit;
  pictures: Picture[];
  part: Part;
}

/** One imported photograph. Its pixels never change. */
export interface Picture {
  id: string;
  /** SHA-256 of the file's bytes, in hexadecimal. */
  blob: string;
  fileName: string;
  mime: 'image/jpeg' | 'image/png' | 'image/webp' | 'image/tiff' | 'image/heic';
  /** Upright, that is after the turn that EXIF asks for. */
  facts: PictureFacts;
  /** How much of it shows through the drawing, 0 to 1. */
  opacity: number;
  preparation: Preparation;
  truing: TruingRecord;
}

/** How a picture is shown: never baked into its pixels, never in the way of measuring on them. */
export interface Preparation {
  /** Quarter turns clockwise. */
  turns: 0 | 1 | 2 | 3;
  /** What shall be darkest and lightest, 0 to 1 of the file's scale, and what lies between. */
  tones: Tones;
}

export interface Tones {
  dark: number;
  light: number;
  gamma: number;
  gray: boolean;
}

export const PLAIN_TONES: Tones = { dark: 0, light: 1, gamma: 1, gray: false };

export function newPreparation(): Preparation {
  return { turns: 0, tones: { ...PLAIN_TONES } };
}

export type PlaneName = 'table' | 'yardstick' | 'face';

/** Where a pick lies in the original picture, px, with its scatter. */
export interface PickRecord {
  uPx: number;
  vPx: number;
  sigmaPx: number;
}

/** What the person said of a picture; the estimate is derived from it and never kept. */
export interface TruingRecord {
  hold: Hold;
  /** Heights over the table of the plane that yardsticks stand on and of the face that is traced. */
  heights: { yardstick: HeightRecord; face: HeightRecord };
  yardsticks: YardstickRecord[];
  axis: AxisRecord | null;
  zero: ZeroRecord | null;
  spotChecks: SpotCheckRecord[];
}

export interface HeightRecord {
  heightMm: number;
  plusMinusMm: number;
}

export interface YardstickRecord {
  id: string;
  kind: 'known-length';
  plane: PlaneName;
  from: PickRecord;
  to: PickRecord;
  lengthMm: number;
  plusMinusMm: number | null;
  /** What was typed, to be shown again as it was written. */
  typed: string;
}

/** A line that runs along X or Y: a yardstick's own line, or two picks of its own. */
export type AxisRecord = { along: 'x' | 'y' } & (
  | { yardstick: string }
  | { from: PickRecord; to: PickRecord; plane: PlaneName }
);

/** Where zero is: an end of a yardstick, or a pick of its own. */
export type ZeroRecord = { yardstick: string; end: 'from' | 'to' } | { pick: PickRecord; plane: PlaneName };

export interface SpotCheckRecord {
  id: string;
  plane: PlaneName;
  from: PickRecord;
  to: PickRecord;
  lengthMm: number;
  plusMinusMm: number | null;
  typed: string;
}

/** What was traced: runs over shared points. */
export interface Part {
  points: Record<string, TracedPoint>;
  runs: Run[];
}

/** A traced point remembers its pixel, so that a changed truing carries it along. */
export interface TracedPoint extends PickRecord {
  picture: string;
  cling: 'edge' | 'line' | 'point' | 'free';
}

export type Role = 'cut' | 'mark';

/** A piece from one point of a run to the next; what bends it are points as well. */
export type SegmentRecord =
  | { kind: 'line' }
  | { kind: 'arc'; via: string }
  | { kind: 'curve'; handleFrom: string; handleTo: string };

export interface ChainRun {
  id: string;
  kind: 'chain';
  role: Role;
  name: string;
  /** Segment k runs from point k to point k + 1; a closed run has one more, back to point 0. */
  points: string[];
  segments: SegmentRecord[];
  closed: boolean;
}

/** A circle through three points on its rim. */
export interface CircleRun {
  id: string;
  kind: 'circle';
  role: Role;
  name: string;
  points: [string, string, string];
}

export type Run = ChainRun | CircleRun;

/** Bounds that keep a document from a stranger harmless. */
export const MOST = {
  pictures: 40,
  yardsticks: 60,
  spotChecks: 200,
  runs: 2000,
  points: 50_000,
  nameLength: 200,
} as const;

/** How heights stand before anybody said anything: all in the table's plane. */
export const NEW_HEIGHT: HeightRecord = { heightMm: 0, plusMinusMm: 0 };

export function newJob(id: string, name: string, createdAt: string, unit: LengthUnit): JobDocument {
  return { version: DOCUMENT_VERSION, id, name, createdAt, unit, pictures: [], part: { points: {}, runs: [] } };
}

export function newTruingRecord(): TruingRecord {
  return {
    hold: 'free',
    heights: { yardstick: { ...NEW_HEIGHT }, face: { ...NEW_HEIGHT } },
    yardsticks: [],
    axis: null,
    zero: null,
    spotChecks: [],
  };
}
