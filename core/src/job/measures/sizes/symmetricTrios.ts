import { type Curve, circleOf, type Id, type Placer, pathsIn, type Ref, type Sketch } from '../../../sketch';
import type { SketchMeasure } from './measureSizes';

/** Mirror images farther from each other than this are none, mm: whether they truly are is asked of the measurement later. */
const REACH_MM = 0.7;
/** So many of a kind are looked at. */
const MOST_LOOKED_AT = 100;

/** Lines that a sketch may be symmetric about: its centre lines. */
export const axesIn = (sketch: Sketch): Id[] =>
  pathsIn(sketch).flatMap((path) => {
    const [use] = path.uses;
    const isLine = path.role === 'centre-line' && path.uses.length === 1 && sketch.curves[use!.curve]?.kind === 'line';
    return isLine ? [use!.curve] : [];
  });

/** Pairs of circles and of lines that lie about as mirror images in a centre line, each with that line: [one, other, line]. */
export function symmetricTrios(sketch: Sketch, curves: readonly Curve[], measure: SketchMeasure): Id[][] {
  const ref = (id: Id): Ref => ({ sketch: sketch.id, id });
  const placesOf = (curve: Curve): Place[] | null => {
    const of = (pick: (place: Placer) => Place | null) => {
      const [x, y] = (['x', 'y'] as const).map(
        (k) => measure.figure([ref(curve.id)], (p) => pick(p)?.[k] ?? Number.POSITIVE_INFINITY, false)?.value,
      );
      return x !== undefined && y !== undefined && Number.isFinite(x + y) ? { x, y } : null;
    };
    const found =
      curve.kind === 'circle'
        ? [of((p) => circleOf(sketch, curve, p, true)?.centre ?? null)]
        : curve.kind === 'line'
          ? [of((p) => p(curve.from)), of((p) => p(curve.to))]
          : [];
    return found.length > 0 && found.every((p) => p !== null) ? (found as Place[]) : null;
  };
  const sides = (['circle', 'line'] as const).map((kind) =>
    curves
      .filter((c) => c.kind === kind)
      .slice(0, MOST_LOOKED_AT)
      .flatMap((c) => {
        const places = placesOf(c);
        return places ? [{ id: c.id, places }] : [];
      }),
  );
  return axesIn(sketch).flatMap((axis) => {
    const line = placesOf(sketch.curves[axis]!);
    if (!line) return [];
    return sides.flatMap((all) =>
      all.flatMap((one, k) => {
        const image = one.places.map((p) => mirrored(p, line[0]!, line[1]!));
        const others = all.slice(k + 1).map((o) => ({ id: o.id, away: awayFrom(image, o.places) }));
        const best = others.reduce<(typeof others)[number] | null>((b, o) => (b && b.away <= o.away ? b : o), null);
        return best && best.away < REACH_MM ? [[one.id, best.id, axis]] : [];
      }),
    );
  });
}

type Place = { x: number; y: number };

function mirrored(p: Place, a: Place, b: Place): Place {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const t = ((p.x - a.x) * dx + (p.y - a.y) * dy) / (dx * dx + dy * dy || 1);
  return { x: 2 * (a.x + t * dx) - p.x, y: 2 * (a.y + t * dy) - p.y };
}

/** The farthest that places lie from each other, whichever way round. */
function awayFrom(one: readonly Place[], other: readonly Place[]): number {
  const apart = (o: readonly Place[]) => Math.max(...one.map((p, k) => Math.hypot(p.x - o[k]!.x, p.y - o[k]!.y)));
  return Math.min(apart(other), apart([...other].reverse()));
}
