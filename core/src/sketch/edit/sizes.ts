import { decidedDiameter, decidedDistance } from '../expression';
import type { Expression, Id, Sketch } from '../part';

/** Decides how far two points lie apart; what was decided of them before is replaced. */
export function decideDistance(sketch: Sketch, id: Id, [a, b]: readonly [Id, Id], value: Expression): void {
  if (!sketch.points[a] || !sketch.points[b] || a === b) return;
  const own = decidedDistance(sketch, a, b)?.id ?? id;
  const ref = (point: Id) => ({ sketch: sketch.id, id: point });
  sketch.dimensions[own] = { id: own, kind: 'distance', refs: [ref(a), ref(b)], origin: 'decided', value };
}

/** Decides how wide a circle is. */
export function decideDiameter(sketch: Sketch, id: Id, curve: Id, value: Expression): void {
  if (sketch.curves[curve]?.kind !== 'circle') return;
  const own = decidedDiameter(sketch, curve)?.id ?? id;
  const refs = [{ sketch: sketch.id, id: curve }];
  sketch.dimensions[own] = { id: own, kind: 'diameter', refs, origin: 'decided', value };
}

/** Lets a size be measured again; a circle of which no rim was picked has no other, and keeps it. */
export function freeSize(sketch: Sketch, id: Id): void {
  const dimension = sketch.dimensions[id];
  const curve = dimension?.kind === 'diameter' ? sketch.curves[dimension.refs[0]!.id] : undefined;
  if (curve && curve.evidence.length === 0) return;
  delete sketch.dimensions[id];
}
