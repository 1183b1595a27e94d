import type { JobDocument } from '@steady-moth/core/job';
import { type Bend, observationOf, picksOfCurve, sketchesOf } from '@steady-moth/core/sketch';
import { type BoardFace, boardMapper, pxPerUnit } from '../../frames/boardMap';
import type { ArrowStep } from '../../session/benchStore';
import type { Drawn } from './useDrawn';

/** To the left of the way that a piece runs, or to the right. */
const WAYS: Record<string, 1 | -1> = { ArrowUp: 1, ArrowLeft: 1, ArrowDown: -1, ArrowRight: -1 };
/** A bow that was set by hand, px. */
const SIGMA_PX = 0.5;

/** How an arrow key bows a piece: its middle goes aside by the step, and it becomes an arc through it. */
export function bowedBy(
  curveId: string,
  key: string,
  step: ArrowStep,
  {
    job,
    drawn,
    faces,
    newId,
  }: { job: JobDocument; drawn: Drawn; faces: ReadonlyMap<string, BoardFace>; newId(): string },
): Bend | null {
  const way = WAYS[key];
  const curve = sketchesOf(job.part)
    .map((s) => s.curves[curveId])
    .find((c) => c !== undefined);
  if (!way || !curve || curve.kind === 'circle' || curve.kind === 'cubic') return null;
  const [from, to] = [drawn.placeOf(curve.from), drawn.placeOf(curve.to)];
  const seen = observationOf(job.part, curve.from);
  const face = seen && faces.get(seen.picture);
  if (!from || !to || !face || !seen) return null;
  const [via] = picksOfCurve(curve);
  const middle = (via === undefined ? null : drawn.placeOf(via)) ?? { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 };
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  if (!(length > 0)) return null;
  const mapper = boardMapper(face);
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
