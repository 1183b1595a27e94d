import type { Form, Vec2 } from '../geometry';
import type { Feature } from '../sketch';
import type { PlanState } from './planState';
import { boundsOfRegions, mapRegions } from './profiles';
import type { Region } from './region';
import { AXES_OF_SIDE, type Axis } from './space';

/** How far lengths of views may differ before it is told, mm. */
const SAME_LENGTH_MM = 0.05;
/** Places of a view nearer than this to its end belong to the edge that it ends with, mm: it may be drawn a little slanted. */
const END_MM = 0.3;

/** A view of another side than the first one's, laid against the body there is, and made as long as it where that holds. */
export function laidOut(feature: Extract<Feature, { kind: 'extrude' }>, regions: Region[], state: PlanState): Region[] {
  const { side } = state.input.sideOf(feature.sketch);
  const { by, length: holds } = feature.laid;
  const bounds = boundsOfRegions(regions);
  if (!state.box || !state.base || side === state.base || !bounds) return regions;
  const axes = AXES_OF_SIDE[side];
  if (by === 'drawn') {
    // It stays where it is: what its zero and its length have in common with the body is told all the same.
    for (const own of ['x', 'y'] as const) {
      const axis: Axis = axes[own];
      if (axis === 'z') continue;
      const apart = bounds.min[own] - state.box.min[axis];
      const longer = bounds.max[own] - state.box.max[axis] - apart;
      if (Math.abs(longer) > SAME_LENGTH_MM)
        state.notes.push({ feature: feature.id, kind: 'longer', along: axis, mm: longer });
      if (Math.abs(apart) > SAME_LENGTH_MM)
        state.notes.push({ feature: feature.id, kind: 'apart', along: axis, mm: apart });
    }
    return regions;
  }
  let moved = regions;
  for (const own of ['x', 'y'] as const) {
    const axis: Axis = axes[own];
    const [low, high] = [state.box.min[axis], state.box.max[axis]];
    const [min, max] = [bounds.min[own], bounds.max[own]];
    // Upwards the body is usually left taller than any view cuts it: there only the lower ends meet.
    if (axis === 'z') {
      moved = mapRegions(moved, (p) => ({ ...p, [own]: p[own] + low - min }));
      continue;
    }
    const longer = max - min - (high - low);
    if (Math.abs(longer) > SAME_LENGTH_MM)
      state.notes.push({ feature: feature.id, kind: 'longer', along: axis, mm: longer });
    if (holds === 'own') {
      const at = by === 'low' ? low - min : by === 'high' ? high - max : (low + high - min - max) / 2;
      moved = mapRegions(moved, (p) => ({ ...p, [own]: p[own] + at }));
      continue;
    }
    // Both ends are brought to the body's, the edges there by their innermost place: they cut nothing off it.
    const places = regions.flatMap((r) => placesOf(r.outer.form)).map((p) => p[own]);
    const atLow = low - Math.max(...places.filter((v) => v <= min + END_MM));
    const atHigh = high - Math.min(...places.filter((v) => v >= max - END_MM));
    const middle = (min + max) / 2;
    moved = mapRegions(moved, (p) => ({ ...p, [own]: p[own] + (p[own] > middle ? atHigh : atLow) }));
  }
  return moved;
}

/** Places that say where a form lies; of a circle those farthest along X and Y. */
const placesOf = (form: Form): Vec2[] =>
  form.kind === 'circle'
    ? [-1, 1].map((k) => ({ x: form.centre.x + k * form.radius, y: form.centre.y + k * form.radius }))
    : form.segments.map((s) => s.from);
