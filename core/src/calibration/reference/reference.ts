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
export interface PixelPick extends PicturePoint {
  sigmaPx: number;
  /** How many times its σ it is taken to scatter, once the estimate has seen it among its like; absent for once. */
  spread?: number;
}

export type ReferenceId = string;
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
export interface Graduation {
  n: number;
  places: PixelPick[];
}

/** The graduations between two readings, taken as lines, and places along both long edges of the ruler. */
export interface Graduations {
  spacingMm: number;
  graduations: Graduation[];
  /** The edge that they stand on. */
  edge: PixelPick[];
  /** The other one; empty where it is not seen. */
  far: PixelPick[];
  /** Which graduation of the ruler the first reading is, where that matters; absent for 0. */
  first?: number;
  /** Each place stands for so many that were left out; absent for one. */
  multiplicity?: number;
}

interface Standing {
  id: ReferenceId;
  plane: PlaneId;
}

/** Two picks whose distance is known: two readings on a ruler, or any length measured on the thing itself. */
export interface KnownLength extends Standing {
  kind: 'known-length';
  from: PixelPick;
  to: PixelPick;
  lengthMm: number;
  /** Half width of the 95 % interval of the length; null takes `KNOWN_LENGTH`. */
  plusMinusMm: number | null;
  /** The graduations between both readings, where they were counted: then they are observed, and not the readings. */
  graduations?: Graduations | null;
  /** From one long edge of the ruler to the other, by a caliper; null or absent where nobody measured it. */
  width?: { widthMm: number; plusMinusMm: number } | null;
}

/**
 * A coin, a washer, any disc lying flat: places round its rim as it is seen, the upper rim on the far side and the
 * lower one on the near. Without a diameter it is a circle of unknown size, which tells the tilt alone.
 */
export interface Disc extends Standing {
  kind: 'disc';
  rim: PixelPick[];
  /**
   * Places of the foot of its wall, where it shows, none where it does not: then `rim` is the upper rim alone, all round.
   * Null or absent where nobody told both apart.
   */
  foot?: PixelPick[] | null;
  diameterMm: number | null;
  /** Half width of the 95 % interval of the diameter; null takes `DISC`. */
  plusMinusMm: number | null;
  thicknessMm: number;
  multiplicity?: number;
}

/**
 * A sheet of paper, a card: places along its four edges, counter-clockwise as it is seen, the first and the third along
 * its width.
 */
export interface Sheet extends Standing {
  kind: 'sheet';
  edges: [PixelPick[], PixelPick[], PixelPick[], PixelPick[]];
  widthMm: number;
  heightMm: number;
  /** Half width of the 95 % interval of both. */
  plusMinusMm: number;
  multiplicity?: number;
}

/** A crossing of a grid: which it is, and where. */
export interface Crossing {
  i: number;
  j: number;
  pick: PixelPick;
}

/** A grid of known pitch: its crossings by their two numbers, i to the right and j up, or any turn of that. */
export interface Grid extends Standing {
  kind: 'grid';
  crossings: Crossing[];
  pitchMm: number;
  /** Half width of the 95 % interval of the pitch as a share of it; null takes `GRID`. */
  plusMinusShare: number | null;
  multiplicity?: number;
}

/** A line between two picks that is known to run one of two ways. */
interface Directed {
  along: 'x' | 'y';
  from: PixelPick;
  to: PixelPick;
}

/** Lines of which each runs along X or along Y of one square frame: parallel to their like, square to the others. */
export interface SquareLines extends Standing {
  kind: 'square-lines';
  lines: Directed[];
  /** Half width of the 95 % interval of how true they run, rad; null takes `HINT`. */
  plusMinusRad: number | null;
}

/** Lengths that are known to be equal, whatever they are. */
export interface EqualLengths extends Standing {
  kind: 'equal-lengths';
  lengths: { from: PixelPick; to: PixelPick }[];
  /** Half width of the 95 % interval of how equal they are, as a share; null takes `HINT`. */
  plusMinusShare: number | null;
}

/** A turned part seen from the side whose diameter is known halfway along two picks on each of both its silhouettes. */
export interface TurnedDiameter extends Standing {
  kind: 'turned-diameter';
  silhouettes: readonly [readonly [PixelPick, PixelPick], readonly [PixelPick, PixelPick]];
  diameterMm: number;
  /** Half width of the 95 % interval of the diameter; null takes `KNOWN_LENGTH`. */
  plusMinusMm: number | null;
}

/** A length along the axis of a turned part seen from the side, or a diameter of it, between two picks on it. */
export interface TurnedSpan extends Standing {
  kind: 'turned-span';
  silhouettes: readonly [readonly [PixelPick, PixelPick], readonly [PixelPick, PixelPick]];
  from: PixelPick;
  to: PixelPick;
  lengthMm: number;
  /** Half width of the 95 % interval of the length; null takes `KNOWN_LENGTH`. */
  plusMinusMm: number | null;
}

/** What is known in a picture. Each kind adds its own observations to the one estimate (see `kinds/`). */
export type Reference = KnownLength | Disc | Sheet | Grid | SquareLines | EqualLengths | TurnedDiameter | TurnedSpan;

/** How true a known length is when the person does not say: the spacing of a ruler, and the reading of it. */
export const KNOWN_LENGTH = { relativeSigma: 0.0005, leastSigmaMm: 0.02 } as const;

/**
 * A disc when the person does not say: coins wear, and their rim is rounded; how far inside both faces it bulges most;
 * how far out of round it is, or looks in its own shadow; one place of its rim. All places together lie on a line of
 * light, of the bevel or of the shadow that is not quite the widest circle: by `sigmaSeenMm` of its radius, and by so
 * much more of `sigmaUnseenMm` as a share of the rim is not seen, since what hides it hides which line is the rim
 * (docs/measurement.md, "Coin").
 */
export const DISC = {
  sigmaDiameterMm: 0.05,
  bevelMm: 0.25,
  sigmaBevelMm: 0.05,
  sigmaOvalMm: 0.01,
  sigmaRimMm: 0.008,
  sigmaSeenMm: 0.02,
  sigmaUnseenMm: 0.45,
} as const;

/** How true a sheet's corners are, rad; how far its edges are bowed, as cut and curled paper is, and how rough, mm. */
export const SHEET = { sigmaSkew: (0.03 * Math.PI) / 180, sigmaBowMm: 0.01, sigmaEdgeMm: 0.005 } as const;

/**
 * A printed grid: its pitch; how far both ways of it differ and its corners are out of square (rad), in parts of how
 * well the pitch is known, since who checks it checks both ways; and one crossing, mm.
 */
export const GRID = {
  sigmaPitch: 0.002,
  ratioShare: 0.5,
  skewShare: 0.5,
  sigmaCrossingMm: 0.008,
} as const;

/** How true forms that "are square", "are parallel" or "are equal" are when the person does not say. */
export const HINT = { sigmaTurn: (0.1 * Math.PI) / 180, sigmaEqual: 0.001 } as const;

/** σ of a known length, mm. */
export function knownLengthSigmaMm({
  lengthMm,
  plusMinusMm,
}: Readonly<{ lengthMm: number; plusMinusMm: number | null }>) {
  if (plusMinusMm !== null) return Math.max(plusMinusMm / 2, SMALLEST_SIGMA_MM);
  return Math.hypot(KNOWN_LENGTH.relativeSigma * lengthMm, KNOWN_LENGTH.leastSigmaMm);
}

/** No length is known better than this; it also keeps a typed ± of 0 from dividing by zero. */
export const SMALLEST_SIGMA_MM = 0.0005;

/** Picks nearer than this are one place, px: a length between them says nothing. */
export const LEAST_PICK_DISTANCE_PX = 4;

/** A reference that knows how large something is, and not only how it is shaped. */
export const hasSize = (y: Reference): boolean =>
  y.kind === 'known-length' ||
  y.kind === 'turned-diameter' ||
  y.kind === 'turned-span' ||
  y.kind === 'sheet' ||
  y.kind === 'grid' ||
  (y.kind === 'disc' && y.diameterMm !== null);
