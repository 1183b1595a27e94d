import type { Figure } from '@steady-moth/core/calibration';
import { type JobDocument, type Picture, setPathPlane } from '@steady-moth/core/job';
import { observationIn, observedOf, type Path, planeOfPath, type Sketch, setPlane } from '@steady-moth/core/sketch';
import type { LengthUnit } from '@steady-moth/core/units';
import { useMemo } from 'react';
import { Act, LengthFigure } from '../../../kit';
import { useJob } from '../../../session/jobStore';
import { usePathMeasures } from '../../../session/useFigures';

/**
 * Through a hole in a thick part its lower edge is seen as well, inside the upper one; where the wall is as dark as the
 * face only the lower one shows. Which of them was traced is asked where it makes more than a quarter of the ±: a person sees it at once.
 */
export function LowerEdge({
  job,
  picture,
  sketch,
  path,
  diameter,
  unit,
}: {
  job: JobDocument;
  picture: Picture;
  sketch: Sketch;
  path: Path;
  diameter: Figure;
  unit: LengthUnit;
}) {
  const apply = useJob((s) => s.apply);
  const { face } = picture.calibration.heights;
  // Where both edges were seen, which of them it is was told by that.
  const alone = observedOf(sketch, path).every((id) => observationIn(sketch, id)?.neighbouringEdge === null);
  const asked = alone && face.heightMm > 0 && planeOfPath(sketch, path) === 'face';
  const lower = useMemo(() => (asked ? onTable(sketch, path) : null), [asked, sketch, path]);
  const { data } = usePathMeasures(job, lower, path, WHOLE);
  const other = lower && data?.diameter;
  if (!other || Math.abs(other.value - diameter.value) < ASKED_SHARE * diameter.plusMinus) return null;
  return (
    <p className="mt-2 rounded border-amber border-l-3 bg-amberpaper px-2 py-1 text-ink">
      Is this its upper edge? Where the wall of a hole is as dark as the face, only its lower edge shows: then it is Ø{' '}
      <LengthFigure mm={other.value} plusMinusMm={other.plusMinus} unit={unit} />.{' '}
      <Act onClick={() => apply(setPathPlane(path.id, 'table'))}>It is the lower one</Act>
    </p>
  );
}

const ASKED_SHARE = 0.25;

const WHOLE = { from: 0, to: 0 } as const;

/** The same, as if it had been seen on the table. */
function onTable(sketch: Sketch, path: Path): Sketch {
  const own = structuredClone(sketch);
  setPlane(own, path, 'table');
  return own;
}
