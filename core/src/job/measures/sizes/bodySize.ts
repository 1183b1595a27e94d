import type { Calibration, Figure, PartFrame, TurnedAxis } from '../../../calibration';
import { nearestOn, pointAt, type Segment, type Vec2 } from '../../../geometry';
import {
  type Dimension,
  type FaceName,
  type Feature,
  findPath,
  type Id,
  type Part,
  type Sketch,
} from '../../../sketch';
import type { CalibrationRecord } from '../../document/document';
import { measureOnTurned } from '../measure';
import { measureSizes } from './measureSizes';

/**
 * Where a size between faces of a body comes from: from what was typed alone; from pieces of a sketch; or, of a turned part, from
 * pieces of its half profile, across its axis or along it.
 */
export type SizeSource =
  | { kind: 'typed' }
  | { kind: 'sketch'; sketch: Id; dimension: Dimension; times: number }
  | { kind: 'turned'; sketch: Id; path: Id; curves: Id[] };

/** What the size across one face, or between two, comes from; null where nothing tells. */
export function sourceOfSize(part: Part, faces: readonly FaceName[]): SizeSource | null {
  const [a, b] = faces;
  if (!a) return null;
  const [one, other] = [featureOf(part, a), b ? featureOf(part, b) : null];
  if (!one || (b && !other)) return null;
  const isEnd = (f: FaceName) => f.of === 'start' || f.of === 'end';
  if (b && isEnd(a) && isEnd(b) && one.kind === 'extrude' && other?.kind === 'extrude') return { kind: 'typed' };
  if (!b && a.of === 'side' && one.kind === 'holes' && one.diameter) return { kind: 'typed' };
  const named = faces.map((f) => pieceOf(part, f));
  const [p, q] = named;
  if (!p || named.some((n) => n === null)) return null;
  if (one.kind === 'revolve') {
    if (b && (other !== one || q?.path !== p.path)) return null;
    if (one.axis === null)
      return { kind: 'turned', sketch: p.sketch.id, path: p.path, curves: named.map((n) => n!.curve) };
    const line = findPath(part, one.axis)?.path.uses[0]?.curve;
    if (line === undefined || b) return null;
    return sketchSource(p.sketch, 'distance', [p.curve, line], 2);
  }
  const kind = p.sketch.curves[p.curve]?.kind;
  if (!b) return kind === 'circle' || kind === 'arc' ? sketchSource(p.sketch, 'diameter', [p.curve], 1) : null;
  return q?.sketch === p.sketch ? sketchSource(p.sketch, 'distance', [p.curve, q.curve], 1) : null;
}

const featureOf = ({ features }: Part, face: FaceName): Feature | null =>
  features.find((f) => f.id === face.feature) ?? null;

/** The curve that a face came from; of a drilled hole the circle that it lies at. */
function pieceOf(part: Part, { path, curve }: FaceName): { sketch: Sketch; path: Id; curve: Id } | null {
  const own = path === null ? undefined : findPath(part, path);
  if (!own) return null;
  const use = own.path.uses.length === 1 ? own.path.uses[0]!.curve : null;
  const name = curve ?? (use !== null && own.sketch.curves[use]?.kind === 'circle' ? use : null);
  return name === null ? null : { sketch: own.sketch, path: own.path.id, curve: name };
}

function sketchSource(sketch: Sketch, kind: 'distance' | 'diameter', curves: Id[], times: number): SizeSource {
  const refs = curves.map((id) => ({ sketch: sketch.id, id }));
  const dimension: Dimension = { id: PROBE, kind, refs, along: 'straight', label: null, origin: { kind: 'measured' } };
  return { kind: 'sketch', sketch: sketch.id, dimension, times };
}

const PROBE = 'body-size-probe';

/** A size with its ±, by where it comes from; null where it is not measured so. */
export function measureBodySize(
  part: Part,
  source: SizeSource,
  calibration: Calibration,
  said: CalibrationRecord,
  frame: PartFrame | null,
): Figure | null {
  if (source.kind === 'typed') return null;
  const sketch = part.sketches[source.sketch];
  if (!sketch) return null;
  if (source.kind === 'sketch') {
    const asked = { ...sketch, dimensions: { ...sketch.dimensions, [PROBE]: source.dimension } };
    const found = measureSizes(asked, [source.dimension], calibration, said, frame)[PROBE]?.settled;
    return found ? { value: source.times * found.value, plusMinus: source.times * found.plusMinus } : null;
  }
  const path = sketch.paths[source.path];
  if (!path) return null;
  const at = source.curves.map((id) => path.uses.findIndex((u) => u.curve === id));
  if (at.some((k) => k < 0)) return null;
  return measureOnTurned(sketch, path, calibration, said, (segments, axis) => {
    const [a, b] = at.map((k) => segments[k]!);
    if (!b) return 2 * radiusAt(middleOf(a!), axis);
    return nearestOn(b, middleOf(a!)).distance;
  });
}

const middleOf = (segment: Segment): Vec2 => pointAt(segment, 0.5);

/** How far a place is from the axis. */
const radiusAt = (p: Vec2, { x, y, dx, dy }: TurnedAxis): number =>
  Math.abs(dx * (p.y - y) - dy * (p.x - x)) / Math.hypot(dx, dy);
