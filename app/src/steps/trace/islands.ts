import { flattenForm, isInside } from '@steady-moth/core/geometry';
import { type DrawnPath, isClosed } from './useDrawn';

/** Polylines this near to a form tell what lies within it, mm. */
const FLAT_MM = 0.05;

/** Closed paths with whether each bounds material from within: one that lies in an odd number of the others. */
export function islandsOf(all: readonly DrawnPath[]): Map<string, boolean> {
  const outlines = all.flatMap((own) =>
    own.form && isClosed(own) ? [{ id: own.path.id, polygon: flattenForm(own.form, FLAT_MM) }] : [],
  );
  return new Map(
    outlines.map(({ id, polygon }) => {
      const first = polygon[0]!;
      const around = outlines.filter((other) => other.id !== id && isInside(other.polygon, first));
      return [id, around.length % 2 === 1];
    }),
  );
}
