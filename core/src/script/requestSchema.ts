/* JSON Schema of what a script may say: closed objects, bounded numbers. */

/**
 * Bounds on one request. Each point costs some hundredths of a second where it clings, each distance 400 drawn truings
 * where the tilt is barely seen, each yardstick an estimate of its own.
 */
const MOST = { yardsticks: 20, places: 600, points: 500, distances: 2000, settled: 40, pieces: 400 } as const;

const place = { type: 'array', items: { type: 'number', minimum: -1e6, maximum: 1e6 }, minItems: 2, maxItems: 2 };
const plane = { type: 'string', minLength: 1, maxLength: 80 };
const cling = { enum: ['edge', 'line', 'none'] };
const name = { type: 'string', minLength: 1, maxLength: 80 };
const height = closed({
  heightMm: { type: 'number', minimum: -1e4, maximum: 1e4 },
  plusMinusMm: { type: 'number', minimum: 0, maximum: 1e4 },
});
const length = { type: 'string', maxLength: 80 };
const whole = { type: 'integer', minimum: -100_000, maximum: 100_000 };
const numbers = (count: number) => ({
  type: 'array',
  items: { type: 'number', minimum: -1e9, maximum: 1e9 },
  minItems: count,
  maxItems: count,
});
/** The one estimate over all pictures grows with the cube of their number. */
const MOST_PICTURES = 12;
const pick = closed({ at: place }, { plane, cling });

const yardsticks = {
  type: 'array',
  maxItems: MOST.yardsticks,
  items: closed(
    { id: name },
    {
      kind: { enum: ['length', 'ruler', 'disc', 'sheet', 'grid', 'square-lines', 'equal-lengths', 'turned-diameter'] },
      plane,
      cling,
      click: place,
      from: place,
      to: place,
      length,
      strokes: { type: 'boolean' },
      rim: { type: 'array', items: place, maxItems: MOST.places },
      diameter: length,
      thickness: length,
      edges: { type: 'array', items: { type: 'array', items: place, maxItems: MOST.places }, minItems: 4, maxItems: 4 },
      width: length,
      height: length,
      crossings: { type: 'array', items: closed({ i: whole, j: whole, at: place }), maxItems: MOST.places },
      pitch: length,
      lines: {
        type: 'array',
        items: closed({ from: place, to: place }, { along: { enum: ['x', 'y'] } }),
        minItems: 2,
        maxItems: 40,
      },
    },
  ),
};
/** What is said of a picture wherever it stands. */
const ofPicture = {
  kind: { enum: ['photo', 'scan', 'drawing'] },
  believeResolution: { type: 'boolean' },
  hold: { enum: ['free', 'flat-on'] },
  camera: closed({ mean: numbers(5), covariance: numbers(25) }),
  heights: { type: 'object', propertyNames: name, additionalProperties: height, maxProperties: 40 },
  turned: closed(
    {
      limbs: {
        type: 'array',
        items: { type: 'array', items: place, minItems: 2, maxItems: 2 },
        minItems: 2,
        maxItems: 2,
      },
    },
    { plane, cling },
  ),
  points: { type: 'object', propertyNames: name, additionalProperties: pick, maxProperties: MOST.points },
  distances: { type: 'array', maxItems: MOST.distances, items: closed({ from: name, to: name }) },
  settle: {
    type: 'array',
    maxItems: MOST.settled,
    items: closed(
      {
        id: name,
        pieces: {
          type: 'array',
          minItems: 1,
          maxItems: MOST.pieces,
          items: closed({
            kind: { enum: ['line', 'arc', 'curve', 'circle'] },
            px: { type: 'array', items: place, minItems: 2, maxItems: 4 },
          }),
        },
      },
      { plane, cling: { enum: ['edge', 'line'] }, ground: { enum: ['inside', 'outside'] } },
    ),
  },
};
/** What is said once, also of several pictures. */
const once = {
  unit: { enum: ['mm', 'in'] },
  zero: pick,
  axis: closed({ from: place, to: place, along: { enum: ['x', 'y'] } }, { plane, cling }),
};

export const REQUEST_SCHEMA = closed({ yardsticks }, { ...once, ...ofPicture });

const byPicture = (of: object) => ({
  type: 'object',
  propertyNames: name,
  additionalProperties: of,
  minProperties: 2,
  maxProperties: MOST_PICTURES,
});
const pointOfPicture = { type: 'array', items: name, minItems: 2, maxItems: 2 };

export const JOINED_SCHEMA = closed(
  {
    pictures: {
      type: 'array',
      items: closed({ id: name, yardsticks }, ofPicture),
      minItems: 2,
      maxItems: MOST_PICTURES,
    },
    joins: {
      type: 'array',
      items: {
        ...closed({}, { point: byPicture(pick), yardstick: byPicture(name) }),
        minProperties: 1,
        maxProperties: 1,
      },
      maxItems: 400,
    },
  },
  {
    ...once,
    distances: { type: 'array', maxItems: MOST.distances, items: closed({ from: pointOfPicture, to: pointOfPicture }) },
  },
);

function closed(required: Record<string, object>, optional: Record<string, object> = {}) {
  return {
    type: 'object',
    properties: { ...required, ...optional },
    required: Object.keys(required),
    additionalProperties: false,
  };
}
