import {
  addConstraints,
  addDimensions,
  type JobAction,
  type JobDocument,
  lookAgain,
  type Proposal,
  passOver,
} from '@steady-moth/core/job';
import { nameIn, RELATION_WORDS } from '@steady-moth/core/say';
import { useMemo } from 'react';
import { Act, LengthFigure } from '../../kit';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { useProposals } from '../../session/useFigures';
import type { SketchState } from './sketchState';

/** What a proposal does when it is taken. */
function actionOf(sketch: string, all: readonly Proposal[]): JobAction {
  const constraints = all.flatMap((p) => (p.kind === 'relation' ? [{ ...p.constraint, id: newId() }] : []));
  const dimensions = all.flatMap((p) =>
    p.kind === 'size'
      ? [
          {
            ...p.dimension,
            id: newId(),
            origin: {
              kind: 'decided',
              value: { text: p.madeTo.text, unit: p.madeTo.unit },
              why: p.madeTo.what,
            } as const,
          },
        ]
      : [],
  );
  return constraints.length > 0 ? addConstraints(sketch, constraints) : addDimensions(sketch, dimensions);
}

/** So many of a kind are shown one by one. */
const MOST_SHOWN = 12;

/** What the form seems to mean, with the figures: each taken or left by one key, or all of a kind. Nothing comes unasked. */
export function ProposalLines({ job, state: { sketch } }: { job: JobDocument; state: SketchState }) {
  const apply = useJob((s) => s.apply);
  const left = useMemo(() => new Set(job.part.passedOver), [job.part.passedOver]);
  const leave = (keys: readonly string[]) => apply(passOver(keys));
  const { data } = useProposals(job, sketch);
  const all = (data ?? []).filter(
    (p) => !left.has(p.key) && p.ids.every((id) => sketch.curves[id] ?? sketch.points[id]),
  );
  const leftHere = (data ?? []).filter((p) => left.has(p.key)).length;
  const kindOf = (p: Proposal) => (p.kind === 'size' ? 'size' : p.constraint.kind);
  const kinds = [...new Set(all.map(kindOf))];
  if (all.length + leftHere === 0) return null;
  return (
    <section aria-label="Proposals" className="border-line border-t py-2.5">
      <div className="flex items-baseline justify-between">
        <h2 className="font-medium">Proposals</h2>
        <span className="figure">{all.length}</span>
      </div>
      {kinds.map((kind) => {
        const own = all.filter((p) => kindOf(p) === kind);
        return (
          <div key={kind} className="mt-1.5">
            {own.length > 1 && kind !== 'size' && (
              <p className="text-[12.5px] text-ink2">
                {RELATION_WORDS[kind]}, {own.length} of them:{' '}
                <Act onClick={() => apply(actionOf(sketch.id, own))}>Take them all</Act> ·{' '}
                <Act onClick={() => leave(own.map((p) => p.key))}>Leave them all</Act>
              </p>
            )}
            <ul className="flex flex-col gap-1">
              {own.slice(0, MOST_SHOWN).map((p) => (
                <li key={p.key} className="text-[13px]">
                  <Sentence job={job} proposal={p} name={(id) => nameIn(sketch, id)} />{' '}
                  <Act onClick={() => apply(actionOf(sketch.id, [p]))}>Take</Act> ·{' '}
                  <Act onClick={() => leave([p.key])}>Leave</Act>
                </li>
              ))}
            </ul>
            {own.length > MOST_SHOWN && (
              <p className="text-[12.5px] text-ink2">and {own.length - MOST_SHOWN} more of this kind</p>
            )}
          </div>
        );
      })}
      {leftHere > 0 && (
        <p className="mt-1.5 text-[12.5px] text-ink2">
          {leftHere === 1 ? 'One was left.' : `${leftHere} were left.`}{' '}
          <Act onClick={() => apply(lookAgain())}>Look at them again</Act>
        </p>
      )}
    </section>
  );
}

function Sentence({ job, proposal, name }: { job: JobDocument; proposal: Proposal; name(id: string): string }) {
  if (proposal.kind === 'size')
    return (
      <>
        {name(proposal.ids[0]!)}, Ø{' '}
        <LengthFigure mm={proposal.seen.value} plusMinusMm={proposal.seen.plusMinus} unit={job.unit} />: made{' '}
        <span className="figure">
          {proposal.madeTo.text} {proposal.madeTo.unit}
        </span>
        ? {proposal.madeTo.what}.
      </>
    );
  const { ids, constraint, miss } = proposal;
  return (
    <>
      {RELATION_WORDS[constraint.kind]}: {ids.map(name).join(', ')}; off by{' '}
      <LengthFigure mm={Math.abs(miss.value)} plusMinusMm={miss.plusMinus} unit={job.unit} />.
    </>
  );
}
