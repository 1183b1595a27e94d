import type { Figure } from '@steady-moth/core/calibration';
import { bend, freeSize, type PieceMeasures, removePiece, setWorn } from '@steady-moth/core/job';
import type { PieceDeviation } from '@steady-moth/core/proof';
import type { Curve, Path } from '@steady-moth/core/sketch';
import type { LengthUnit } from '@steady-moth/core/units';
import { writeFigure } from '@steady-moth/core/units';
import { Act, LengthFigure } from '../../../kit';
import { useJob } from '../../../session/jobStore';
import { newId } from '../../../session/newId';
import { useSession } from '../../../session/sessionStore';

import { DeviationWords } from './Against';

/** One piece with its figures; the corner before it above. */
export function PieceLine({
  path,
  curve,
  index,
  unit,
  measures,
  deviation,
  worn,
  corner,
  chosen,
}: {
  path: Path;
  curve: Curve;
  index: number;
  unit: LengthUnit;
  measures: PieceMeasures | null;
  deviation: PieceDeviation | null;
  /** The thing is worn along it. */
  worn: boolean;
  corner: Figure | null;
  chosen: boolean;
}) {
  const select = useSession((s) => s.select);
  const apply = useJob((s) => s.apply);
  const take = useSession((s) => s.take);
  const kind = curve.kind === 'cubic' ? 'curve' : curve.kind;
  const decided = measures?.decided ?? null;
  return (
    <li className={`py-1 ${chosen ? 'text-rust' : ''}`}>
      <div className="flex items-baseline justify-between gap-2">
        <button
          type="button"
          className="cursor-pointer text-left"
          aria-pressed={chosen}
          onClick={() =>
            select(chosen ? { kind: 'path', path: path.id } : { kind: 'piece', path: path.id, curve: curve.id })
          }
        >
          {kind} {index + 1}
          {worn && ', worn'}
        </button>
        {measures && (
          <span>
            <LengthFigure
              mm={measures.length.value}
              plusMinusMm={decided ? null : measures.length.plusMinus}
              unit={unit}
            />
            {decided && <span className="ml-1.5">typed</span>}
          </span>
        )}
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
      {chosen && kind !== 'line' && <Act onClick={() => apply(bend(curve.id, { kind: 'line' }))}>Straighten it</Act>}
      {chosen && (
        <Act className="mr-4" onClick={() => apply(removePiece(path.id, curve.id, newId()))}>
          Take it out
        </Act>
      )}
      {deviation && (
        <div className="text-verdigris">
          <DeviationWords of={deviation} unit={unit} />
        </div>
      )}
      {chosen && (
        <Act className="mr-4" onClick={() => apply(setWorn(path.id, curve.id, !worn))}>
          {worn ? 'Not worn after all' : 'Worn: not to be trusted'}
        </Act>
      )}
      {chosen && !worn && curve.kind !== 'circle' && (
        <Act className="mr-4" onClick={() => take('worn')}>
          Only a stretch of it
        </Act>
      )}
      {chosen && decided && <Act onClick={() => apply(freeSize(path.id, decided))}>Measure it again</Act>}
      {chosen && kind === 'line' && !decided && measures && (
        <div className="text-ink2">Type a figure to say how long it is.</div>
      )}
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
