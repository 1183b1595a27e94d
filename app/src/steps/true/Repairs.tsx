import { pictureFindings } from '@steady-moth/core/findings';
import { type Picture, setFactor } from '@steady-moth/core/job';
import type { Certainty } from '@steady-moth/core/job/calibrated';
import { fixed, type LengthUnit } from '@steady-moth/core/units';
import { Act } from '../../kit';
import { RepairAct } from '../../part/RepairAct';
import { useJob } from '../../session/jobStore';
import { useExplanations } from '../../session/useFigures';

/** What would explain all deviations of the spot checks together, each with its figure; none is applied unasked. */
export function Repairs({
  picture,
  leads,
  unit,
  certainty,
}: {
  picture: Picture;
  /** Its size is its own, and not that of a picture that it is joined with. */
  leads: boolean;
  unit: LengthUnit;
  certainty: Certainty | null;
}) {
  const { spotChecks, factor } = picture.calibration;
  const apply = useJob((s) => s.apply);
  const misfits = spotChecks.filter((s) => certainty?.spotChecks[s.id]?.fits === false).length;
  const explanations = useExplanations(picture, misfits > 0);
  const offered = explanations.data?.filter((e) => leads || e.kind !== 'factor');
  const found = certainty && offered ? pictureFindings(picture, certainty, offered, unit) : [];
  const repairs = found.find((f) => f.where.kind === 'spot-checks')?.repairs ?? [];
  return (
    <>
      {leads && factor && (
        <p className="mt-2 border-amber border-l-3 bg-amberpaper px-3 py-2 text-[12.5px]">
          All lengths are multiplied by <span className="figure">{fixed(factor.value, 5)}</span>, taken from{' '}
          {factor.checks === 1 ? 'one spot check' : `${factor.checks} spot checks`}. Nothing explains it.{' '}
          <Act onClick={() => apply(setFactor(picture.id, null))}>Take it off</Act>
        </p>
      )}
      {misfits > 0 && (
        <section aria-label="What would repair it" className="mt-3">
          <h4 className="font-semibold text-[13px]">What would explain it</h4>
          {explanations.isFetching && (
            <p className="text-[12.5px] text-ink2">Trying what would explain all of them …</p>
          )}
          {offered?.length === 0 && (
            <p className="text-[12.5px] text-ink2">
              No single thing explains all deviations. Check each reading again.
            </p>
          )}
          <ul className="text-[12.5px] text-ink2">
            {repairs.map((repair) => (
              <li key={repair.says} className="mt-1.5">
                {repair.says} <RepairAct repair={repair} />
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}
