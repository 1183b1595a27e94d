import type { GroundOfRim } from '../edge';
import { type Circle, flattenForm, isInside } from '../geometry';
import type { EvaluatedPath } from '../sketch';
import { boxOfPath, isClosed } from './setting';

/** Polylines this near to a form tell what lies within it, mm. */
const FLAT_MM = 0.05;

/** Closed paths with whether each bounds material from within: one that lies in an odd number of the others. */
export function islandsOf(all: readonly EvaluatedPath[]): Map<string, boolean> {
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

/**
 * On which side of a circle's rim the ground lies, by the closed paths that run round all of it: within one it is a hole
 * in the material; on its own, or within two, where it may be a step of a hole or a thing in it, it may be either. A path
 * hardly wider than the circle is the same rim, drawn before.
 */
export function groundOf({ centre, radius }: Circle, all: readonly EvaluatedPath[]): GroundOfRim {
  const rim = [0, 1, 2, 3].map((quarter) => ({
    x: centre.x + radius * Math.cos((quarter * Math.PI) / 2),
    y: centre.y + radius * Math.sin((quarter * Math.PI) / 2),
  }));
  const around = all.filter((path) => {
    const box = boxOfPath(path);
    if (!path.form || !isClosed(path) || !box) return false;
    if (rim.some((p) => p.x < box.left || p.x > box.right || p.y < box.bottom || p.y > box.top)) return false;
    if (box.right - box.left < SAME_RIM * 2 * radius) return false;
    const polygon = flattenForm(path.form, FLAT_MM);
    return rim.every((p) => isInside(polygon, p));
  });
  return around.length === 1 ? 'inside' : null;
}

const SAME_RIM = 1.3;
