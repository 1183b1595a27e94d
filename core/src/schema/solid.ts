import { type Static, Type } from '@sinclair/typebox';
import { MOST } from './bounds';
import { closed, EXPRESSION, FIGURE, id, is, list, mm, name, number, oneOf, orNull, text, whole } from './define';

/* The body: features over settled paths, worked from the first to the last (docs/solid.md). */

const paths = list(id, MOST.paths, 1);

/**
 * Added to the body there is, cut out of it, or kept: of the body only what lies within it stays. Of the first feature
 * it makes no difference.
 */
const DOES = oneOf('add', 'cut', 'keep');
export type Does = Static<typeof DOES>;

/**
 * A face of a body by what made it: the feature, its profile's path, and the piece of it; `nth` counts the pieces of a path
 * that something was made of, whose pieces have no names. start and end: the flat faces where a feature begins and ends.
 */
const FACE = closed({
  feature: id,
  of: oneOf('start', 'end', 'side', 'edge', 'inner'),
  path: orNull(id),
  curve: orNull(id),
  nth: whole(0, 1e6),
});
export type FaceName = Static<typeof FACE>;

/** The edge between two faces; where several lie between them the one whose middle is nearest to a place, mm; null: all of them. */
const EDGE = closed({
  faces: Type.Array(FACE, { minItems: 2, maxItems: 2 }),
  near: orNull(closed({ x: mm, y: mm, z: mm })),
});
export type EdgeName = Static<typeof EDGE>;

const OF_FEATURE = { id, name, does: DOES };

const EXTRUDE = closed({
  ...OF_FEATURE,
  kind: is('extrude'),
  /** The sketch that its profiles lie in, which says from which side they are seen. */
  sketch: id,
  /** Closed paths, holes among them; null for all that is cut in the sketch. */
  paths: orNull(paths),
  /** Heights over the sketch's plane; null for all through the body there is. */
  heights: orNull(closed({ from: EXPRESSION, to: EXPRESSION })),
  /** By how much its sides lean inwards, degrees. */
  draft: FIGURE,
  /** A sheet of that thickness along the path instead of what it encloses; null for a full body. */
  wall: orNull(EXPRESSION),
  /** Of another side than the body was made from: how it is laid against the body, and whose length holds. */
  laid: closed({ by: oneOf('drawn', 'low', 'middle', 'high'), length: oneOf('own', 'body') }),
});

const REVOLVE = closed({
  ...OF_FEATURE,
  kind: is('revolve'),
  sketch: id,
  path: id,
  /** A path whose line is the axis; null for the axis of the turned part that it was traced on. */
  axis: orNull(id),
  degrees: FIGURE,
});

/** Where a bowed face runs: x from the middle of the body, y up from the end that it is cut from, mm; in order of x. */
const BOW_PLACES = list(closed({ x: mm, y: mm }), MOST.bowPlaces, 2);

/**
 * A face bowed two ways: what lies beyond is cut off along a line of one view, swept along a line of another, its highest place on that
 * one. Both lines are seen again from their own sides.
 */
const DOME = closed({
  ...OF_FEATURE,
  kind: is('dome'),
  /** The view and the line that it follows lengthwise. */
  sketch: id,
  path: id,
  /** The view and the line that it is bowed by across. */
  acrossSketch: id,
  across: id,
  /**
   * Along and across the first view instead of as the lines named above, null for straight: arcs, each by how much lower its
   * ends lie than its middle or by its radius; or smooth lines through places, drawn over the body itself.
   */
  bow: orNull(
    Type.Union([
      closed({ by: oneOf('height', 'radius'), along: orNull(EXPRESSION), across: orNull(EXPRESSION) }),
      closed({ by: is('places'), along: orNull(BOW_PLACES), across: orNull(BOW_PLACES) }),
    ]),
  ),
  /** The end of the body that it is cut from, along the axis that both views show. */
  from: oneOf('end', 'start'),
  /** Laid to the body: highest place to its end, middles together; or where it was drawn. */
  laid: oneOf('drawn', 'body'),
});

/** Raised from the top of what an extrusion made, or sunk into it, and kept inside its face. */
const MARKS = closed({
  ...OF_FEATURE,
  kind: is('marks'),
  sketch: id,
  paths,
  by: EXPRESSION,
  /** How wide an open line is made. */
  width: EXPRESSION,
});

const HOLES = closed({
  ...OF_FEATURE,
  kind: is('holes'),
  sketch: id,
  /** Circles, by whose centres the holes lie. */
  paths,
  /** Null: as wide as each circle is. */
  diameter: orNull(EXPRESSION),
  /** Null: through. */
  depth: orNull(EXPRESSION),
  /** From which side they are drilled. */
  from: oneOf('end', 'start'),
  head: Type.Union([
    closed({ kind: is('none') }),
    closed({ kind: is('countersink'), diameter: EXPRESSION, degrees: FIGURE }),
    closed({ kind: is('counterbore'), diameter: EXPRESSION, depth: EXPRESSION }),
  ]),
});

const EDGES = closed({
  ...OF_FEATURE,
  kind: is('edges'),
  how: oneOf('round', 'cut'),
  size: EXPRESSION,
  which: Type.Union([
    /** outer: all that stick out, but for those of holes; end, start: round the flat faces; upright: between the sides. */
    closed({ kind: oneOf('outer', 'end', 'start', 'upright') }),
    /** Both rims of the holes that paths made. */
    closed({ kind: is('hole'), paths }),
    closed({ kind: is('picked'), edges: list(EDGE, MOST.edges) }),
  ]),
});

const HOLLOW = closed({
  ...OF_FEATURE,
  kind: is('hollow'),
  wall: EXPRESSION,
  /** Faces that are left open. */
  open: list(FACE, MOST.edges),
});

/** Earlier features once more. */
const REPEAT = closed({
  ...OF_FEATURE,
  kind: is('repeat'),
  of: list(id, MOST.features, 1),
  how: Type.Union([
    /** In a plane across X or Y of the first sketch, at a distance from zero. */
    closed({ kind: is('mirror'), across: oneOf('x', 'y', 'z'), at: EXPRESSION }),
    closed({ kind: is('row'), along: oneOf('x', 'y', 'z'), step: EXPRESSION, count: FIGURE }),
    /** About an axis through the centre of a circle, square to its sketch. */
    closed({ kind: is('round'), path: id, sketch: id, count: FIGURE, degrees: FIGURE }),
  ]),
});

const FEATURE = Type.Union([EXTRUDE, REVOLVE, DOME, MARKS, HOLES, EDGES, HOLLOW, REPEAT]);
export type Feature = Static<typeof FEATURE>;

/** A reading of a caliper on the body: between two faces, or across one that is round. */
const BODY_CHECK = closed({ id, faces: Type.Array(FACE, { minItems: 1, maxItems: 2 }), reading: EXPRESSION });
export type BodyCheck = Static<typeof BODY_CHECK>;

export const SOLID = {
  /** From the first to the last, each upon what those before it made. */
  features: list(FEATURE, MOST.features),
  /** What it is made of: its name and density, g/cm³. */
  material: orNull(closed({ name, density: number(0.001, 30) })),
  bodyChecks: list(BODY_CHECK, MOST.spotChecks),
  /** By how much the body is handed over larger than it is, as the last resort; why says when and for what. */
  bodyFactor: orNull(closed({ factor: number(0.9, 1.1), why: text(0, MOST.nameLength) })),
};
export type Material = NonNullable<Static<(typeof SOLID)['material']>>;
