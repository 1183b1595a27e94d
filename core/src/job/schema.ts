import { ROLES } from '../sketch';
import { DOCUMENT_VERSION, MOST } from './document';

/* JSON Schema of the job document: closed objects, bounded numbers and arrays. */

/** Bounded by a pattern, since the bound by length would bring a helper into the compiled check. */
const text = (least: number, most: number) => ({ type: 'string', pattern: `^[\\s\\S]{${least},${most}}$` });
const ref = (name: string) => ({ $ref: `#/$defs/${name}` });

const id = ref('id');
const name = text(1, MOST.nameLength);
const typed = text(0, 80);
/** Picks may lie somewhat outside a picture, never a thousand times its size. */
const px = { type: 'number', minimum: -1e6, maximum: 1e6 };
const mm = { type: 'number', minimum: -1e4, maximum: 1e4 };
const spread = { type: 'number', minimum: 0, maximum: 1e4 };
const lengthMm = { type: 'number', exclusiveMinimum: 0, maximum: 1e4 };
const orNull = (schema: object) => ({ anyOf: [schema, { type: 'null' }] });
const closed = (properties: Record<string, object>) => ({
  type: 'object',
  properties,
  required: Object.keys(properties),
  additionalProperties: false,
});
const list = (items: object, maxItems: number) => ({ type: 'array', items, maxItems });

/** 'table', 'reference', 'face', or the id of a further plane: checkJob.ts sees that it is there. */
const plane = id;
const pickFields = { uPx: px, vPx: px, sigmaPx: { type: 'number', exclusiveMinimum: 0, maximum: 1000 } };
const pick = ref('pick');
const height = ref('height');
const along = { enum: ['x', 'y'] };
const length = { id, plane, from: pick, to: pick, lengthMm, plusMinusMm: orNull(spread), typed };

const graduations = closed({
  spacingMm: lengthMm,
  graduations: list(
    closed({ n: { type: 'integer', minimum: 0, maximum: 100_000 }, places: list(pick, 4) }),
    MOST.graduations,
  ),
  edge: list(pick, MOST.graduations),
  far: list(pick, MOST.graduations),
});
const width = closed({ widthMm: lengthMm, plusMinusMm: spread });

const picks = (least: number, most: number) => ({ ...list(pick, most), minItems: least });
const exactly = (count: number, items: object) => ({ type: 'array', items, minItems: count, maxItems: count });
const share = { type: 'number', minimum: 0, maximum: 1 };
const said = { id, plane, typed };
const span = closed({ from: pick, to: pick });
const places = picks(5, MOST.places);
const reference = {
  anyOf: [
    closed({ ...length, kind: { const: 'known-length' }, graduations: orNull(graduations), width: orNull(width) }),
    closed({
      ...said,
      kind: { const: 'disc' },
      rim: places,
      diameterMm: orNull(lengthMm),
      plusMinusMm: orNull(spread),
      thicknessMm: { type: 'number', minimum: 0, maximum: 1000 },
    }),
    closed({
      ...said,
      kind: { const: 'sheet' },
      edges: exactly(4, picks(2, MOST.places)),
      widthMm: lengthMm,
      heightMm: lengthMm,
      plusMinusMm: spread,
    }),
    closed({
      ...said,
      kind: { const: 'grid' },
      crossings: {
        ...list(
          closed({
            i: { type: 'integer', minimum: 0, maximum: 10_000 },
            j: { type: 'integer', minimum: 0, maximum: 10_000 },
            pick,
          }),
          MOST.places,
        ),
        minItems: 4,
      },
      pitchMm: lengthMm,
      plusMinusShare: orNull(share),
    }),
    closed({
      ...said,
      kind: { const: 'square-lines' },
      lines: { ...list(closed({ along, from: pick, to: pick }), 40), minItems: 2 },
      plusMinusRad: orNull(share),
    }),
    closed({
      ...said,
      kind: { const: 'equal-lengths' },
      lengths: { ...list(span, 40), minItems: 2 },
      plusMinusShare: orNull(share),
    }),
  ],
};

/** Two picks on each of two lines. */
const pairs = exactly(2, exactly(2, pick));

const calibration = closed({
  believeResolution: { type: 'boolean' },
  freeRatio: { type: 'boolean' },
  hold: { enum: ['flat-on', 'free'] },
  heights: closed({ reference: height, face: height }),
  planes: list(closed({ id, name, heightMm: mm, plusMinusMm: spread }), MOST.planes),
  camera: orNull(
    closed({
      name,
      mean: exactly(5, { type: 'number', minimum: -1e6, maximum: 1e6 }),
      covariance: exactly(25, { type: 'number', minimum: -1e9, maximum: 1e9 }),
    }),
  ),
  references: list(reference, MOST.references),
  turned: orNull(closed({ plane, silhouettes: pairs })),
  axis: orNull({
    anyOf: [
      closed({ along, reference: id }),
      closed({ along, from: pick, to: pick, plane }),
      closed({ along, holes: exactly(2, places), plane }),
      closed({ along, edges: pairs, plane }),
    ],
  }),
  zero: orNull({
    anyOf: [
      closed({ reference: id, end: { enum: ['from', 'to'] } }),
      closed({ pick, plane }),
      closed({ crossing: exactly(4, pick), plane }),
      closed({ rim: places, plane }),
    ],
  }),
  wanted: orNull(closed({ plane, from: pick, to: pick, lengthMm, typed })),
  factor: orNull(
    closed({
      value: { type: 'number', minimum: 0.01, maximum: 100 },
      plusMinus: spread,
      checks: { type: 'integer', minimum: 1, maximum: MOST.spotChecks },
    }),
  ),
  spotChecks: list(closed(length), MOST.spotChecks),
});

const side = { type: 'integer', minimum: 1, maximum: MOST.sidePx };
const focal = orNull({ type: 'number', exclusiveMinimum: 0, maximum: 5000 });

const rect = ref('rect');
const resolution = closed({
  perMmX: { type: 'number', minimum: 0.01, maximum: 2000 },
  perMmY: { type: 'number', minimum: 0.01, maximum: 2000 },
  sigma: { type: 'number', minimum: 0, maximum: 1 },
});
const doubt = { enum: ['cropped', 'zoomed', 'stabilised', 'no-lens', 'odd-lens'] };
const file = {
  blob: { type: 'string', pattern: '^[0-9a-f]{64}$' },
  fileName: text(0, 400),
  mime: { enum: ['image/jpeg', 'image/png', 'image/webp', 'image/tiff', 'image/heic'] },
  facts: closed({
    widthPx: side,
    heightPx: side,
    focal35Mm: focal,
    focalMm: focal,
    doubts: list(doubt, 8),
    resolution: orNull(resolution),
  }),
};

const clearing = closed({
  colour: { type: 'array', items: { type: 'integer', minimum: 0, maximum: 255 }, minItems: 3, maxItems: 3 },
  tolerance: share,
});

const view = closed({ id, name, side: { enum: ['top', 'front', 'side'] }, offsetMm: mm, crop: rect });

const picture = closed({
  id,
  ...file,
  kind: { enum: ['photo', 'scan', 'drawing'] },
  shown: { type: 'boolean' },
  locked: { type: 'boolean' },
  opacity: share,
  preparation: closed({
    turns: { enum: [0, 1, 2, 3] },
    flip: { type: 'boolean' },
    crop: orNull(rect),
    clear: orNull(clearing),
    tones: closed({
      dark: share,
      light: share,
      gamma: { type: 'number', minimum: 0.1, maximum: 10 },
      gray: { type: 'boolean' },
    }),
  }),
  views: list(view, MOST.views),
  calibration: ref('calibration'),
  before: orNull(closed({ ...file, onto: { type: 'array', items: { type: 'number' }, minItems: 9, maxItems: 9 } })),
});

const { uPx, vPx } = pickFields;
const observation = {
  ...pickFields,
  picture: id,
  plane,
  snappedTo: { enum: ['edge', 'line', 'point', 'free'] },
  neighbouringEdge: orNull(closed({ uPx, vPx })),
};
const record = (items: object, most: number) => ({
  type: 'object',
  propertyNames: id,
  additionalProperties: items,
  maxProperties: most,
});
const point = closed({
  at: {
    anyOf: [closed({ kind: { const: 'observed' }, ...observation }), closed({ kind: { const: 'fitted' } })],
  },
});
const evidence = list(closed({ edge: { const: 'pick' }, picks: { ...list(id, 3), minItems: 1 } }), 1);
const ends = { id, evidence, from: id, to: id };
const curve = {
  anyOf: [
    closed({ ...ends, kind: { const: 'line' } }),
    closed({ ...ends, kind: { const: 'arc' } }),
    closed({ ...ends, kind: { const: 'cubic' } }),
    closed({ id, evidence, kind: { const: 'circle' }, centre: id }),
  ],
};
const path = closed({
  id,
  name,
  role: { enum: [...ROLES] },
  layer: orNull(text(0, MOST.nameLength)),
  uses: { ...list(closed({ curve: id, reversed: { type: 'boolean' } }), MOST.points), minItems: 1 },
  closed: { type: 'boolean' },
});
const dimension = closed({
  id,
  kind: { enum: ['distance', 'diameter'] },
  refs: { ...list(closed({ sketch: id, id }), 2), minItems: 1 },
  origin: { const: 'decided' },
  value: closed({ text: text(1, 80), unit: { enum: ['mm', 'in'] } }),
});
const nothingYet = { type: 'object', maxProperties: 0 };
const sketch = closed({
  id,
  name,
  frame: closed({ view: orNull(id) }),
  points: record(ref('point'), MOST.points),
  curves: record(ref('curve'), MOST.points),
  picks: record(ref('observation'), MOST.points),
  paths: record(ref('path'), MOST.paths),
  order: list(id, MOST.paths),
  dimensions: record(dimension, MOST.dimensions),
  constraints: nothingYet,
  placements: nothingYet,
  makers: nothingYet,
});

const seen = (fields: Record<string, object>) => ({
  ...list(closed({ picture: id, ...fields }), MOST.pictures),
  minItems: 2,
});
const join = {
  anyOf: [
    closed({ id, kind: { const: 'point' }, seen: seen({ plane, pick }) }),
    closed({ id, kind: { const: 'reference' }, seen: seen({ reference: id }) }),
  ],
};

const document = closed({
  version: { const: DOCUMENT_VERSION },
  id,
  name,
  createdAt: text(0, 40),
  unit: { enum: ['mm', 'in'] },
  pictures: list(ref('picture'), MOST.pictures),
  joins: list(join, MOST.joins),
  part: closed({ sketches: record(ref('sketch'), MOST.sketches), order: list(id, MOST.sketches) }),
});

export const JOB_SCHEMA = {
  ...document,
  $defs: {
    // Not the names that objects have of themselves.
    id: { type: 'string', pattern: '^(?!(?:__proto__|constructor|prototype)$)[A-Za-z0-9_-]{1,80}$' },
    pick: closed(pickFields),
    rect: closed({
      leftPx: px,
      topPx: px,
      widthPx: { type: 'number', exclusiveMinimum: 0, maximum: 1e6 },
      heightPx: { type: 'number', exclusiveMinimum: 0, maximum: 1e6 },
    }),
    height: closed({ heightMm: mm, plusMinusMm: spread }),
    calibration,
    picture,
    observation: closed(observation),
    point,
    curve,
    path,
    sketch,
  },
};
