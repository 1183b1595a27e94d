import { applyToPoint, compose, type Matrix, rotate, scale, translate } from 'transformation-matrix';
import type { Form, Segment, Vec2 } from '../../geometry';
import { NO_LENGTH_MM, NO_SHARE, NO_TURN_RAD, ONE_PLACE_MM, ROUND_SHARE } from '../../geometry';
import { type DxfDocument, type DxfEntity, numberOf, numbersOf, readDxfDocument, textOf } from './dxfRecords';
import { joinForms } from './joinForms';
import {
  ellipseCurves,
  OUTLINES,
  OutlineCollector,
  OutlineError,
  type OutlineResult,
  roleOfLayer,
  tidyLayer,
} from './outlines';
import { splineCurves } from './splineCurves';

/** Millimetres of the units of `$INSUNITS` (DXF reference, header section). */
const UNIT_MM = new Map([
  [1, 25.4],
  [2, 304.8],
  [4, 1],
  [5, 10],
  [6, 1000],
  [8, 2.54e-5],
  [9, 0.0254],
  [14, 100],
]);
/** Blocks within blocks, and all that they come to. */
const MOST_NESTED = 16;

/** Parts that carry outlines; texts are told, and all else. */
const TEXTS = new Set(['TEXT', 'MTEXT', 'ATTDEF', 'ATTRIB', 'DIMENSION']);
/** Ends of what came before; nothing of its own. */
const ENDS = new Set(['SEQEND', 'VERTEX']);

/**
 * Reads outlines out of a DXF document in text form. Loose lines and arcs that meet are joined.
 * Out: forms in mm, y up, with their layers; blocks are put where they are inserted. References to other files are
 * never followed.
 */
export function readDxf(text: string): OutlineResult {
  if (text.includes('\u0000')) return { ok: false, reason: 'not-text' };
  const document = readDxfDocument(text);
  if (!document) return { ok: false, reason: 'not-readable' };
  const unit = document.unitCode === null ? null : (UNIT_MM.get(document.unitCode) ?? null);
  const found = new OutlineCollector();
  try {
    place(document, document.entities, scale(unit ?? 1), null, [], found, { left: OUTLINES.mostElements });
  } catch (error) {
    return { ok: false, reason: error instanceof OutlineError ? error.reason : 'not-readable' };
  }
  const joined = new OutlineCollector();
  for (const { form, layer, role } of joinForms(found.forms)) joined.add(form, layer, role);
  for (const what of found.leftOut) joined.leftOut.add(what);
  return joined.result(unit === null);
}

function place(
  document: DxfDocument,
  entities: readonly DxfEntity[],
  matrix: Matrix,
  layerOfBlock: string | null,
  within: readonly string[],
  found: OutlineCollector,
  budget: { left: number },
): void {
  for (const entity of entities) {
    budget.left -= 1;
    if (budget.left < 0) throw new OutlineError('endless-inserts');
    const named = textOf(entity, 8) ?? '0';
    // Paper space, and what was made invisible.
    if (numberOf(entity, 67) === 1 || numberOf(entity, 60) === 1) continue;
    if (ENDS.has(entity.type) || document.frozen.has(named)) continue;
    // What lies on layer 0 of a block comes to lie on the layer that the block is inserted on.
    const layer = named === '0' && layerOfBlock ? layerOfBlock : tidyLayer(named);
    if (entity.type === 'INSERT') {
      placeBlock(document, entity, matrix, layer, within, found, budget);
      continue;
    }
    const form = formOf(entity, matrix);
    if (form) found.add(form, layer, roleOfLayer(layer));
    else found.leftOut.add(TEXTS.has(entity.type) ? 'text' : entity.type === 'IMAGE' ? 'picture' : 'other');
  }
}

function placeBlock(
  document: DxfDocument,
  insert: DxfEntity,
  matrix: Matrix,
  layer: string | null,
  within: readonly string[],
  found: OutlineCollector,
  budget: { left: number },
): void {
  const name = textOf(insert, 2) ?? '';
  const block = document.blocks.get(name);
  if (!block || block.isReference) {
    found.leftOut.add('reference');
    return;
  }
  if (within.includes(name) || within.length >= MOST_NESTED) throw new OutlineError('endless-inserts');
  const n = (code: number, otherwise: number) => numberOf(insert, code) ?? otherwise;
  const [columns, rows] = [Math.max(1, Math.trunc(n(70, 1))), Math.max(1, Math.trunc(n(71, 1)))];
  if (columns * rows > budget.left) throw new OutlineError('endless-inserts');
  budget.left -= columns * rows;
  for (let column = 0; column < columns; column++)
    for (let row = 0; row < rows; row++) {
      const own = compose(
        matrix,
        translate(n(10, 0), n(20, 0)),
        rotate((n(50, 0) * Math.PI) / 180),
        translate(column * n(44, 0), row * n(45, 0)),
        scale(n(41, 1) || 1, n(42, 1) || 1),
        translate(-block.x, -block.y),
      );
      place(document, block.entities, own, layer, [...within, name], found, budget);
    }
}

const RAD = Math.PI / 180;

/** The form of an entity, null for what is no outline, and for one whose numbers are missing or none. */
function formOf(entity: DxfEntity, outer: Matrix): Form | null {
  const n = (code: number) => numberOf(entity, code) ?? Number.NaN;
  const at = (x: number, y: number): Vec2 => ({ x: n(x), y: n(y) });
  switch (entity.type) {
    case 'LINE': {
      const [from, to] = [at(10, 20), at(11, 21)].map((p) => applyToPoint(outer, p)) as [
        PointObjectNotation,
        PointObjectNotation,
      ];
      return { kind: 'chain', segments: [{ kind: 'line', from, to }], closed: false };
    }
    case 'CIRCLE':
      return round(at(10, 20), { x: n(40), y: 0 }, 1, 0, 2 * Math.PI, facing(entity, outer));
    case 'ARC': {
      const [start, end] = [n(50) * RAD, n(51) * RAD];
      return round(at(10, 20), { x: n(40), y: 0 }, 1, start, turnTo(start, end), facing(entity, outer));
    }
    case 'ELLIPSE': {
      const [start, end] = [numberOf(entity, 41) ?? 0, numberOf(entity, 42) ?? 2 * Math.PI];
      return round(at(10, 20), at(11, 21), n(40), start, turnTo(start, end), outer);
    }
    case 'LWPOLYLINE':
      return bulged(lightVertices(entity), ((numberOf(entity, 70) ?? 0) & CLOSED) !== 0, facing(entity, outer));
    case 'POLYLINE': {
      const flags = numberOf(entity, 70) ?? 0;
      if ((flags & MESH) !== 0) return null;
      return bulged(heavyVertices(entity), (flags & CLOSED) !== 0, facing(entity, outer));
    }
    case 'SPLINE':
      return splined(entity, outer);
    default:
      return null;
  }
}

type Vertex = Vec2 & { bulge: number };

/** Flags of a polyline, group 70: closed; a mesh of many sides or of faces. */
const CLOSED = 1;
const MESH = 16 | 64;
/** Flag of a vertex, group 70: it only steers a spline that others follow. */
const CONTROL_VERTEX = 16;

/** Vertices stand one after the other in the entity's own groups: each begins with its x. */
function lightVertices({ groups }: DxfEntity): Vertex[] {
  const vertices: Vertex[] = [];
  for (const { code, value } of groups) {
    const last = vertices.at(-1);
    if (code === 10) vertices.push({ x: Number(value), y: Number.NaN, bulge: 0 });
    else if (code === 20 && last) last.y = Number(value);
    else if (code === 42 && last) last.bulge = Number(value);
  }
  return vertices;
}

const heavyVertices = ({ parts }: DxfEntity): Vertex[] =>
  parts
    .filter((v) => ((numberOf(v, 70) ?? 0) & CONTROL_VERTEX) === 0)
    .map((v) => ({
      x: numberOf(v, 10) ?? Number.NaN,
      y: numberOf(v, 20) ?? Number.NaN,
      bulge: numberOf(v, 42) ?? 0,
    }));

/** Things drawn facing down are mirrored: their own x runs the other way. */
function facing(entity: DxfEntity, matrix: Matrix): Matrix {
  return (numberOf(entity, 230) ?? 1) < 0 ? compose(matrix, scale(-1, 1)) : matrix;
}

const turnTo = (start: number, end: number): number => {
  const turn = (end - start) % (2 * Math.PI);
  return turn <= NO_TURN_RAD ? turn + 2 * Math.PI : turn;
};

/** A circle, an ellipse or a part of one; angles are parameters, rad. */
function round(centre: Vec2, major: Vec2, ratio: number, start: number, sweep: number, matrix: Matrix): Form | null {
  const { a, b, c, d } = matrix;
  const linear = (p: Vec2): Vec2 => ({ x: a * p.x + c * p.y, y: b * p.x + d * p.y });
  const middle = applyToPoint(matrix, { x: centre.x, y: centre.y });
  const u = linear(major);
  const v = linear({ x: -major.y * ratio, y: major.x * ratio });
  const size = Math.hypot(u.x, u.y);
  if (!(size > 0) || !Number.isFinite(start + sweep)) return null;
  const isRound =
    Math.abs(u.x * v.x + u.y * v.y) <= ROUND_SHARE * size ** 2 &&
    Math.abs(Math.hypot(v.x, v.y) - size) <= ROUND_SHARE * size;
  const whole = Math.abs(sweep - 2 * Math.PI) < NO_TURN_RAD;
  if (isRound && whole) return { kind: 'circle', centre: middle, radius: size };
  if (isRound) {
    const at = (angle: number): Vec2 => ({
      x: middle.x + Math.cos(angle) * u.x + Math.sin(angle) * v.x,
      y: middle.y + Math.cos(angle) * u.y + Math.sin(angle) * v.y,
    });
    const arc: Segment = { kind: 'arc', from: at(start), via: at(start + sweep / 2), to: at(start + sweep) };
    return { kind: 'chain', segments: [arc], closed: false };
  }
  const segments = ellipseCurves(middle, u, v, start, sweep).map((curve): Segment => ({ kind: 'curve', ...curve }));
  if (whole) (segments.at(-1) as Segment).to = segments[0]!.from;
  return { kind: 'chain', segments, closed: whole };
}

/** A polyline; a bulge is the tangent of a quarter of the angle that an arc sweeps. */
function bulged(vertices: readonly Vertex[], closed: boolean, matrix: Matrix): Form | null {
  if (vertices.length < 2) return null;
  const places = vertices.map((p) => applyToPoint(matrix, { x: p.x, y: p.y }));
  const segments: Segment[] = [];
  for (let k = 0; k < (closed ? vertices.length : vertices.length - 1); k++) {
    const next = (k + 1) % vertices.length;
    const [from, to] = [places[k]!, places[next]!];
    const { bulge } = vertices[k]!;
    if (Math.hypot(from.x - to.x, from.y - to.y) < NO_LENGTH_MM) continue;
    if (Math.abs(bulge) < NO_SHARE) segments.push({ kind: 'line', from, to });
    else {
      const [p, q] = [vertices[k]!, vertices[next]!];
      // The arc's middle lies off the chord's by half the chord times the bulge, to the right of it.
      const via = applyToPoint(matrix, {
        x: (p.x + q.x) / 2 + (bulge * (q.y - p.y)) / 2,
        y: (p.y + q.y) / 2 - (bulge * (q.x - p.x)) / 2,
      });
      segments.push({ kind: 'arc', from, via, to });
    }
  }
  if (segments.length === 0) return null;
  if (closed) segments[segments.length - 1]!.to = segments[0]!.from;
  return { kind: 'chain', segments, closed: closed && segments.length > 1 };
}

function splined(entity: DxfEntity, matrix: Matrix): Form | null {
  const placesOf = (x: number, y: number): Vec2[] => {
    const ys = numbersOf(entity, y);
    return numbersOf(entity, x).map((value, k) => applyToPoint(matrix, { x: value, y: ys[k] ?? Number.NaN }));
  };
  const rational = ((numberOf(entity, 70) ?? 0) & RATIONAL) !== 0;
  const [degree, knots] = [numberOf(entity, 71) ?? 3, numbersOf(entity, 40)];
  const curves = rational ? null : splineCurves({ degree, knots, controls: placesOf(10, 20) });
  if (curves) {
    const segments = curves.map((curve): Segment => ({ kind: 'curve', ...curve }));
    const [first, last] = [segments[0]!.from, (segments.at(-1) as Segment).to];
    const closed = segments.length > 1 && Math.hypot(first.x - last.x, first.y - last.y) < ONE_PLACE_MM;
    if (closed) (segments.at(-1) as Segment).to = first;
    return { kind: 'chain', segments, closed };
  }
  // Without a form that is read exactly, the points that it is known to pass through.
  const places = placesOf(11, 21);
  if (places.length < 2) return null;
  return {
    kind: 'chain',
    segments: places.slice(1).map((to, k) => ({ kind: 'line', from: places[k]!, to })),
    closed: false,
  };
}

/** Flag of a spline, group 70: its controls have weights. */
const RATIONAL = 4;
