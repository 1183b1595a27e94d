import type { JobDocument } from '@steady-moth/core/job';
import { nameIn } from '@steady-moth/core/say';
import { fixed, type LengthUnit } from '@steady-moth/core/units';
import { LengthFigure } from '../../kit';
import type { Tool } from '../../session/sessionStore';
import { FitForm } from './FitForm';
import { movedOf } from './moved';
import type { SketchState } from './sketchState';

const HINTS: Partial<Record<NonNullable<Tool>, string>> = {
  dimension:
    'Press a line, an arc or a hole, or one thing and another, then where the figure shall stand: above for a distance along X, beside for one along Y. A figure typed decides it; Enter puts it where it reads well.',
  relate: 'Press one thing after the other. Enter takes the first relation below that is possible.',
  hold: 'Press a point, a piece or a hole to hold it where it was measured; press it again to let it loose.',
  fit: 'Press the hole, the peg or the slot that something goes with.',
  drag: 'Drag a point, a piece or a hole: it goes as far as it is free, and takes along what is tied to it.',
  compare: 'What was seen lies over what it is now. Press something to read how far it was moved.',
};

/** What the tool in hand asks for, and what it tells. */
export function SizeToolLine({ job, state, tool }: { job: JobDocument; state: SketchState; tool: Tool }) {
  const hint = tool && HINTS[tool];
  if (!hint) return null;
  return (
    <section aria-label="Tool" className="border-line border-t py-2.5 text-[12.5px]">
      <p className="text-ink2">{hint}</p>
      {tool === 'fit' && <FitForm key={state.chosen.join(' ')} job={job} state={state} />}
      {tool === 'compare' && <Moved state={state} unit={job.unit} />}
    </section>
  );
}

/** How far what is chosen lies from where it was seen. */
function Moved({ state, unit }: { state: SketchState; unit: LengthUnit }) {
  const all = movedOf(state);
  if (all.length === 0) return null;
  return (
    <ul className="mt-1.5 flex flex-col gap-1">
      {all.map(({ id, xMm, yMm, awayMm, sigmas }) => (
        <li key={id} className="flex items-baseline justify-between gap-2">
          <span>{nameIn(state.sketch, id)}</span>
          <span className="text-right">
            <LengthFigure mm={awayMm} plusMinusMm={null} unit={unit} />
            {sigmas !== null && ` (${fixed(sigmas, 1)} σ)`}
            <span className="block text-ink2">
              X <LengthFigure mm={xMm} plusMinusMm={null} unit={unit} />, Y{' '}
              <LengthFigure mm={yMm} plusMinusMm={null} unit={unit} />
            </span>
          </span>
        </li>
      ))}
    </ul>
  );
}
