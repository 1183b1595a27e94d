import {
  type Calibration,
  datumBy,
  type Figure,
  figureAt,
  type PartFrame,
  type PlacedPicks,
  type PlanePick,
  picksOfDatum,
  placePicks,
} from '../../../calibration';
import {
  askedAlone,
  askedBy,
  type Condition,
  type Constraint,
  type Curve,
  type Dimension,
  dimensionValue,
  equationsOf,
  type Id,
  isConstraint,
  isSigned,
  observationIn,
  type Placer,
  type Ref,
  type Sketch,
  seenOf,
  unknownsAlone,
} from '../../../sketch';
import { onPlane, planeUnder } from '../../calibrationInput';
import type { CalibrationRecord } from '../../document/document';
import { clustersAlong, holdTogether, type Measured, seenAlong } from './holdTogether';

/** A size as it is settled, and as it was seen: with all relations kept, but nothing that was decided. mm or rad. */
export interface SizeMeasures {
  settled: Figure;
  seen: Figure;
}

/** Measures what hangs on a few points and curves of a sketch, through its calibration, with the ±. */
export interface SketchMeasure {
  /**
   * A figure of places; null where something of it has no place. `byFrame`: it depends on where zero is, or on the
   * direction of X, whose own scatter then counts.
   */
  figure(refs: readonly Ref[], value: (place: Placer) => number, byFrame: boolean): Figure | null;
}

/**
 * Places everything that is asked for once. `decided`: with the sizes that were decided; without them only relations
 * hold. Null where something has no place.
 */
export function sketchMeasure(
  sketch: Sketch,
  calibration: Calibration,
  said: CalibrationRecord,
  refs: readonly Ref[],
  decided: boolean,
  frame: PartFrame | null,
): SketchMeasure | null {
  // A sketch of its own: what was worked out of the other is kept by it.
  const own: Sketch = decided ? sketch : { ...sketch, curves: { ...sketch.curves }, dimensions: {} };
  const { points, curves } = askedBy(own, { refs } as Dimension);
  const alone = askedAlone(own, refs);
  const asked: Measured = {
    points: [...new Set([...points, ...alone.points])],
    curves: [...new Set<Curve>([...curves, ...alone.shapes.map((id) => own.curves[id]!)])],
  };
  const clusters = clustersAlong(own, asked);
  const ids = seenAlong(own, asked, clusters);
  const picks: PlanePick[] = ids.map((id) => {
    const at = observationIn(own, id)!;
    return { ...onPlane(at, planeUnder(at.plane, said)), picture: at.picture };
  });
  const datumAt = picks.length;
  if (frame) picks.push(...picksOfDatum(frame));
  const placed = datumAt > 0 ? placePicks(calibration, picks, frame) : null;
  if (!placed) return null;
  // What holds things level, or at places from zero, holds them so wherever these lie.
  const isTiedToFrame = clusters.some((c) => c.conditions.some(isByFrame));
  const held: PlacedPicks = holdTogether({ sketch: own, ids, clusters }, asked, placed);
  const index = new Map(ids.map((id, k) => [id, k]));
  return {
    figure(of, value, byFrame) {
      const at = seenOf(own, askedAlone(own, of)).flatMap((id) => index.get(id) ?? []);
      const unique = [...new Set(at)];
      const slot = new Map(unique.map((k, j) => [ids[k]!, j]));
      const datum = frame && byFrame && !isTiedToFrame ? frame.datum : null;
      const behind = datum ? Array.from({ length: picks.length - datumAt }, (_, k) => datumAt + k) : [];
      return figureAt(held, [...unique, ...behind], (p) => {
        const { x, y, turn } = datum ? datumBy(datum, p, 2 * unique.length) : AS_SEEN;
        const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
        const found = value((id) => {
          const j = slot.get(id);
          if (j === undefined) return null;
          const [dx, dy] = [p[2 * j]! - x, p[2 * j + 1]! - y];
          return { x: cos * dx + sin * dy, y: cos * dy - sin * dx };
        });
        // A form that falls apart in a scattered draw counts as endlessly far.
        return Number.isFinite(found) ? found : Number.POSITIVE_INFINITY;
      });
    },
  };
}

const AS_SEEN = { x: 0, y: 0, turn: 0 };

/** What a condition says depends on where zero is, or on the direction of X. */
export const isByFrame = (c: Condition): boolean =>
  isConstraint(c)
    ? c.kind === 'level' || c.kind === 'plumb'
    : isSigned(c) || c.along !== 'straight' || c.kind === 'width' || c.kind === 'height';

/**
 * All sizes of a sketch with their ±, by their names; those that have no place are left out. `frame`: how the part lies in
 * the calibration's world; null where it lies as that does.
 */
export function measureSizes(
  sketch: Sketch,
  dimensions: readonly Dimension[],
  calibration: Calibration,
  said: CalibrationRecord,
  frame: PartFrame | null,
): Record<Id, SizeMeasures> {
  const refs = dimensions.flatMap((d) => d.refs);
  const [settled, seen] = [true, false].map((decided) =>
    sketchMeasure(sketch, calibration, said, refs, decided, frame),
  );
  const told: Record<Id, SizeMeasures> = {};
  if (!settled || !seen) return told;
  for (const d of dimensions) {
    const value = (place: Placer) => dimensionValue(sketch, d, place) ?? Number.POSITIVE_INFINITY;
    const [one, other] = [settled, seen].map((measure) => measure.figure(d.refs, value, isByFrame(d)));
    if (one && other && Number.isFinite(one.value)) told[d.id] = { settled: one, seen: other };
  }
  return told;
}

/** How far a relation is from holding where things were seen, equation by equation, mm with their ±; null where it is none. */
export function missOf(sketch: Sketch, relation: Constraint, measure: SketchMeasure): Figure[] | null {
  const alone = askedAlone(sketch, relation.refs);
  const count = { of: 0 };
  const missAt = (k: number) => (place: Placer) => {
    const unknowns = unknownsAlone(sketch, alone, place);
    const made = unknowns && equationsOf(sketch, unknowns, relation);
    if (!made?.ok) return Number.POSITIVE_INFINITY;
    count.of = made.equations.length;
    return made.equations[k]?.value(unknowns!.start, null, 1) ?? Number.POSITIVE_INFINITY;
  };
  const first = measure.figure(relation.refs, missAt(0), isByFrame(relation));
  if (!first || !Number.isFinite(first.value)) return null;
  const all = [first];
  for (let k = 1; k < count.of; k++) {
    const next = measure.figure(relation.refs, missAt(k), isByFrame(relation));
    if (next) all.push(next);
  }
  return all;
}
