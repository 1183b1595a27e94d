import type { JobDocument } from '@steady-moth/core/job';
import { NavLink } from 'react-router';
import type { StepDescription, StepState } from './description';

const TOP = 44;
const APART = 84;

/** The only way about inside a job: a plumb line with a bead for each step, its bob at the step one is in. */
export function PlumbLine({ steps, job, step }: { steps: readonly StepDescription[]; job: JobDocument; step: string }) {
  const bob = TOP + steps.findIndex((s) => s.name === step) * APART;
  return (
    <nav aria-label="Steps" className="relative w-26 shrink-0 bg-paper">
      <div aria-hidden className="absolute top-0 left-[33px] w-[1.5px] bg-ink2" style={{ height: bob - 12 }} />
      <div
        aria-hidden
        className="absolute left-[33px] border-ink3 border-l-2 border-dotted"
        style={{ top: bob + 40, height: Math.max(0, TOP + (steps.length - 1) * APART - bob) }}
      />
      <svg
        aria-hidden
        viewBox="0 0 22 70"
        className="absolute left-[23px] w-[22px] text-rust transition-[top] motion-reduce:transition-none"
        style={{ top: bob - 32 }}
        fill="currentColor"
      >
        <path d="M11 0 L17 8 L14 15 H20 V38 L11 70 L2 38 V15 H8 L5 8 Z" />
        <path d="M7 20 V40" stroke="white" strokeOpacity=".5" strokeWidth="1.4" />
      </svg>
      <ul>
        {steps.map((own, k) => (
          <li key={own.name} className="absolute left-0 w-full" style={{ top: TOP + k * APART - 14 }}>
            <StepLink step={own} job={job} isHere={own.name === step} />
          </li>
        ))}
      </ul>
    </nav>
  );
}

function StepLink({ step, job, isHere }: { step: StepDescription; job: JobDocument; isHere: boolean }) {
  // A step has one or has none, always: hooks keep their order.
  const found = step.useFound?.(job);
  const { bead, lacks } = found ?? step.stateOf(job);
  const hint = lacks || 'Good';
  return (
    <NavLink
      to={`../${step.name}`}
      relative="path"
      title={hint}
      aria-label={`${step.title}: ${hint}`}
      aria-current={isHere ? 'step' : undefined}
      className="flex h-7 items-center gap-3 pl-[26px] text-ink2 no-underline hover:text-ink aria-[current=step]:font-semibold aria-[current=step]:text-rust"
    >
      <span className={isHere ? 'invisible' : ''}>
        <Bead bead={bead} />
      </span>
      <span className="max-w-14 leading-tight">{step.title}</span>
    </NavLink>
  );
}

/** Empty, full, or chipped. */
export function Bead({ bead }: Pick<StepState, 'bead'>) {
  return (
    <svg viewBox="0 0 16 16" className="h-4 w-4" aria-hidden>
      {bead === 'empty' ? (
        <circle cx="8" cy="8" r="5" fill="var(--paper)" stroke="var(--ink2)" strokeWidth="1.5" />
      ) : (
        <circle cx="8" cy="8" r="6" fill="var(--verdigris)" />
      )}
      {bead === 'chipped' && <path d="M16 3.5 L9 8 L16 12.5 Z" fill="var(--paper)" />}
    </svg>
  );
}
