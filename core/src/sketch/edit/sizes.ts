import { decidedDiameter, decidedDistance } from '../expression';
import type { Dimension, Expression, Id, Sketch } from '../part';

/** Keeps where a size is written and why it was decided, when only its figure changes. */
function put(sketch: Sketch, own: Pick<Dimension, 'id' | 'kind' | 'refs'>, value: Expression): void {
  const before = Object.hasOwn(sketch.dimensions, own.id) ? sketch.dimensions[own.id] : undefined;
  const why = before?.origin.kind === 'decided' ? before.origin.why : '';
  const origin = { kind: 'decided', value, why } as const;
  sketch.dimensions[own.id] = { ...own, along: 'straight', label: before?.label ?? null, origin };
}

/** Decides how far two points lie apart; what was decided of them before is replaced. */
export function decideDistance(sketch: Sketch, id: Id, [a, b]: readonly [Id, Id], value: Expression): void {
  if (!sketch.points[a] || !sketch.points[b] || a === b) return;
  const own = decidedDistance(sketch, a, b)?.id ?? id;
  const ref = (point: Id) => ({ sketch: sketch.id, id: point });
  put(sketch, { id: own, kind: 'distance', refs: [ref(a), ref(b)] }, value);
}

/** Decides how wide a circle is. */
export function decideDiameter(sketch: Sketch, id: Id, curve: Id, value: Expression): void {
  if (sketch.curves[curve]?.kind !== 'circle') return;
  const own = decidedDiameter(sketch, curve)?.id ?? id;
  const refs = [{ sketch: sketch.id, id: curve }];
  put(sketch, { id: own, kind: 'diameter', refs }, value);
}

/** Lets a size be measured again; a circle of which no rim was picked has no other, and keeps it. */
export function freeSize(sketch: Sketch, id: Id): void {
  const dimension = sketch.dimensions[id];
  const curve = dimension?.kind === 'diameter' ? sketch.curves[dimension.refs[0]!.id] : undefined;
  if (curve && curve.evidence.length === 0) return;
  delete sketch.dimensions[id];
}
