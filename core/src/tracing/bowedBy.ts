import type { JobDocument } from '../job';
import { type Bend, type Id, observationOf, type PictureMap, picksOfCurve, pxPerUnit, sketchesOf } from '../sketch';
import type { Traced } from './setting';

/** A bow that was set by hand, px. */
const SIGMA_PX = 0.5;

/**
 * How a line or an arc is bowed by a step to the left of the way that it runs (1) or to the right (-1): its middle goes
 * aside, and it becomes an arc through it. `mapOf` has the map of each picture. Null where nothing can be bowed.
 */
export function bowedBy(
  curveId: Id,
  way: 1 | -1,
  step: { unit: 'px' | 'mm'; size: number },
  {
    job,
    drawn,
    mapOf,
    newId,
  }: { job: JobDocument; drawn: Pick<Traced, 'placeOf'>; mapOf(picture: Id): PictureMap | null; newId(): Id },
): Bend | null {
  const curve = sketchesOf(job.part)
    .map((s) => s.curves[curveId])
    .find((c) => c !== undefined);
  if (!curve || curve.kind === 'circle' || curve.kind === 'cubic') return null;
  const [from, to] = [drawn.placeOf(curve.from), drawn.placeOf(curve.to)];
  const seen = observationOf(job.part, curve.from);
  const mapper = seen && mapOf(seen.picture);
  if (!from || !to || !mapper || !seen) return null;
  const [via] = picksOfCurve(curve);
  const middle = (via === undefined ? null : drawn.placeOf(via)) ?? { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 };
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  if (!(length > 0)) return null;
  const by = (way * step.size) / (step.unit === 'px' ? pxPerUnit(mapper, middle) : 1);
  const at = mapper.toPicture({
    x: middle.x - (by * (to.y - from.y)) / length,
    y: middle.y + (by * (to.x - from.x)) / length,
  });
  if (!at) return null;
  const { picture, plane } = seen;
  const pick = { picture, plane, ...at, sigmaPx: SIGMA_PX, snappedTo: 'free' as const, neighbouringEdge: null };
  return { kind: 'arc', via: { id: newId(), at: pick } };
}
