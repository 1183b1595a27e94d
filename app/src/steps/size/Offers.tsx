import { addConstraints, addDimensions, type JobDocument } from '@steady-moth/core/job';
import { nameIn, RELATION_WORDS, sizeWord } from '@steady-moth/core/say';
import {
  type Constraint,
  type Dimension,
  dimensionsFor,
  dimensionValue,
  isSigned,
  type Offer,
} from '@steady-moth/core/sketch';
import { fixed } from '@steady-moth/core/units';
import { useMemo } from 'react';
import { Act, degrees, LengthFigure } from '../../kit';
import { FormulaField } from '../../kit/FormulaField';
import { formulaOf } from '../../session/formulaOf';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { useOffers } from '../../session/useFigures';
import type { SketchState } from './sketchState';

const NO_OFFERS: readonly Offer[] = [];

/** What can be said of what is chosen: relations that fit, with what they would move, and its sizes. */
export function Offers({ job, state }: { job: JobDocument; state: SketchState }) {
  const apply = useJob((s) => s.apply);
  const { sketch, chosen, places, place } = state;
  const { data: offers = NO_OFFERS } = useOffers(sketch, chosen, places);
  const sizes = useMemo(() => dimensionsFor(sketch, chosen, place, 'offered'), [sketch, chosen, place]);
  if (chosen.length === 0)
    return (
      <section aria-label="Chosen" className="border-line border-t py-2.5">
        <h2 className="font-medium">Relate and size</h2>
        <p className="mt-1 text-[12.5px] text-ink2">
          Press a line, an arc, a hole or a point; Shift adds more. What fits them is offered here. A figure typed then
          decides the size of what is chosen.
        </p>
      </section>
    );
  const take = (constraint: Constraint) => apply(addConstraints(sketch.id, [{ ...constraint, id: newId() }]));
  return (
    <section aria-label="Chosen" className="border-line border-t py-2.5">
      <h2 className="font-medium">Chosen</h2>
      <p className="mt-0.5 text-[12.5px] text-ink2">{chosen.map((id) => nameIn(sketch, id)).join(', ')}</p>
      <ul className="mt-1.5 flex flex-col gap-1">
        {offers.map(({ constraint, trial }) => (
          <li key={constraint.kind} className="flex items-baseline justify-between gap-2 text-[13px]">
            <Act disabled={!trial.ok} onClick={() => take(constraint)}>
              {RELATION_WORDS[constraint.kind]}
              {constraint.count !== null && `, ${constraint.count} to a turn`}
            </Act>
            <span className="text-right text-[12.5px] text-ink2">
              {!trial.ok ? (
                'contradicts what is there'
              ) : trial.moved === 0 ? (
                'moves nothing'
              ) : (
                <>
                  moves {trial.moved} {trial.moved === 1 ? 'point' : 'points'} by at most{' '}
                  <LengthFigure mm={trial.mostMm} plusMinusMm={null} unit={job.unit} />
                </>
              )}
            </span>
          </li>
        ))}
      </ul>
      {sizes.length > 0 && (
        <ul className="mt-1.5 flex flex-col gap-1.5">
          {sizes.map((d) => (
            <SizeOffer key={`${d.kind} ${d.along} ${chosen.join(' ')}`} job={job} state={state} dimension={d} />
          ))}
        </ul>
      )}
    </section>
  );
}

/** A size that what is chosen has: shown on the board as it is measured, or decided by what is typed. */
function SizeOffer({ job, state, dimension }: { job: JobDocument; state: SketchState; dimension: Dimension }) {
  const apply = useJob((s) => s.apply);
  const { sketch, place } = state;
  const value = dimensionValue(sketch, dimension, place);
  if (value === null) return null;
  const isAngle = dimension.kind === 'angle';
  const shown = isAngle
    ? fixed((value * 180) / Math.PI, 2)
    : fixed(job.unit === 'in' ? value / 25.4 : value, job.unit === 'in' ? 4 : 3);
  const put = (origin: Dimension['origin']) => apply(addDimensions(sketch.id, [{ ...dimension, id: newId(), origin }]));
  const word = sizeWord(sketch, dimension);
  return (
    <li className="flex items-start justify-between gap-2 text-[13px]">
      <span className="pt-1">
        {word} <Act onClick={() => put({ kind: 'measured' })}>Show</Act>
        {isAngle && <span className="block text-[12.5px] text-ink2">in degrees; now {degrees(value)}</span>}
      </span>
      <FormulaField
        label={`Decide ${word}`}
        value={shown.replace('−', '-')}
        unit={job.unit}
        read={formulaOf(job.part)}
        narrow
        isPositive={!isSigned(dimension)}
        onAccept={(text) => put({ kind: 'decided', value: { text, unit: isAngle ? 'mm' : job.unit }, why: '' })}
      />
    </li>
  );
}
