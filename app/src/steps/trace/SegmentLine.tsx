import type { Figure } from '@steady-moth/core/calibration';
import { type ChainRun, type SegmentMeasures, straighten } from '@steady-moth/core/job';
import type { LengthUnit } from '@steady-moth/core/units';
import { writeFigure } from '@steady-moth/core/units';
import { Act, LengthFigure } from '../../kit';
import { useBench } from '../../session/benchStore';
import { useJob } from '../../session/jobStore';

/** One segment with its figures; the corner before it above. */
export function SegmentLine({
  run,
  index,
  unit,
  measures,
  corner,
  chosen,
}: {
  run: ChainRun;
  index: number;
  unit: LengthUnit;
  measures: SegmentMeasures | null;
  corner: Figure | null;
  chosen: boolean;
}) {
  const select = useBench((s) => s.select);
  const apply = useJob((s) => s.apply);
  const { kind } = run.segments[index];
  return (
    <li className={`py-1 ${chosen ? 'text-rust' : ''}`}>
      <div className="flex items-baseline justify-between gap-2">
        <button
          type="button"
          className="cursor-pointer text-left"
          aria-pressed={chosen}
          onClick={() =>
            select(chosen ? { kind: 'run', run: run.id } : { kind: 'segment', run: run.id, segment: index })
          }
        >
          {kind} {index + 1}
        </button>
        {measures && <LengthFigure mm={measures.length.value} plusMinusMm={measures.length.plusMinus} unit={unit} />}
      </div>
      {measures?.radius && Number.isFinite(measures.radius.value) && (
        <div className="flex justify-between gap-2">
          <span>radius, over {measures.angle && <AngleFigure figure={measures.angle} />}</span>
          <span className="figure">
            R <LengthFigure mm={measures.radius.value} plusMinusMm={measures.radius.plusMinus} unit={unit} />
          </span>
        </div>
      )}
      {chosen && corner && (
        <div className="flex justify-between gap-2">
          <span>corner before it</span>
          <AngleFigure figure={corner} />
        </div>
      )}
      {chosen && kind !== 'line' && <Act onClick={() => apply(straighten(run.id, index))}>Straighten it</Act>}
    </li>
  );
}

function AngleFigure({ figure }: { figure: Figure }) {
  const per = 180 / Math.PI;
  const { value, plusMinus } = writeFigure(figure.value * per, figure.plusMinus * per, 3);
  return (
    <span className="figure">
      {value}° <span className="text-verdigris">± {plusMinus}</span>
    </span>
  );
}
