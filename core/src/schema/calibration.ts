import { type Static, Type } from '@sinclair/typebox';
import { MOST } from './bounds';
import {
  along,
  closed,
  exactly,
  four,
  id,
  is,
  lengthMm,
  list,
  mm,
  name,
  named,
  number,
  oneOf,
  orNull,
  pick,
  plane,
  share,
  spread,
  two,
  typed,
  whole,
  yes,
} from './define';

/* What a person said of a picture. */

const HEIGHT = closed({ heightMm: mm, plusMinusMm: spread });
export type HeightRecord = Static<typeof HEIGHT>;
const height = named('height', HEIGHT);

const PLANE = closed({ id, name, heightMm: mm, plusMinusMm: spread });
export type PlaneRecord = Static<typeof PLANE>;

const CAMERA = closed({
  name,
  /** ln c, the middle, k1, k2, and 5 × 5 their covariance, row by row. */
  mean: exactly(5, number(-1e6, 1e6)),
  covariance: exactly(25, number(-1e9, 1e9)),
});
export type CameraRecord = Static<typeof CAMERA>;

const FACTOR = closed({
  value: number(0.01, 100),
  plusMinus: spread,
  /** How many spot checks it was taken from. */
  checks: whole(1, MOST.spotChecks),
});
export type FactorRecord = Static<typeof FACTOR>;

/** Graduations as they were found in the picture: by their number from the first reading on. */
const GRADUATIONS = closed({
  spacingMm: lengthMm,
  graduations: list(closed({ n: whole(0, 100_000), places: list(pick, 4) }), MOST.graduations),
  /** Places along the edge that they stand on. */
  edge: list(pick, MOST.graduations),
  /** Places along the ruler's other long edge. */
  far: list(pick, MOST.graduations),
});
export type GraduationsRecord = Static<typeof GRADUATIONS>;

const WIDTH = closed({ widthMm: lengthMm, plusMinusMm: spread });
export type WidthRecord = Static<typeof WIDTH>;

const said = { id, plane, typed };
const span = { from: pick, to: pick };
const length = { ...said, ...span, lengthMm, plusMinusMm: orNull(spread) };
/** Places round a rim. */
const rim = list(pick, MOST.places, 5);

const KNOWN_LENGTH = closed({
  ...length,
  kind: is('known-length'),
  /** The graduations between both readings, once they were counted. */
  graduations: orNull(GRADUATIONS),
  /** Of a ruler, from one long edge to the other, once somebody measured it. */
  width: orNull(WIDTH),
});
export type KnownLengthRecord = Static<typeof KNOWN_LENGTH>;

/** A coin, a disc, or a circle of unknown size. */
const DISC = closed({
  ...said,
  kind: is('disc'),
  rim,
  /** The foot of its wall, where it was told from the upper rim. */
  foot: orNull(list(pick, MOST.places)),
  diameterMm: orNull(lengthMm),
  plusMinusMm: orNull(spread),
  thicknessMm: number(0, 1000),
});
export type DiscRecord = Static<typeof DISC>;

const SHEET = closed({
  ...said,
  kind: is('sheet'),
  /** Counter-clockwise as it is seen, the first and third along the width. */
  edges: four(list(pick, MOST.places, 2)),
  widthMm: lengthMm,
  heightMm: lengthMm,
  plusMinusMm: spread,
});
export type SheetRecord = Static<typeof SHEET>;

const GRID = closed({
  ...said,
  kind: is('grid'),
  crossings: list(closed({ i: whole(0, 10_000), j: whole(0, 10_000), pick }), MOST.places, 4),
  pitchMm: lengthMm,
  plusMinusShare: orNull(share),
});
export type GridRecord = Static<typeof GRID>;

/** Lines that run along X or along Y of one square frame. */
const SQUARE_LINES = closed({
  ...said,
  kind: is('square-lines'),
  lines: list(closed({ along, ...span }), 40, 2),
  plusMinusRad: orNull(share),
});
export type SquareLinesRecord = Static<typeof SQUARE_LINES>;

const EQUAL_LENGTHS = closed({
  ...said,
  kind: is('equal-lengths'),
  lengths: list(closed(span), 40, 2),
  plusMinusShare: orNull(share),
});
export type EqualLengthsRecord = Static<typeof EQUAL_LENGTHS>;

/** Of the turned part that lies in the picture, halfway along where its silhouettes were picked. */
const TURNED_DIAMETER = closed({
  ...said,
  kind: is('turned-diameter'),
  diameterMm: lengthMm,
  plusMinusMm: orNull(spread),
});
export type TurnedDiameterRecord = Static<typeof TURNED_DIAMETER>;

const REFERENCE = Type.Union([KNOWN_LENGTH, DISC, SHEET, GRID, SQUARE_LINES, EQUAL_LENGTHS, TURNED_DIAMETER]);
export type ReferenceRecord = Static<typeof REFERENCE>;

/** Two picks on each of two lines. */
const pairs = two(two(pick));

/** Two picks on each of a turned part's silhouettes, on the plane that its axis lies in. */
const TURNED = closed({ plane, silhouettes: pairs });
export type TurnedRecord = Static<typeof TURNED>;

/**
 * A line that runs along X or Y: a reference's own line, two picks of its own, the centres of two holes, or the centre
 * line between two opposite edges, two picks on each.
 */
const AXIS = Type.Union([
  closed({ along, reference: id }),
  closed({ along, ...span, plane }),
  closed({ along, holes: two(rim), plane }),
  closed({ along, edges: pairs, plane }),
]);
export type AxisRecord = Static<typeof AXIS>;

/**
 * Where zero is: an end of a reference, a pick of its own, the crossing of two edges (two picks on each), or the centre
 * of a hole (picks on its rim).
 */
const ZERO = Type.Union([
  closed({ reference: id, end: oneOf('from', 'to') }),
  closed({ pick, plane }),
  closed({ crossing: exactly(4, pick), plane }),
  closed({ rim, plane }),
]);
export type ZeroRecord = Static<typeof ZERO>;

/** Where a picture's zero lies on the part, mm, and how its X is turned there, rad: pictures of one part have one frame. */
const LAID = closed({ xMm: mm, yMm: mm, turnRad: number(-7, 7) });
export type LaidRecord = Static<typeof LAID>;

const WANTED = closed({ plane, ...span, lengthMm, typed });
export type WantedRecord = Static<typeof WANTED>;

const SPOT_CHECK = closed(length);
export type SpotCheckRecord = Static<typeof SPOT_CHECK>;

/** What the person said of a picture; the estimate is derived from it and never kept. */
const CALIBRATION = closed({
  /** The resolution that the file states counts as a reference; of scans and drawings only. */
  believeResolution: yes,
  /** Both scales of a page are free of each other. */
  freeRatio: yes,
  hold: oneOf('flat-on', 'free'),
  /**
   * Heights over the table of the plane that references stand on and of the face that is traced; `said` once a person
   * gave them, or that they may be left out. Until then every ± carries the doubt.
   */
  heights: closed({ reference: height, face: height, said: yes }),
  /** Further planes: steps within the part, and what else stands higher or lower. */
  planes: list(PLANE, MOST.planes),
  /** A camera that was checked with a grid, as it was when it was chosen. */
  camera: orNull(CAMERA),
  references: list(REFERENCE, MOST.references),
  /** A part turned on a lathe, seen from the side. */
  turned: orNull(TURNED),
  axis: orNull(AXIS),
  zero: orNull(ZERO),
  /** Null where its zero is the part's own. */
  laid: orNull(LAID),
  /** What shall become a size rather than have one. */
  wanted: orNull(WANTED),
  /** A factor on all lengths that nothing explains. */
  factor: orNull(FACTOR),
  spotChecks: list(SPOT_CHECK, MOST.spotChecks),
});
export type CalibrationRecord = Static<typeof CALIBRATION>;
export const calibration = named('calibration', CALIBRATION);
