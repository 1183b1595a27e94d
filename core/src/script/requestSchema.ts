/* JSON Schema of what a script may say: closed objects, bounded numbers. */

const place = { type: 'array', items: { type: 'number', minimum: -1e6, maximum: 1e6 }, minItems: 2, maxItems: 2 };
const plane = { enum: ['table', 'yardstick', 'face'] };
const cling = { enum: ['edge', 'line', 'none'] };
const name = { type: 'string', minLength: 1, maxLength: 80 };
const height = closed({
  heightMm: { type: 'number', minimum: -1e4, maximum: 1e4 },
  plusMinusMm: { type: 'number', minimum: 0, maximum: 1e4 },
});
const pick = closed({ at: place }, { plane, cling });

export const REQUEST_SCHEMA = closed(
  {
    yardsticks: {
      type: 'array',
      maxItems: 60,
      items: closed(
        { id: name, from: place, to: place, length: { type: 'string', maxLength: 80 } },
        { plane, cling, strokes: { type: 'boolean' } },
      ),
    },
  },
  {
    unit: { enum: ['mm', 'in'] },
    kind: { enum: ['photo', 'scan', 'drawing'] },
    believeResolution: { type: 'boolean' },
    hold: { enum: ['free', 'flat-on'] },
    heights: closed({}, { yardstick: height, face: height }),
    zero: pick,
    axis: closed({ from: place, to: place, along: { enum: ['x', 'y'] } }, { plane, cling }),
    points: { type: 'object', propertyNames: name, additionalProperties: pick, maxProperties: 5000 },
    distances: { type: 'array', maxItems: 20_000, items: closed({ from: name, to: name }) },
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
