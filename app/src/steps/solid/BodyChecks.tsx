import { dropBodyCheck, type JobDocument, setBodyFactor } from '@steady-moth/core/job';
import { type BodyCheck, lengthOf } from '@steady-moth/core/sketch';
import type { BodySize, SizeAsked } from '@steady-moth/core/solid/kernel';
import { fixed, type LengthUnit, writeLength } from '@steady-moth/core/units';
import { useQueries } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { solids } from '../../compute';
import { Act } from '../../kit';
import type { Planned } from '../../part/useBody';
import { WORKED_OUT } from '../../session/group';
import { useJob } from '../../session/jobStore';
import { useSizePlusMinus } from './sizes';
import type { Tag } from './view/BodyView';

/** A reading with what the body says; the size is null until it is known, or where its faces are gone. */
export interface Checked {
  check: BodyCheck;
  size: BodySize | null;
  isKnown: boolean;
}

/** All readings held against the body. */
export function useChecks(job: JobDocument, { plan, key }: Planned, enabled: boolean): Checked[] {
  const { bodyChecks } = job.part;
  return useQueries({
    queries: bodyChecks.map((check) => {
      const asked: SizeAsked = { of: 'faces', faces: check.faces };
      return {
        queryKey: ['body-size', key, asked],
        queryFn: ({ signal }: { signal: AbortSignal }) => solids.call((w) => w.size(plan.steps, asked), signal),
        enabled,
        ...WORKED_OUT,
      };
    }),
    combine: (found) =>
      bodyChecks.map((check, k) => ({ check, size: found[k]?.data ?? null, isKnown: found[k]?.isSuccess ?? false })),
  });
}

/** What hangs on the body at a reading. */
export function tagOf({ check, size }: Checked, unit: LengthUnit): Tag[] {
  const reading = lengthOf(check.reading);
  if (!size?.between || reading === null || size.kind === 'angle') return [];
  const off = size.value - reading;
  const text = `caliper ${check.reading.text} · body ${signed(off, unit)}`;
  return [{ id: check.id, text, at: size.between[1] }];
}

const signed = (mm: number, unit: LengthUnit): string =>
  `${mm < 0 ? '−' : '+'}${unit === 'in' ? fixed(Math.abs(mm) / 25.4, 4) : fixed(Math.abs(mm), 3)}`;

type Verdict = 'fits' | 'off' | 'untold';

/** The readings, each with its deviation and what would explain it. */
export function CheckLines({ job, checks }: { job: JobDocument; checks: readonly Checked[] }) {
  const [verdicts, setVerdicts] = useState<Record<string, { verdict: Verdict; ratio: number }>>({});
  const known = checks.flatMap(({ check }) => verdicts[check.id] ?? []);
  const off = known.filter((v) => v.verdict === 'off');
  const factor = off.length > 0 ? factorOf(known.map((v) => v.ratio)) : null;
  const apply = useJob((s) => s.apply);
  return (
    <section aria-label="Spot checks on the body" className="border-line border-t py-2.5">
      <h2 className="flex justify-between font-medium">
        Spot checks
        <span className="figure font-normal">{checks.length}</span>
      </h2>
      {checks.length === 0 ? (
        <p className="mt-0.5 text-[12.5px] text-ink2">
          Take out Spot check, press the faces that the caliper touched, and type its reading.
        </p>
      ) : (
        <ul className="mt-1 flex flex-col gap-1">
          {checks.map((checked) => (
            <CheckLine
              key={checked.check.id}
              job={job}
              checked={checked}
              onVerdict={(verdict, ratio) =>
                setVerdicts((all) =>
                  all[checked.check.id]?.verdict === verdict && all[checked.check.id]?.ratio === ratio
                    ? all
                    : { ...all, [checked.check.id]: { verdict, ratio } },
                )
              }
            />
          ))}
        </ul>
      )}
      {off.length > 0 && (
        <p className="mt-1 text-[12.5px] text-amber">
          {factor === null
            ? 'They do not stray by one factor: look at the edges that these faces were traced along, and at what was decided in Size.'
            : `All of them are ${fixed(Math.abs(factor - 1) * 100, 2)} % ${factor > 1 ? 'larger' : 'smaller'} than the body: its scale is off. Look at the yardsticks and heights in True before anything else.`}{' '}
          {factor !== null && (
            <Act onClick={() => apply(setBodyFactor({ factor, why: reason(checks.length) }))}>
              As a last resort, hand it over × {fixed(factor, 4)}
            </Act>
          )}
        </p>
      )}
      {job.part.bodyFactor && (
        <p className="mt-1 text-[12.5px] text-ink2">
          Handed over × <span className="figure">{fixed(job.part.bodyFactor.factor, 4)}</span>:{' '}
          {job.part.bodyFactor.why}. <Act onClick={() => apply(setBodyFactor(null))}>As it is</Act>
        </p>
      )}
    </section>
  );
}

/** The one factor that would explain readings that do not fit; null where there is none, or none that is believable. */
function factorOf(ratios: readonly number[]): number | null {
  const mean = ratios.reduce((sum, r) => sum + r, 0) / ratios.length;
  const spread = Math.max(...ratios.map((r) => Math.abs(r - mean)));
  return ratios.length > 1 && spread < 0.3 * Math.abs(mean - 1) && mean > 0.9 && mean < 1.1 ? mean : null;
}

const reason = (count: number): string => `${count} caliper readings, ${new Date().toISOString().slice(0, 10)}`;

function CheckLine({
  job,
  checked: { check, size, isKnown },
  onVerdict,
}: {
  job: JobDocument;
  checked: Checked;
  onVerdict(verdict: Verdict, ratio: number): void;
}) {
  const apply = useJob((s) => s.apply);
  const plusMinus = useSizePlusMinus(job, check.faces);
  const reading = lengthOf(check.reading);
  const { unit } = job;
  const off = size && reading !== null && size.kind !== 'angle' ? size.value - reading : null;
  const verdict: Verdict =
    off === null || plusMinus === null ? 'untold' : Math.abs(off) <= Math.max(plusMinus, READ_MM) ? 'fits' : 'off';
  const ratio = off === null || !reading ? 1 : reading / (reading + off);
  // biome-ignore lint/correctness/useExhaustiveDependencies: told once for each change of what is said
  useEffect(() => onVerdict(verdict, ratio), [verdict, ratio]);
  return (
    <li className="flex items-baseline gap-2 text-[13px]">
      <span className="figure">{check.reading.text}</span>
      <span className={`min-w-0 grow ${{ fits: 'text-verdigris', off: 'text-brick', untold: 'text-ink2' }[verdict]}`}>
        {off === null
          ? isKnown
            ? 'the faces that it was taken at are gone'
            : 'measuring …'
          : `${signed(off, unit)} ${
              plusMinus === null
                ? '(the ± of this size is not known)'
                : `${verdict === 'fits' ? 'fits' : 'does not fit'} ± ${writeLength(Math.abs(off), Math.max(plusMinus, READ_MM), unit).plusMinus}`
            }`}
      </span>
      <Act aria-label={`Take the check ${check.reading.text} away`} onClick={() => apply(dropBodyCheck(check.id))}>
        <X size={14} />
      </Act>
    </li>
  );
}

/** A hand-held caliper is read no better than this, mm (ISO 13385-1, error of indication up to 150 mm). */
const READ_MM = 0.02;
