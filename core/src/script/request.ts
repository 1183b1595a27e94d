import type { CameraHold, SavedCamera } from '../calibration';
import type { LengthUnit } from '../units';

/** A place in a picture as a script gives it: u and v in px, upright, (0, 0) at the corner of the first pixel. */
export type ScriptPlace = readonly [number, number];

/** What a pick is moved onto before it is used: the nearest edge, the nearest thin line, or nothing. */
export type ScriptSnap = 'edge' | 'line' | 'none';

/** 'table', 'yardstick', 'face', the name of a height of its own, or of points 'turned': on the turned part. */
export type ScriptPlane = string;

interface Height {
  heightMm: number;
  plusMinusMm: number;
}

/** One yardstick. Those with a `click` are found in the picture; the others are given place by place. */
export interface ScriptYardstick {
  id: string;
  /** A length between two picks where nothing else is said. */
  kind?: 'length' | 'ruler' | 'disc' | 'sheet' | 'grid' | 'square-lines' | 'equal-lengths' | 'turned-diameter';
  plane?: ScriptPlane;
  cling?: ScriptSnap;
  click?: ScriptPlace;
  /** Of a length: both ends, and whether the graduations between them are counted. */
  from?: ScriptPlace;
  to?: ScriptPlace;
  length?: string;
  strokes?: boolean;
  /** Of a disc. Without a diameter it is a circle of unknown size. Of a turned part: between its outlines, where they were picked. */
  rim?: ScriptPlace[];
  diameter?: string;
  thickness?: string;
  /** Of a ruler whose strokes are taken: from one long edge to the other, by a caliper. Of a sheet: its longer side. */
  width?: string;
  /** Of a sheet: places along its four edges, counter-clockwise as it is seen, the first along its width. */
  edges?: ScriptPlace[][];
  height?: string;
  /** Of a grid. */
  crossings?: { i: number; j: number; at: ScriptPlace }[];
  pitch?: string;
  /** Of square lines and equal lengths; `along` counts for square lines alone. */
  lines?: { from: ScriptPlace; to: ScriptPlace; along?: 'x' | 'y' }[];
}

/** A place, the plane it lies on, and what it clings to. */
interface ScriptPick {
  at: ScriptPlace;
  plane?: ScriptPlane;
  cling?: ScriptSnap;
}

/** Line: both ends. Arc: an end, a place on it, the other end. Curve: an end, both handles, the other end. Circle: three of its rim. */
export interface ScriptPiece {
  kind: 'line' | 'arc' | 'curve' | 'circle';
  px: ScriptPlace[];
}

/** Pieces one after the other, or one circle, that settle on the edges that they lie over. */
export interface ScriptSettle {
  id: string;
  pieces: ScriptPiece[];
  plane?: ScriptPlane;
  cling?: Exclude<ScriptSnap, 'none'>;
  /** Of a circle: on which side of its rim the ground lies, `inside` for a hole; left out, it may be either. */
  ground?: 'inside' | 'outside';
}

/** What a script says of a picture, and what it asks. The schema beside this file checks it. */
export interface MeasureRequest {
  unit?: LengthUnit;
  kind?: 'photo' | 'scan' | 'drawing';
  /** Of scans and drawings: the resolution that the file states counts. Left out it does. */
  believeResolution?: boolean;
  hold?: CameraHold;
  /** A camera that was checked with a grid. */
  camera?: SavedCamera;
  heights?: Record<string, Height>;
  yardsticks: ScriptYardstick[];
  /** A turned part seen from the side: two places on each of both outlines, on the plane of its axis. */
  turned?: {
    limbs: [[ScriptPlace, ScriptPlace], [ScriptPlace, ScriptPlace]];
    plane?: ScriptPlane;
    cling?: ScriptSnap;
  };
  zero?: ScriptPick;
  axis?: { from: ScriptPlace; to: ScriptPlace; along: 'x' | 'y'; plane?: ScriptPlane; cling?: ScriptSnap };
  points?: Record<string, ScriptPick>;
  distances?: { from: string; to: string }[];
  settle?: ScriptSettle[];
}

/** The same of several pictures of one part. The first one gives zero and the direction of X. */
export interface JoinedRequest extends Pick<MeasureRequest, 'unit' | 'zero' | 'axis'> {
  pictures: ({ id: string } & Omit<MeasureRequest, 'unit' | 'zero' | 'axis'>)[];
  /** A place that several pictures show, or a yardstick that lies in several, by the picture's id. */
  joins: { point?: Record<string, ScriptPick>; yardstick?: Record<string, string> }[];
  /** Each end as a picture's id and the name of a point of it. */
  distances?: { from: readonly [string, string]; to: readonly [string, string] }[];
}
