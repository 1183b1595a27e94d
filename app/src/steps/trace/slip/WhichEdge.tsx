import {
  type EdgeSide,
  edgeFollowed,
  observationIn,
  observedOf,
  type Path,
  type Sketch,
  walkOf,
} from '@steady-moth/core/sketch';
import { fixed, type LengthUnit } from '@steady-moth/core/units';
import { Act } from '../../../kit';
import type { Drawn } from '../../../part/useDrawn';
import { useSession } from '../../../session/sessionStore';

const SIDES: Record<EdgeSide, { this: string; other: string }> = {
  inner: { this: 'the inner one', other: 'the outer one' },
  outer: { this: 'the outer one', other: 'the inner one' },
  left: { this: 'the left one, as it was drawn', other: 'the right one' },
  right: { this: 'the right one, as it was drawn', other: 'the left one' },
};

/** Which of two edges close together a path follows, and the points that lie on the other. */
export function WhichEdge({
  sketch,
  path,
  unit,
  isTrue,
  placeSeen,
}: {
  sketch: Sketch;
  path: Path;
  unit: LengthUnit;
  isTrue: boolean;
  placeSeen: Drawn['placeSeen'];
}) {
  const select = useSession((s) => s.select);
  const followed = edgeFollowed(sketch, path);
  if (!followed) return null;
  const apart = followed.held.flatMap((id) => {
    const at = observationIn(sketch, id);
    const other = at?.neighbouringEdge;
    const [here, there] = [at && placeSeen(at), at && other && placeSeen({ ...at, ...other })];
    return here && there ? [Math.hypot(here.x - there.x, here.y - there.y)] : [];
  });
  const mean = apart.reduce((a, b) => a + b, 0) / Math.max(1, apart.length);
  const roughly = (mm: number) => (unit === 'in' ? `${fixed(mm / 25.4, 2)} in` : `${fixed(mm, 1)} mm`);
  const side = SIDES[followed.side];
  const seen = followed.held.length + followed.strays.length;
  const round = sketch.curves[path.uses[0]!.curve]?.kind === 'circle';
  const points = round ? observedOf(sketch, path) : (walkOf(sketch, path)?.points ?? []);
  return (
    <div className="mt-2 text-ink2">
      Where two edges run {isTrue && apart.length > 0 ? `about ${roughly(mean)} apart` : 'close together'} it follows{' '}
      {side.this}, seen at {seen} of {points.length} points.
      {followed.strays.map((id) => (
        <p key={id} className="mt-1 rounded border-amber border-l-3 bg-amberpaper px-2 py-1 text-ink">
          Point {points.indexOf(id) + 1} lies on {side.other}.{' '}
          {!round && <Act onClick={() => select({ kind: 'point', path: path.id, point: id })}>Show it</Act>}
        </p>
      ))}
    </div>
  );
}
