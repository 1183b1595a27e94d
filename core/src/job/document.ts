import type { Hold, Lens, PictureFacts } from '../calibration';
import { newPart, type Part, type PickRecord, type PlaneName } from '../sketch';
import type { LengthUnit } from '../units';

export { type PickRecord, type PlaneName, TURNED } from '../sketch';

/** Version of the document's form; each older one has one pure upgrade step (`upgrade.ts`). */
export const DOCUMENT_VERSION = 10;

/** All that is kept for one thing to be made, but for the bytes of its pictures, which lie beside it by their hash. */
export interface JobDocument {
  version: typeof DOCUMENT_VERSION;
  id: string;
  name: string;
  /** ISO 8601, UTC. */
  createdAt: string;
  unit: LengthUnit;
  pictures: Picture[];
  /** What is seen in several pictures, and joins them. */
  joins: JoinRecord[];
  part: Part;
}

/** The file that a picture came from. */
export interface PictureFile {
  /** SHA-256 of the file's bytes, in hexadecimal. */
  blob: string;
  fileName: string;
  mime: 'image/jpeg' | 'image/png' | 'image/webp' | 'image/tiff' | 'image/heic';
  /** Upright, that is after the turn that EXIF asks for. */
  facts: PictureFacts;
}

/**
 * One imported photograph, scan or page. Its pixels never change. Those of a job lie on one board, the first lowest.
 */
export interface Picture extends PictureFile {
  id: string;
  kind: PictureKind;
  /** On the board where the part is shown. */
  shown: boolean;
  /** Nothing of it changes until it is unlocked. */
  locked: boolean;
  /** How much of it shows through the drawing, 0 to 1. */
  opacity: number;
  preparation: Preparation;
  views: View[];
  calibration: CalibrationRecord;
  /** What it took the place of, to be compared with. */
  before: BeforeSwap | null;
}

export type PictureKind = 'photo' | 'scan' | 'drawing';

/** A scan and a drawing lie flat; a photograph was taken through a lens over the table. */
export const lensOf = (kind: PictureKind): Lens => (kind === 'photo' ? 'photo' : 'page');

/** A rectangle of the original picture, px. */
export interface Rect {
  leftPx: number;
  topPx: number;
  widthPx: number;
  heightPx: number;
}

/** A part of a picture that shows the thing from one side, on its own plane. All views of a picture share its calibration. */
export interface View {
  id: string;
  name: string;
  side: Side;
  /** How far its plane lies from the thing's own zero along the way that one looks, mm. */
  offsetMm: number;
  crop: Rect;
}

export type Side = 'top' | 'front' | 'side';

/** The picture that was here before, and how its pixels lie on those of the new one. */
export interface BeforeSwap extends PictureFile {
  /** 3 × 3, row by row, from its pixels to those of the picture that took its place. */
  onto: number[];
}

/** How a picture is shown: never baked into its pixels, never in the way of measuring on them. */
export interface Preparation {
  /** Quarter turns clockwise. */
  turns: 0 | 1 | 2 | 3;
  /** Seen from behind: left and right change places, before it is turned. */
  flip: boolean;
  /** What of it is shown, null for all. */
  crop: Rect | null;
  /** What is seen through it, null for nothing. */
  clear: Clearing | null;
  /** What shall be darkest and lightest, 0 to 1 of the file's scale, and what lies between. */
  tones: Tones;
}

/** A background that is taken away by its colour. */
export interface Clearing {
  /** As the file has it, 0 to 255. */
  colour: [number, number, number];
  /** How unlike a colour may be and still be cleared, 0 to 1. */
  tolerance: number;
}

export interface Tones {
  dark: number;
  light: number;
  gamma: number;
  gray: boolean;
}

export const PLAIN_TONES: Tones = { dark: 0, light: 1, gamma: 1, gray: false };

export function newPreparation(): Preparation {
  return { turns: 0, flip: false, crop: null, clear: null, tones: { ...PLAIN_TONES } };
}

/** What the person said of a picture; the estimate is derived from it and never kept. */
export interface CalibrationRecord {
  /** The resolution that the file states counts as a reference; of scans and drawings only. */
  believeResolution: boolean;
  /** Both scales of a page are free of each other. */
  freeRatio: boolean;
  hold: Hold;
  /** Heights over the table of the plane that references stand on and of the face that is traced. */
  heights: { reference: HeightRecord; face: HeightRecord };
  /** Further planes: steps within the part, and what else stands higher or lower. */
  planes: PlaneRecord[];
  /** A camera that was checked with a grid, as it was when it was chosen. */
  camera: CameraRecord | null;
  references: ReferenceRecord[];
  /** A part turned on a lathe, seen from the side. */
  turned: TurnedRecord | null;
  axis: AxisRecord | null;
  zero: ZeroRecord | null;
  /** What shall become a size rather than have one. */
  wanted: WantedRecord | null;
  /** A factor on all lengths that nothing explains. */
  factor: FactorRecord | null;
  spotChecks: SpotCheckRecord[];
}

export interface FactorRecord {
  value: number;
  plusMinus: number;
  /** How many spot checks it was taken from. */
  checks: number;
}

export interface HeightRecord {
  heightMm: number;
  plusMinusMm: number;
}

export interface PlaneRecord extends HeightRecord {
  id: string;
  name: string;
}

export interface CameraRecord {
  name: string;
  /** ln c, the middle, k1, k2, and 5 × 5 their covariance, row by row. */
  mean: number[];
  covariance: number[];
}

interface Said {
  id: string;
  plane: PlaneName;
  /** What was typed, or the name of what it is, to be shown again as it was written. */
  typed: string;
}

export interface KnownLengthRecord extends Said {
  kind: 'known-length';
  from: PickRecord;
  to: PickRecord;
  lengthMm: number;
  plusMinusMm: number | null;
  /** The graduations between both readings, once they were counted. */
  graduations: GraduationsRecord | null;
  /** Of a ruler, from one long edge to the other, once somebody measured it. */
  width: WidthRecord | null;
}

export interface WidthRecord {
  widthMm: number;
  plusMinusMm: number;
}

/** A coin, a disc, or a circle of unknown size. */
export interface DiscRecord extends Said {
  kind: 'disc';
  rim: PickRecord[];
  diameterMm: number | null;
  plusMinusMm: number | null;
  thicknessMm: number;
}

export interface SheetRecord extends Said {
  kind: 'sheet';
  /** Counter-clockwise as it is seen, the first and third along the width. */
  edges: [PickRecord[], PickRecord[], PickRecord[], PickRecord[]];
  widthMm: number;
  heightMm: number;
  plusMinusMm: number;
}

export interface GridRecord extends Said {
  kind: 'grid';
  crossings: { i: number; j: number; pick: PickRecord }[];
  pitchMm: number;
  plusMinusShare: number | null;
}

/** Lines that run along X or along Y of one square frame. */
export interface SquareLinesRecord extends Said {
  kind: 'square-lines';
  lines: { along: 'x' | 'y'; from: PickRecord; to: PickRecord }[];
  plusMinusRad: number | null;
}

export interface EqualLengthsRecord extends Said {
  kind: 'equal-lengths';
  lengths: { from: PickRecord; to: PickRecord }[];
  plusMinusShare: number | null;
}

export type ReferenceRecord =
  | KnownLengthRecord
  | DiscRecord
  | SheetRecord
  | GridRecord
  | SquareLinesRecord
  | EqualLengthsRecord;

/** Graduations as they were found in the picture: by their number from the first reading on. */
export interface GraduationsRecord {
  spacingMm: number;
  graduations: { n: number; places: PickRecord[] }[];
  /** Places along the edge that they stand on. */
  edge: PickRecord[];
  /** Places along the ruler's other long edge. */
  far: PickRecord[];
}

/** Two picks on each of a turned part's silhouettes, on the plane that its axis lies in. */
export interface TurnedRecord {
  plane: PlaneName;
  silhouettes: [[PickRecord, PickRecord], [PickRecord, PickRecord]];
}

/**
 * A line that runs along X or Y: a reference's own line, two picks of its own, the centres of two holes, or the centre
 * line between two opposite edges, two picks on each.
 */
export type AxisRecord = { along: 'x' | 'y' } & (
  | { reference: string }
  | { from: PickRecord; to: PickRecord; plane: PlaneName }
  | { holes: [PickRecord[], PickRecord[]]; plane: PlaneName }
  | { edges: [[PickRecord, PickRecord], [PickRecord, PickRecord]]; plane: PlaneName }
);

/**
 * Where zero is: an end of a reference, a pick of its own, the crossing of two edges (two picks on each), or the centre
 * of a hole (picks on its rim).
 */
export type ZeroRecord =
  | { reference: string; end: 'from' | 'to' }
  | { pick: PickRecord; plane: PlaneName }
  | { crossing: PickRecord[]; plane: PlaneName }
  | { rim: PickRecord[]; plane: PlaneName };

export interface WantedRecord {
  plane: PlaneName;
  from: PickRecord;
  to: PickRecord;
  lengthMm: number;
  typed: string;
}

export interface SpotCheckRecord {
  id: string;
  plane: PlaneName;
  from: PickRecord;
  to: PickRecord;
  lengthMm: number;
  plusMinusMm: number | null;
  typed: string;
}

/** One place of the part, or one reference, that is seen in several pictures. */
export type JoinRecord =
  | { id: string; kind: 'point'; seen: { picture: string; plane: PlaneName; pick: PickRecord }[] }
  | { id: string; kind: 'reference'; seen: { picture: string; reference: string }[] };

/** Bounds that keep a document from a stranger harmless. */
export const MOST = {
  pictures: 40,
  views: 40,
  references: 60,
  planes: 20,
  /** Places of one reference: of a rim, of one edge, crossings of a grid. */
  places: 600,
  spotChecks: 200,
  joins: 200,
  graduations: 500,
  sketches: 200,
  paths: 2000,
  /** Points and picks of all sketches together. */
  points: 50_000,
  dimensions: 2000,
  nameLength: 200,
  /** Side of a picture, px, and its pixels: above that its colours alone would fill half a gigabyte of memory. */
  sidePx: 60_000,
  pixels: 120e6,
} as const;

/** How heights stand before anybody said anything: all in the table's plane. */
export const NEW_HEIGHT: HeightRecord = { heightMm: 0, plusMinusMm: 0 };

export function newJob(id: string, name: string, createdAt: string, unit: LengthUnit): JobDocument {
  return {
    version: DOCUMENT_VERSION,
    id,
    name,
    createdAt,
    unit,
    pictures: [],
    joins: [],
    part: newPart(),
  };
}

export function newCalibrationRecord(): CalibrationRecord {
  return {
    believeResolution: true,
    hold: 'free',
    freeRatio: false,
    heights: { reference: { ...NEW_HEIGHT }, face: { ...NEW_HEIGHT } },
    planes: [],
    camera: null,
    references: [],
    turned: null,
    axis: null,
    zero: null,
    wanted: null,
    factor: null,
    spotChecks: [],
  };
}

export function newPicture(id: string, file: PictureFile, kind: PictureKind): Picture {
  return {
    ...file,
    id,
    kind,
    shown: true,
    locked: false,
    opacity: 1,
    preparation: newPreparation(),
    views: [],
    calibration: newCalibrationRecord(),
    before: null,
  };
}
