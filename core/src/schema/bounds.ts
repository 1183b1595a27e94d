/** Bounds that keep a document from a stranger harmless. */
export const MOST = {
  pictures: 40,
  views: 40,
  references: 60,
  planes: 20,
  /** Places of one reference: of a rim, of one edge, crossings of a grid. */
  places: 600,
  /** Places of a line drawn over the body. */
  bowPlaces: 60,
  spotChecks: 200,
  /** Places that a cleared background was grown from. */
  clearings: 60,
  joins: 200,
  graduations: 500,
  sketches: 200,
  paths: 2000,
  /** Points and picks of all sketches together. */
  points: 50_000,
  dimensions: 2000,
  makers: 2000,
  layers: 200,
  parameters: 1000,
  variants: 200,
  /** Of a body, and edges or faces that one of them names. */
  features: 200,
  edges: 2000,
  /** Of one path, in a row or round a centre. */
  copies: 500,
  /** Of one proposal's key, and of proposals that were left. */
  key: 2000,
  passedOver: 5000,
  nameLength: 200,
  /** Side of a picture, px, and its pixels: above that its colours alone would fill half a gigabyte of memory. */
  sidePx: 60_000,
  pixels: 120e6,
} as const;

/** What is done along a path. */
export const ROLES = ['cut', 'mark', 'fold', 'drill', 'reference', 'centre-line'] as const;

/** Version of the document's form; each older one has one pure upgrade step (`job/upgrade.ts`). */
export const DOCUMENT_VERSION = 21;
