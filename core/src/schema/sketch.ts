import { type Static, Type } from '@sinclair/typebox';
import { MOST, ROLES } from './bounds';
import {
  closed,
  EXPRESSION,
  FIGURE,
  id,
  is,
  list,
  name,
  named,
  number,
  oneOf,
  orNull,
  PICK_FIELDS,
  plane,
  px,
  record,
  text,
  whole,
  yes,
} from './define';
import { SOLID } from './solid';

/* The part: sketches of points, curves, what was seen of them, and paths (docs/architecture.md, "The part"). */

/** Name of a thing in the part: unique over all its sketches. */
export type Id = Static<typeof id>;

/** The table, the plane of references, the face that is traced, a step of a name of its own, or `TURNED`. */
export type PlaneName = Static<typeof plane>;

const observed = {
  ...PICK_FIELDS,
  picture: id,
  plane,
  snappedTo: oneOf('edge', 'line', 'point', 'free'),
  /** The nearest other edge that ran along the one it snapped to; null where there was none. */
  neighbouringEdge: orNull(closed({ uPx: px, vPx: px })),
};

/** Seen in a picture: a changed calibration carries it along. */
const OBSERVATION = closed(observed);
export type Observation = Static<typeof OBSERVATION>;

/** A point that curves share: seen in a picture, or fitted from its curve alone, as the centre of a hole is. */
const POINT = closed({
  at: Type.Union([closed({ kind: is('observed'), ...observed }), closed({ kind: is('fitted') })]),
});

/** What a picture says of a curve: picks along it, by their names in the sketch. */
const EVIDENCE = closed({ edge: is('pick'), picks: list(id, 3, 1) });

const ofCurve = { id, evidence: list(EVIDENCE, 1) };
const ends = { ...ofCurve, from: id, to: id };

const LINE = closed({ ...ends, kind: is('line') });
type LineCurve = Static<typeof LINE>;

/** A circular arc through the pick of its evidence. */
const ARC = closed({ ...ends, kind: is('arc') });
type ArcCurve = Static<typeof ARC>;

/** A cubic Bézier whose handles are the two picks of its evidence, that of `from` first. */
const CUBIC = closed({ ...ends, kind: is('cubic') });
type CubicCurve = Static<typeof CUBIC>;

/**
 * Through the three rim picks of its evidence, its centre fitted; or about a centre that was picked, as wide as was
 * decided.
 */
const CIRCLE = closed({ ...ofCurve, kind: is('circle'), centre: id });
export type CircleCurve = Static<typeof CIRCLE>;

/** A curve with two ends. */
export type OpenCurve = LineCurve | ArcCurve | CubicCurve;

const CURVE = Type.Union([LINE, ARC, CUBIC, CIRCLE]);
export type Curve = Static<typeof CURVE>;

/** A curve on a path, run along from its `from` to its `to` or the other way. */
const USE = closed({ curve: id, reversed: yes });
export type Use = Static<typeof USE>;

/** Curves end to end; along it the part is cut, marked, or measured. */
const PATH = closed({
  id,
  name,
  role: oneOf(...ROLES),
  layer: orNull(text(0, MOST.nameLength)),
  uses: list(USE, MOST.points, 1),
  closed: yes,
});
export type Path = Static<typeof PATH>;
export type Role = Path['role'];

/** Never a joined string, never a place in a list. */
const REF = closed({ sketch: id, id });
export type Ref = Static<typeof REF>;

export type Expression = Static<typeof EXPRESSION>;
export type Figure = Static<typeof FIGURE>;

/** Where a size is written, as a shift of where it would stand by itself, mm; null for there. */
const LABEL = orNull(closed({ dxMm: number(-1e5, 1e5), dyMm: number(-1e5, 1e5) }));

/**
 * A size of the part. Decided: it stays what was typed through every new calibration. Measured: it follows the
 * calibration; it is shown, and holds nothing.
 */
const DIMENSION = closed({
  id,
  /**
   * distance: between two of points, circles and arcs by their centres, and lines, or how far one of them lies from zero,
   * along X or Y; angle: between two lines, of one line against X, or how far one arc turns; radius and diameter: of a
   * circle or an arc; arc-length: of an arc; path-length, width, height: of a path.
   */
  kind: oneOf('distance', 'diameter', 'radius', 'angle', 'arc-length', 'path-length', 'width', 'height'),
  refs: list(REF, 2, 1),
  /** Of a distance between two points: as it is, or only its part along X or along Y. */
  along: oneOf('straight', 'x', 'y'),
  label: LABEL,
  origin: Type.Union([
    /** `value` of an angle is in degrees, whatever its unit says; what is told from zero or against X may be negative. */
    closed({ kind: is('decided'), value: EXPRESSION, why: text(0, MOST.nameLength) }),
    closed({ kind: is('measured') }),
  ]),
});
export type Dimension = Static<typeof DIMENSION>;

/**
 * A relation that the part keeps. What it names, in this order:
 * level, plumb: lines, or two points; parallel, equal: lines (or, equal, circles and arcs), two or more; square: two lines;
 * tangent: two pieces that meet at a point, or a line or circle and a circle; smooth: two pieces that meet, one a curve;
 * concentric: circles, arcs and points; on: points, or lines, and last the line, circle or arc that they lie on, or all of
 * them points: on one line; middle: a point and a line, or a point and two points; symmetric: two of a kind and a line;
 * even: three or more points or circles, in a row; around: the centre first, then two or more points or circles, evenly
 * all round it, or `count` to a turn; fixed: points and curves that stay where they were measured.
 */
const CONSTRAINT = closed({
  id,
  kind: oneOf(
    'level',
    'plumb',
    'parallel',
    'square',
    'tangent',
    'smooth',
    'equal',
    'concentric',
    'on',
    'middle',
    'symmetric',
    'even',
    'around',
    'fixed',
  ),
  refs: list(REF, MOST.copies, 1),
  /** Of `around`: how many would make a whole turn; null for those that are named. Null for all others. */
  count: orNull(whole(2, MOST.copies)),
});
export type Constraint = Static<typeof CONSTRAINT>;

const OF_PATH = {
  id,
  /** What it is made of. */
  path: id,
  /** Where it stands in the list of what is made of that path: lower ones first. */
  place: whole(0, 1e6),
};
/** What is made of a path, living: it follows every change of the path and of what it goes by (`sketch/maker`). */
const MAKER = Type.Union([
  /** `at`: the corners by their points; null for all of them. */
  closed({ ...OF_PATH, kind: is('fillet'), size: EXPRESSION, at: orNull(list(id, MOST.copies, 1)) }),
  closed({ ...OF_PATH, kind: is('chamfer'), size: EXPRESSION, at: orNull(list(id, MOST.copies, 1)) }),
  closed({
    ...OF_PATH,
    kind: is('offset'),
    by: EXPRESSION,
    side: oneOf('out', 'in'),
    corners: oneOf('round', 'sharp', 'cut'),
    /** Pieces, by name, that lie at a distance of their own. */
    except: record(EXPRESSION, MOST.copies),
  }),
  /** About the straight line from the first to the last place of another path; smooth across it where that is wished. */
  closed({ ...OF_PATH, kind: is('mirror'), about: id, smooth: yes }),
  /** About the centre of a circle: evenly all round, or by an angle from one to the next, or from the first to the last. */
  closed({
    ...OF_PATH,
    kind: is('round'),
    about: id,
    count: FIGURE,
    turn: orNull(closed({ degrees: FIGURE, span: oneOf('each', 'total') })),
  }),
  /** `step` from one to the next, or from the first to the last. */
  closed({
    ...OF_PATH,
    kind: is('row'),
    step: EXPRESSION,
    span: oneOf('each', 'total'),
    count: FIGURE,
    way: oneOf('right', 'left', 'up', 'down'),
  }),
  /** Along X to the right and along Y upwards. */
  closed({ ...OF_PATH, kind: is('grid'), step: EXPRESSION, count: FIGURE, rowStep: EXPRESSION, rows: FIGURE }),
]);
export type Maker = Static<typeof MAKER>;

/** Kinds are still to come. */
const nothingYet = Type.Unsafe<Record<string, never>>({ type: 'object', maxProperties: 0 });

/**
 * What lies in one plane of the part: points that curves share, curves, what was seen of them, and the paths that run
 * along them. Everything that can be pointed at has a name of its own, so that a reference outlives a change elsewhere;
 * records go by name, so that a change of one of them is a small patch.
 */
const SKETCH = closed({
  id,
  name,
  /** The view of a picture that it was drawn in, with its side and offset; null outside all views. */
  frame: closed({ view: orNull(id) }),
  points: record(named('point', POINT), MOST.points),
  curves: record(named('curve', CURVE), MOST.points),
  /** What was picked along curves and bends them: through points of arcs, handles, places on rims. */
  picks: record(named('observation', OBSERVATION), MOST.points),
  paths: record(named('path', PATH), MOST.paths),
  /** Paths in the order in which they are listed. */
  order: list(id, MOST.paths),
  dimensions: record(DIMENSION, MOST.dimensions),
  /** Relations between points and curves. */
  constraints: record(named('constraint', CONSTRAINT), MOST.dimensions),
  /** Mirrors and copies. */
  placements: nothingYet,
  /** What is made of paths after settling. */
  makers: record(named('maker', MAKER), MOST.makers),
  /** Curves, by name, along which the thing is worn: what was seen there counts for nothing. */
  worn: record(is(true), MOST.points),
});
export type Sketch = Static<typeof SKETCH>;

/** A length by a name, which expressions may ask for. */
const PARAMETER = closed({
  id,
  name: Type.String({ pattern: '^[A-Za-z_][A-Za-z0-9_]{0,39}$' }),
  value: EXPRESSION,
});
export type Parameter = Static<typeof PARAMETER>;

/** Parameters that are something else in one variant of the part, by their own names in the document. */
const VARIANT = closed({ id, name, overrides: record(EXPRESSION, MOST.parameters) });
export type Variant = Static<typeof VARIANT>;

/** What was traced, and what is made of it. */
export const PART = closed({
  sketches: record(named('sketch', SKETCH), MOST.sketches),
  /** Sketches in the order in which they are listed. */
  order: list(id, MOST.sketches),
  /** Layers, by the name that paths call them by, that are hidden or locked. */
  layers: list(closed({ name, hidden: yes, locked: yes }), MOST.layers),
  parameters: list(PARAMETER, MOST.parameters),
  variants: list(VARIANT, MOST.variants),
  /** The variant that is shown and handed over; null for the part as it was drawn. */
  variant: orNull(id),
  /** Proposals that were looked at and left, by what they are of: they are not made again. */
  passedOver: list(text(1, MOST.key), MOST.passedOver),
  ...SOLID,
});
export type Part = Static<typeof PART>;
