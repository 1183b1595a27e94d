import { DOCUMENT_VERSION } from './document';
import { makeSketches } from './upgradeToSketches';
import { renameFields } from './upgradeWords';

type Loose = Record<string, unknown>;

/** One pure step a version; step n makes version n + 1 of version n. */
const STEPS: Record<number, (old: Loose) => Loose> = {
  1: addRunNames,
  2: addPreparation,
  3: addKindsAndViews,
  4: addStrokes,
  5: addPlanes,
  6: addJoins,
  7: addBeside,
  8: addWidth,
  9: (old) => renameFields(makeSketches(old)),
  10: nameClearing,
  11: addSaidHeights,
  12: addMakers,
  13: addLayers,
  14: addOrigins,
  15: addSolid,
  16: addFigures,
  17: addOrdinates,
  18: addFeet,
  19: addLaidAndBows,
  // A dome may be drawn over the body itself; older ones are what they were.
  20: (old) => ({ ...old, version: 21 }),
};

/** Version 1 had runs without a name. */
function addRunNames(old: Loose): Loose {
  const part = (old.part ?? {}) as Loose;
  const runs = Array.isArray(part.runs) ? (part.runs as Loose[]) : [];
  return {
    ...old,
    version: 2,
    part: { ...part, runs: runs.map((run, k) => ({ ...run, name: `Run ${k + 1}` })) },
  };
}

/** Version 3 takes more kinds of picture, and each has a preparation; what was there is shown plainly. */
function addPreparation(old: Loose): Loose {
  const pictures = Array.isArray(old.pictures) ? (old.pictures as Loose[]) : [];
  const plain = { turns: 0, tones: { dark: 0, light: 1, gamma: 1, gray: false } };
  return {
    ...old,
    version: 3,
    pictures: pictures.map((picture) => ({ ...picture, preparation: structuredClone(plain) })),
  };
}

/** Version 4 has scans and drawings, several pictures on one board, views, crop, flip, clearing, swaps and layers. */
function addKindsAndViews(old: Loose): Loose {
  const pictures = Array.isArray(old.pictures) ? (old.pictures as Loose[]) : [];
  const part = (old.part ?? {}) as Loose;
  const runs = Array.isArray(part.runs) ? (part.runs as Loose[]) : [];
  return {
    ...old,
    version: 4,
    pictures: pictures.map((picture) => {
      const { cropped, ...facts } = (picture.facts ?? {}) as Loose;
      return {
        ...picture,
        kind: 'photo',
        shown: true,
        locked: false,
        views: [],
        before: null,
        facts: { ...facts, doubts: cropped ? ['cropped'] : [], resolution: null },
        preparation: { ...(picture.preparation as Loose), flip: false, crop: null, clear: null },
        truing: { ...(picture.truing as Loose), believeResolution: true },
      };
    }),
    part: { ...part, runs: runs.map((run) => ({ ...run, layer: null })) },
  };
}

/** Version 5 keeps the strokes that were counted between two readings. */
function addStrokes(old: Loose): Loose {
  const pictures = Array.isArray(old.pictures) ? (old.pictures as Loose[]) : [];
  return {
    ...old,
    version: 5,
    pictures: pictures.map((picture) => {
      const truing = (picture.truing ?? {}) as Loose;
      const yardsticks = Array.isArray(truing.yardsticks) ? (truing.yardsticks as Loose[]) : [];
      return { ...picture, truing: { ...truing, yardsticks: yardsticks.map((y) => ({ ...y, strokes: null })) } };
    }),
  };
}

/** Version 6 has more kinds of yardstick, planes of their own, checked cameras, and lengths that are wanted. */
function addPlanes(old: Loose): Loose {
  const pictures = Array.isArray(old.pictures) ? (old.pictures as Loose[]) : [];
  const part = (old.part ?? {}) as Loose;
  const runs = Array.isArray(part.runs) ? (part.runs as Loose[]) : [];
  return {
    ...old,
    version: 6,
    pictures: pictures.map((picture) => ({
      ...picture,
      truing: { ...(picture.truing as Loose), freeRatio: false, planes: [], camera: null, wanted: null, factor: null },
    })),
    part: { ...part, runs: runs.map((run) => ({ ...run, plane: 'face' })) },
  };
}

/** Version 7 joins pictures, and has turned parts. */
function addJoins(old: Loose): Loose {
  const pictures = Array.isArray(old.pictures) ? (old.pictures as Loose[]) : [];
  return {
    ...old,
    version: 7,
    joins: [],
    pictures: pictures.map((picture) => ({ ...picture, truing: { ...(picture.truing as Loose), turned: null } })),
  };
}

/** Version 8 knows of each traced point which other edge ran beside its own. */
function addBeside(old: Loose): Loose {
  const part = (old.part ?? {}) as Loose;
  const points = Object.entries((part.points ?? {}) as Record<string, Loose>);
  return {
    ...old,
    version: 8,
    part: { ...part, points: Object.fromEntries(points.map(([id, point]) => [id, { ...point, beside: null }])) },
  };
}

/** Version 9 knows a ruler's other long edge, and how far off it is. */
function addWidth(old: Loose): Loose {
  const pictures = Array.isArray(old.pictures) ? (old.pictures as Loose[]) : [];
  const widened = (y: Loose): Loose =>
    y.kind === 'known-length' ? { ...y, strokes: y.strokes && { ...y.strokes, far: [] }, width: null } : y;
  return {
    ...old,
    version: 9,
    pictures: pictures.map((picture) => {
      const truing = (picture.truing ?? {}) as Loose;
      const yardsticks = Array.isArray(truing.yardsticks) ? (truing.yardsticks as Loose[]) : [];
      return { ...picture, truing: { ...truing, yardsticks: yardsticks.map(widened) } };
    }),
  };
}

/** Version 11 clears a background by its colour, or by what joins a place. */
function nameClearing(old: Loose): Loose {
  const pictures = Array.isArray(old.pictures) ? (old.pictures as Loose[]) : [];
  return {
    ...old,
    version: 11,
    pictures: pictures.map((picture) => {
      const preparation = (picture.preparation ?? {}) as Loose;
      if (!preparation.clear) return picture;
      return { ...picture, preparation: { ...preparation, clear: { by: 'colour', ...(preparation.clear as Loose) } } };
    }),
  };
}

/** Version 13 has what is made of paths; where nothing was, nothing is. */
function addMakers(old: Loose): Loose {
  return { ...old, version: 13 };
}

/** Version 12 asks for heights: what stood before was taken as said, and stays so. */
function addSaidHeights(old: Loose): Loose {
  const pictures = Array.isArray(old.pictures) ? (old.pictures as Loose[]) : [];
  return {
    ...old,
    version: 12,
    pictures: pictures.map((picture) => {
      const calibration = (picture.calibration ?? {}) as Loose;
      const heights = (calibration.heights ?? {}) as Loose;
      return { ...picture, calibration: { ...calibration, heights: { ...heights, said: true } } };
    }),
  };
}

/** Version 14 has parameters and variants, layers, worn stretches, corners one by one, distances of their own and rows by their whole length. */
function addLayers(old: Loose): Loose {
  const part = (old.part ?? {}) as Loose;
  const sketches = Object.entries((part.sketches ?? {}) as Record<string, Loose>);
  const added = (maker: Loose): Loose => {
    if (maker.kind === 'fillet' || maker.kind === 'chamfer') return { ...maker, at: null };
    if (maker.kind === 'offset') return { ...maker, except: {} };
    if (maker.kind === 'mirror') return { ...maker, smooth: false };
    if (maker.kind === 'round') return { ...maker, turn: null };
    return maker.kind === 'row' ? { ...maker, span: 'each' } : maker;
  };
  return {
    ...old,
    version: 14,
    part: {
      ...part,
      layers: [],
      parameters: [],
      variants: [],
      variant: null,
      sketches: Object.fromEntries(
        sketches.map(([id, sketch]) => {
          const makers = Object.entries((sketch.makers ?? {}) as Record<string, Loose>);
          return [id, { ...sketch, makers: Object.fromEntries(makers.map(([k, m]) => [k, added(m)])), worn: {} }];
        }),
      ),
    },
  };
}

/** Version 15 has sizes that are only measured, along X and Y, and of more kinds; those that were there are decided. */
function addOrigins(old: Loose): Loose {
  const part = (old.part ?? {}) as Loose;
  const sketches = Object.entries((part.sketches ?? {}) as Record<string, Loose>);
  const withOrigin = ({ value, ...dimension }: Loose): Loose => ({
    ...dimension,
    along: 'straight',
    label: null,
    origin: { kind: 'decided', value, why: '' },
  });
  return {
    ...old,
    version: 15,
    part: {
      ...part,
      sketches: Object.fromEntries(
        sketches.map(([id, sketch]) => {
          const dimensions = Object.entries((sketch.dimensions ?? {}) as Record<string, Loose>);
          return [id, { ...sketch, dimensions: Object.fromEntries(dimensions.map(([k, d]) => [k, withOrigin(d)])) }];
        }),
      ),
    },
  };
}

/** Version 16 has bodies. */
function addSolid(old: Loose): Loose {
  const part = (old.part ?? {}) as Loose;
  return {
    ...old,
    version: 16,
    part: { ...part, features: [], material: null, bodyChecks: [], bodyFactor: null },
  };
}

/** Version 17 has counts and degrees as formulas, single edges among several, and proposals that were passed over. */
function addFigures(old: Loose): Loose {
  const part = (old.part ?? {}) as Loose;
  const sketches = Object.entries((part.sketches ?? {}) as Record<string, Loose>);
  const features = Array.isArray(part.features) ? (part.features as Loose[]) : [];
  return {
    ...old,
    version: 17,
    part: {
      ...part,
      passedOver: [],
      features: features.map((feature) => withFigures(feature) as Loose),
      sketches: Object.fromEntries(
        sketches.map(([id, sketch]) => [id, { ...sketch, makers: withFigures(sketch.makers ?? {}) }]),
      ),
    },
  };
}

/** Version 18 has sizes of one thing alone: places from zero, directions, how far an arc turns. No older one has any. */
function addOrdinates(old: Loose): Loose {
  return { ...old, version: 18 };
}

/** Version 19 tells the foot of a disc's wall from its rim; of older discs nobody did. */
function addFeet(old: Loose): Loose {
  const pictures = Array.isArray(old.pictures) ? (old.pictures as Loose[]) : [];
  return {
    ...old,
    version: 19,
    pictures: pictures.map((picture) => {
      const calibration = picture.calibration as { references: Loose[] };
      const references = calibration.references.map((y) => (y.kind === 'disc' ? { ...y, foot: null } : y));
      return { ...picture, calibration: { ...calibration, references } };
    }),
  };
}

/**
 * Version 20 says where a picture lies on the part; the zero of an older one is the part's. A dome may be typed; older ones
 * are drawn.
 */
function addLaidAndBows(old: Loose): Loose {
  const pictures = Array.isArray(old.pictures) ? (old.pictures as Loose[]) : [];
  const part = old.part as { features: Loose[] };
  return {
    ...old,
    version: 20,
    part: { ...part, features: part.features.map((f) => (f.kind === 'dome' ? { ...f, bow: null } : f)) },
    pictures: pictures.map((picture) => ({
      ...picture,
      calibration: { ...(picture.calibration as Loose), laid: null },
    })),
  };
}

const FIGURES = new Set(['count', 'rows', 'degrees', 'draft']);

/** Numbers of these names as what could have been typed for them; and edges between faces without a place of their own. */
function withFigures(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(withFigures);
  if (typeof value !== 'object' || value === null) return value;
  const own = Object.fromEntries(
    Object.entries(value).map(([key, one]) =>
      FIGURES.has(key) && typeof one === 'number'
        ? [key, { text: String(one), unit: 'number' }]
        : [key, withFigures(one)],
    ),
  );
  return Array.isArray(own.faces) && !('reading' in own) ? { ...own, near: null } : own;
}

export type UpgradeResult = { ok: true; document: unknown } | { ok: false; reason: 'not-a-job' | 'from-the-future' };

/** Brings a document of any earlier version to the present form; what it then holds is still to be checked. */
export function upgradeDocument(document: unknown): UpgradeResult {
  if (typeof document !== 'object' || document === null || Array.isArray(document))
    return { ok: false, reason: 'not-a-job' };
  const { version } = document as Loose;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    return { ok: false, reason: 'not-a-job' };
  if (version > DOCUMENT_VERSION) return { ok: false, reason: 'from-the-future' };
  try {
    return { ok: true, document: upgradeFrom(version, document as Loose) };
  } catch {
    // What a step needs of an older form is not there: no job was ever like that.
    return { ok: false, reason: 'not-a-job' };
  }
}

/** Runs the steps from a version on. */
export function upgradeFrom(version: number, document: Loose): Loose {
  let current = document;
  for (let v = version; v < DOCUMENT_VERSION; v++) current = STEPS[v]!(current);
  return current;
}
