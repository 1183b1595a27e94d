import { type Static, Type } from '@sinclair/typebox';
import { DOCUMENT_VERSION, MOST } from './bounds';
import { calibration } from './calibration';
import {
  closed,
  exactly,
  id,
  is,
  list,
  mm,
  NAMED,
  name,
  named,
  number,
  oneOf,
  orNull,
  pick,
  plane,
  px,
  share,
  text,
  unit,
  whole,
  yes,
} from './define';
import { PART } from './sketch';

/** A rectangle of the original picture, px. */
const RECT = closed({
  leftPx: px,
  topPx: px,
  widthPx: Type.Number({ exclusiveMinimum: 0, maximum: 1e6 }),
  heightPx: Type.Number({ exclusiveMinimum: 0, maximum: 1e6 }),
});
export type Rect = Static<typeof RECT>;
const rect = named('rect', RECT);

/** A part of a picture that shows the thing from one side, on its own plane. All views of a picture share its calibration. */
const VIEW = closed({
  id,
  name,
  side: oneOf('top', 'front', 'side'),
  /** How far its plane lies from the thing's own zero along the way that one looks, mm. */
  offsetMm: mm,
  crop: rect,
});
export type View = Static<typeof VIEW>;
export type Side = View['side'];

/** A background that is taken away; `tolerance` is how unlike a colour may be and still go, 0 to 1. */
const CLEARING = Type.Union([
  /** Wherever it has that colour, as the file has it, 0 to 255. */
  closed({
    by: is('colour'),
    colour: Type.Unsafe<[number, number, number]>({ type: 'array', items: whole(0, 255), minItems: 3, maxItems: 3 }),
    tolerance: share,
  }),
  /** All that joins those places of the picture without an edge, however it shades. */
  closed({ by: is('region'), places: list(closed({ uPx: px, vPx: px }), MOST.clearings, 1), tolerance: share }),
]);
export type Clearing = Static<typeof CLEARING>;

/** What shall be darkest and lightest, 0 to 1 of the file's scale, and what lies between. */
const TONES = closed({ dark: share, light: share, gamma: number(0.1, 10), gray: yes });
export type Tones = Static<typeof TONES>;

/** How a picture is shown: never baked into its pixels, never in the way of measuring on them. */
const PREPARATION = closed({
  /** Quarter turns clockwise. */
  turns: oneOf(0, 1, 2, 3),
  /** Seen from behind: left and right change places, before it is turned. */
  flip: yes,
  /** What of it is shown, null for all. */
  crop: orNull(rect),
  /** What is seen through it, null for nothing. */
  clear: orNull(CLEARING),
  tones: TONES,
});
export type Preparation = Static<typeof PREPARATION>;

const side = whole(1, MOST.sidePx);
const focal = orNull(Type.Number({ exclusiveMinimum: 0, maximum: 5000 }));
const file = {
  /** SHA-256 of the file's bytes, in hexadecimal. */
  blob: Type.String({ pattern: '^[0-9a-f]{64}$' }),
  fileName: text(0, 400),
  mime: oneOf('image/jpeg', 'image/png', 'image/webp', 'image/tiff', 'image/heic'),
  /** Upright, that is after the turn that EXIF asks for. */
  facts: closed({
    widthPx: side,
    heightPx: side,
    focal35Mm: focal,
    focalMm: focal,
    doubts: list(oneOf('cropped', 'zoomed', 'stabilised', 'no-lens', 'odd-lens'), 8),
    resolution: orNull(closed({ perMmX: number(0.01, 2000), perMmY: number(0.01, 2000), sigma: number(0, 1) })),
  }),
};

/** The file that a picture came from. */
const FILE = closed(file);
export type PictureFile = Static<typeof FILE>;

/** The picture that was here before, and how its pixels lie on those of the new one. */
const BEFORE = closed({
  ...file,
  /** 3 × 3, row by row, from its pixels to those of the picture that took its place. */
  onto: exactly(9, Type.Number()),
});

/** One imported photograph, scan or page. Its pixels never change. Those of a job lie on one board, the first lowest. */
const PICTURE = closed({
  ...file,
  id,
  kind: oneOf('photo', 'scan', 'drawing'),
  /** On the board where the part is shown. */
  shown: yes,
  /** Nothing of it changes until it is unlocked. */
  locked: yes,
  /** How much of it shows through the drawing, 0 to 1. */
  opacity: share,
  preparation: PREPARATION,
  views: list(VIEW, MOST.views),
  calibration,
  /** What it took the place of, to be compared with. */
  before: orNull(BEFORE),
});
export type Picture = Static<typeof PICTURE>;
export type PictureKind = Picture['kind'];

/** One place of the part, or one reference, that is seen in several pictures. */
const JOIN = Type.Union([
  closed({ id, kind: is('point'), seen: list(closed({ picture: id, plane, pick }), MOST.pictures, 2) }),
  closed({ id, kind: is('reference'), seen: list(closed({ picture: id, reference: id }), MOST.pictures, 2) }),
]);
export type JoinRecord = Static<typeof JOIN>;

/** All that is kept for one thing to be made, but for the bytes of its pictures, which lie beside it by their hash. */
const JOB = closed({
  version: is(DOCUMENT_VERSION),
  id,
  name,
  /** ISO 8601, UTC. */
  createdAt: text(0, 40),
  unit,
  pictures: list(named('picture', PICTURE), MOST.pictures),
  /** What is seen in several pictures, and joins them. */
  joins: list(JOIN, MOST.joins),
  part: PART,
});
export type JobDocument = Static<typeof JOB>;

export const JOB_SCHEMA = { ...JOB, $defs: NAMED };
