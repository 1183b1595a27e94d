import DxfParser, {
  type IArcEntity,
  type ICircleEntity,
  type IDxf,
  type IEllipseEntity,
  type IEntity,
  type IInsertEntity,
  type ILineEntity,
  type ILwpolylineEntity,
  type IPolylineEntity,
  type ISplineEntity,
} from 'dxf-parser';
import { applyToPoint, compose, type Matrix, rotate, scale, translate } from 'transformation-matrix';
import type { Form, Segment, Vec2 } from '../../geometry';
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
const UNIT_MM: Record<number, number> = { 1: 25.4, 2: 304.8, 4: 1, 5: 10, 6: 1000, 8: 2.54e-5, 9: 0.0254, 14: 100 };
/** Blocks within blocks, and all that they come to. */
const MOST_NESTED = 16;

/** Parts that carry outlines; texts are told, and all else. */
const TEXTS = new Set(['TEXT', 'MTEXT', 'ATTDEF', 'ATTRIB', 'DIMENSION']);

/**
 * Reads outlines out of a DXF document in text form. Loose lines and arcs that meet are joined.
 * Out: forms in mm, y up, with their layers; blocks are put where they are inserted. References to other files are
 * never followed.
 */
export function readDxf(text: string): OutlineResult {
  if (text.includes('\u0000')) return { ok: false, reason: 'not-text' };
  let document: IDxf | null;
  try {
    document = new DxfParser().parseSync(text);
  } catch {
    return { ok: false, reason: 'not-readable' };
  }
  if (!document || !Array.isArray(document.entities)) return { ok: false, reason: 'not-readable' };
  const code = document.header?.$INSUNITS;
  const unit = typeof code === 'number' ? (UNIT_MM[code] ?? null) : null;
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
  document: IDxf,
  entities: readonly IEntity[],
  matrix: Matrix,
  layerOfBlock: string | null,
  within: readonly string[],
  found: OutlineCollector,
  budget: { left: number },
): void {
  for (const entity of entities) {
    budget.left -= 1;
    if (budget.left < 0) throw new OutlineError('endless-inserts');
    if (entity.inPaperSpace || entity.visible === false) continue;
    // What lies on layer 0 of a block comes to lie on the layer that the block is inserted on.
    const layer = entity.layer === '0' && layerOfBlock ? layerOfBlock : tidyLayer(entity.layer);
    if (document.tables?.layer?.layers?.[entity.layer]?.frozen) continue;
    if (entity.type === 'INSERT') {
      placeBlock(document, entity as IInsertEntity, matrix, layer, within, found, budget);
      continue;
    }
    const form = formOf(entity, matrix);
    if (form) found.add(form, layer, roleOfLayer(layer));
    else found.leftOut.add(TEXTS.has(entity.type) ? 'text' : entity.type === 'IMAGE' ? 'picture' : 'other');
  }
}

function placeBlock(
  document: IDxf,
  insert: IInsertEntity,
  matrix: Matrix,
  layer: string | null,
  within: readonly string[],
  found: OutlineCollector,
  budget: { left: number },
): void {
  const block = Object.hasOwn(document.blocks ?? {}, insert.name) ? document.blocks[insert.name] : null;
  if (!block || block.xrefPath || !block.entities) {
    found.leftOut.add('reference');
    return;
  }
  if (within.includes(insert.name) || within.length >= MOST_NESTED) throw new OutlineError('endless-inserts');
  const [columns, rows] = [Math.max(1, insert.columnCount || 1), Math.max(1, insert.rowCount || 1)];
  if (columns * rows > budget.left) throw new OutlineError('endless-inserts');
  const base = block.position ?? { x: 0, y: 0 };
  for (let column = 0; column < columns; column++)
    for (let row = 0; row < rows; row++) {
      const own = compose(
        matrix,
        translate(insert.position.x, insert.position.y),
        rotate(((insert.rotation ?? 0) * Math.PI) / 180),
        translate(column * (insert.columnSpacing ?? 0), row * (insert.rowSpacing ?? 0)),
        scale(insert.xScale || 1, insert.yScale || 1),
        translate(-base.x, -base.y),
      );
      place(document, block.entities, own, layer, [...within, insert.name], found, budget);
    }
}

function formOf(entity: IEntity, outer: Matrix): Form | null {
  switch (entity.type) {
    case 'LINE': {
      const [a, b] = (entity as ILineEntity).vertices.map((p) => applyToPoint(outer, { x: p.x, y: p.y }));
      return a && b ? { kind: 'chain', segments: [{ kind: 'line', from: a, to: b }], closed: false } : null;
    }
    case 'CIRCLE': {
      const { center, radius } = entity as ICircleEntity;
      return round(center, { x: radius, y: 0 }, 1, 0, 2 * Math.PI, facing(entity, outer));
    }
    case 'ARC': {
      const { center, radius, startAngle, endAngle } = entity as IArcEntity;
      return round(center, { x: radius, y: 0 }, 1, startAngle, turnTo(startAngle, endAngle), facing(entity, outer));
    }
    case 'ELLIPSE': {
      const { center, majorAxisEndPoint, axisRatio, startAngle, endAngle } = entity as IEllipseEntity;
      return round(center, majorAxisEndPoint, axisRatio, startAngle, turnTo(startAngle, endAngle), outer);
    }
    case 'LWPOLYLINE': {
      const { vertices, shape } = entity as ILwpolylineEntity;
      return bulged(vertices, shape, facing(entity, outer));
    }
    case 'POLYLINE': {
      const { vertices, shape, isPolyfaceMesh, is3dPolygonMesh } = entity as IPolylineEntity;
      if (isPolyfaceMesh || is3dPolygonMesh) return null;
      return bulged(vertices, shape, facing(entity, outer));
    }
    case 'SPLINE':
      return splined(entity as ISplineEntity, outer);
    default:
      return null;
  }
}

/** Things drawn facing down are mirrored: their own x runs the other way. */
function facing(entity: IEntity, matrix: Matrix): Matrix {
  const e = entity as Partial<IArcEntity> & Partial<IPolylineEntity>;
  const z = e.extrusionDirectionZ ?? e.extrusionDirection?.z ?? 1;
  return z < 0 ? compose(matrix, scale(-1, 1)) : matrix;
}

const turnTo = (start: number, end: number): number => {
  const turn = (end - start) % (2 * Math.PI);
  return turn <= 1e-9 ? turn + 2 * Math.PI : turn;
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
    Math.abs(u.x * v.x + u.y * v.y) <= 1e-6 * size ** 2 && Math.abs(Math.hypot(v.x, v.y) - size) <= 1e-6 * size;
  const whole = Math.abs(sweep - 2 * Math.PI) < 1e-9;
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
  if (whole) (segments.at(-1) as Segment).to = segments[0].from;
  return { kind: 'chain', segments, closed: whole };
}

/** A polyline; a bulge is the tangent of a quarter of the angle that an arc sweeps. */
function bulged(vertices: readonly (Vec2 & { bulge?: number })[], closed: boolean, matrix: Matrix): Form | null {
  if (!vertices || vertices.length < 2) return null;
  const places = vertices.map((p) => applyToPoint(matrix, { x: p.x, y: p.y }));
  const segments: Segment[] = [];
  for (let k = 0; k < (closed ? vertices.length : vertices.length - 1); k++) {
    const next = (k + 1) % vertices.length;
    const [from, to] = [places[k], places[next]];
    const bulge = vertices[k].bulge ?? 0;
    if (Math.hypot(from.x - to.x, from.y - to.y) < 1e-9) continue;
    if (Math.abs(bulge) < 1e-9) segments.push({ kind: 'line', from, to });
    else {
      const [p, q] = [vertices[k], vertices[next]];
      // The arc's middle lies off the chord's by half the chord times the bulge, to the right of it.
      const via = applyToPoint(matrix, {
        x: (p.x + q.x) / 2 + (bulge * (q.y - p.y)) / 2,
        y: (p.y + q.y) / 2 - (bulge * (q.x - p.x)) / 2,
      });
      segments.push({ kind: 'arc', from, via, to });
    }
  }
  if (segments.length === 0) return null;
  if (closed) segments[segments.length - 1].to = segments[0].from;
  return { kind: 'chain', segments, closed: closed && segments.length > 1 };
}

function splined(entity: ISplineEntity, matrix: Matrix): Form | null {
  const map = (p: Vec2): Vec2 => applyToPoint(matrix, { x: p.x, y: p.y });
  const { controlPoints = [], fitPoints = [], knotValues = [], degreeOfSplineCurve, rational } = entity;
  const curves = rational
    ? null
    : splineCurves({ degree: degreeOfSplineCurve, knots: knotValues, controls: controlPoints.map(map) });
  if (curves) {
    const segments = curves.map((curve): Segment => ({ kind: 'curve', ...curve }));
    const [first, last] = [segments[0].from, (segments.at(-1) as Segment).to];
    const closed = segments.length > 1 && Math.hypot(first.x - last.x, first.y - last.y) < 1e-6;
    if (closed) (segments.at(-1) as Segment).to = first;
    return { kind: 'chain', segments, closed };
  }
  // Without a form that is read exactly, the points that it is known to pass through.
  const places = fitPoints.map(map);
  if (places.length < 2) return null;
  return {
    kind: 'chain',
    segments: places.slice(1).map((to, k) => ({ kind: 'line', from: places[k], to })),
    closed: false,
  };
}
