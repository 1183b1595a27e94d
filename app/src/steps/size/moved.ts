import { picksOfCurve, pointsOfCurve } from '@steady-moth/core/sketch';
import type { SketchState } from './sketchState';

/** How far a point lies from where it was seen, mm, and in σ of how well it was seen. */
export interface Moved {
  id: string;
  xMm: number;
  yMm: number;
  awayMm: number;
  sigmas: number | null;
}

/** Of all points and picks of what is chosen, the farthest first. */
export function movedOf({ sketch, chosen, places, place }: SketchState): Moved[] {
  const curves = chosen.flatMap((id) => {
    if (Object.hasOwn(sketch.curves, id)) return [sketch.curves[id]!];
    return (Object.hasOwn(sketch.paths, id) ? sketch.paths[id]!.uses : []).map((u) => sketch.curves[u.curve]!);
  });
  const ids = new Set([
    ...chosen.filter((id) => Object.hasOwn(sketch.points, id)),
    ...curves.flatMap((c) => [...pointsOfCurve(c), ...picksOfCurve(c)]),
  ]);
  return [...ids]
    .flatMap((id): Moved[] => {
      const [seen, now] = [places.get(id), place(id)];
      if (!seen || !now) return [];
      const [xMm, yMm] = [now.x - seen.x, now.y - seen.y];
      const awayMm = Math.hypot(xMm, yMm);
      return [{ id, xMm, yMm, awayMm, sigmas: seen.sigmaMm > 0 ? awayMm / seen.sigmaMm : null }];
    })
    .sort((a, b) => b.awayMm - a.awayMm);
}
