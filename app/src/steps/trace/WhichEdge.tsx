import { type EdgeSide, edgeFollowed, type JobDocument, type Run } from '@steady-moth/core/job';
import { fixed } from '@steady-moth/core/units';
import { Act } from '../../kit';
import { useBench } from '../../session/benchStore';
import type { PlacePoint } from './useForms';

const SIDES: Record<EdgeSide, { this: string; other: string }> = {
  inner: { this: 'the inner one', other: 'the outer one' },
  outer: { this: 'the outer one', other: 'the inner one' },
  left: { this: 'the left one, as it was drawn', other: 'the right one' },
  right: { this: 'the right one, as it was drawn', other: 'the left one' },
};

/** Which of two edges close together a run follows, and the points that lie on the other. */
export function WhichEdge({
  run,
  job,
  isTrue,
  placePoint,
}: {
  run: Run;
  job: JobDocument;
  isTrue: boolean;
  placePoint: PlacePoint;
}) {
  const select = useBench((s) => s.select);
  const { points } = job.part;
  const followed = edgeFollowed(run, points);
  if (!followed) return null;
  const apart = followed.held.flatMap((id) => {
    const { beside, ...point } = points[id];
    const [here, there] = [placePoint(points[id]), beside && placePoint({ ...point, ...beside, beside: null })];
    return here && there ? [Math.hypot(here.x - there.x, here.y - there.y)] : [];
  });
  const mean = apart.reduce((a, b) => a + b, 0) / Math.max(1, apart.length);
  const roughly = (mm: number) => (job.unit === 'in' ? `${fixed(mm / 25.4, 2)} in` : `${fixed(mm, 1)} mm`);
  const side = SIDES[followed.side];
  const seen = followed.held.length + followed.strays.length;
  return (
    <div className="mt-2 text-ink2">
      Where two edges run {isTrue && apart.length > 0 ? `about ${roughly(mean)} apart` : 'close together'} it follows{' '}
      {side.this}, seen at {seen} of {run.points.length} points.
      {followed.strays.map((id) => (
        <p key={id} className="mt-1 rounded border-amber border-l-3 bg-amberpaper px-2 py-1 text-ink">
          Point {run.points.indexOf(id) + 1} lies on {side.other}.{' '}
          {run.kind === 'chain' && <Act onClick={() => select({ kind: 'point', run: run.id, point: id })}>Show it</Act>}
        </p>
      ))}
    </div>
  );
}
