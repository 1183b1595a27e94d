/** A place in a picture, px: u right, v down, (0, 0) at the outer corner of the first pixel. */
export interface PicturePoint {
  uPx: number;
  vPx: number;
}

/** A place on the part's plane in the datum's frame, mm: x and y as on a drawing, y up. */
export interface PartPoint {
  xMm: number;
  yMm: number;
}

/** A picked place with its scatter, one standard deviation along each axis. */
export interface Pick extends PicturePoint {
  sigmaPx: number;
}

export type YardstickId = string;
export type PlaneId = string;

/** A plane level with the table. `plusMinusMm` is the half width of the 95 % interval of its height. */
export interface Plane {
  id: PlaneId;
  heightMm: number;
  plusMinusMm: number;
}

/** The table: every picture has it, at height zero by definition. */
export const TABLE: Plane = { id: 'table', heightMm: 0, plusMinusMm: 0 };

/** A graduation: how many spacings it lies from the first reading, and places along its middle; σ is across it. */
export interface Stroke {
  n: number;
  places: Pick[];
}

/** The graduations between two readings, taken as lines, and places along the edge that they stand on. */
export interface Strokes {
  spacingMm: number;
  strokes: Stroke[];
  edge: Pick[];
  /** Each place stands for so many that were left out; absent for one. */
  standFor?: number;
}

/** Two picks whose distance is known: two readings on a ruler, or any length measured on the thing itself. */
export interface KnownLength {
  id: YardstickId;
  kind: 'known-length';
  plane: PlaneId;
  from: Pick;
  to: Pick;
  lengthMm: number;
  /** Half width of the 95 % interval of the length; null takes `KNOWN_LENGTH`. */
  plusMinusMm: number | null;
  /** The graduations between both readings, where they were counted: then they are observed, and not the readings. */
  strokes?: Strokes | null;
}

/** Each kind of yardstick adds its own observations to the one estimate (see `observe.ts`). */
export type Yardstick = KnownLength;

/** How true a known length is when the person does not say: the spacing of a ruler, and the reading of it. */
export const KNOWN_LENGTH = { relativeSigma: 0.0005, leastSigmaMm: 0.02 } as const;

/** σ of a known length, mm. */
export function knownLengthSigmaMm(yardstick: Pick2Length): number {
  if (yardstick.plusMinusMm !== null) return Math.max(yardstick.plusMinusMm / 2, SMALLEST_SIGMA_MM);
  return Math.hypot(KNOWN_LENGTH.relativeSigma * yardstick.lengthMm, KNOWN_LENGTH.leastSigmaMm);
}

type Pick2Length = Readonly<{ lengthMm: number; plusMinusMm: number | null }>;

/** No length is known better than this; it also keeps a typed ± of 0 from dividing by zero. */
const SMALLEST_SIGMA_MM = 0.0005;

/** Picks nearer than this are one place, px: a length between them says nothing. */
export const LEAST_PICK_DISTANCE_PX = 4;
