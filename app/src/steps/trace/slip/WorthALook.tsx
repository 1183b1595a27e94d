import { flawFindings } from '@steady-moth/core/findings';
import type { JobDocument } from '@steady-moth/core/job';
import { MOST_FLAWS } from '@steady-moth/core/proof';
import type { Setting } from '@steady-moth/core/tracing';
import { Act } from '../../../kit';
import { Fold } from '../../../kit/Fold';
import { RepairAct } from '../../../part/RepairAct';
import { ShowInTrace } from '../../../part/ShowInTrace';
import type { DrawnPath } from '../../../part/useDrawn';
import { useFlaws } from '../../../session/useFlaws';

/** So many are listed; of more the first ones, and how many there are. */
const LISTED = 30;

/** What a cutter would stumble over in the paths that are cut, each with the way there. */
export function WorthALook({
  job,
  drawn,
  setting,
}: {
  job: JobDocument;
  drawn: readonly DrawnPath[];
  setting: Setting | null;
}) {
  const { flaws, isLarge, lookThrough } = useFlaws(job.part, drawn);
  if (isLarge)
    return (
      <p className="border-line border-t py-2 pl-9">
        <Act onClick={lookThrough}>Look it through</Act> for open ends and crossings.
      </p>
    );
  if (!flaws) return null;
  const listed = flawFindings(flaws.slice(0, LISTED), job, setting);
  const count = flaws.length >= MOST_FLAWS ? `${MOST_FLAWS} or more` : String(flaws.length);
  return (
    <Fold
      name="worth a look"
      title="Worth a look"
      state={flaws.length ? <span className="text-amber">{count}</span> : 'nothing'}
      isUsed={false}
    >
      {flaws.length === 0 ? (
        <p className="pb-2 pl-9 text-[12.5px] text-ink2">
          No open ends, no crossings, nothing drawn twice, no stray bits and no kinks in what is cut.
        </p>
      ) : (
        <ol aria-label="Worth a look" className="flex flex-col gap-1 pb-2 pl-9 text-[12.5px]">
          {listed.map((finding, k) => (
            <li key={finding.key} className="flex items-baseline justify-between gap-3">
              <span>
                <b className="font-medium">{finding.subject}</b> {finding.says}
              </span>
              <span className="flex gap-3 whitespace-nowrap">
                {finding.repairs.map((repair) => (
                  <RepairAct
                    key={repair.press?.name}
                    repair={repair}
                    label={`${repair.press?.name}: finding ${k + 1}`}
                  />
                ))}
                <ShowInTrace finding={finding} label={`Show finding ${k + 1}`} />
              </span>
            </li>
          ))}
          {flaws.length > LISTED && <li className="text-ink2">and {flaws.length - LISTED} more.</li>}
        </ol>
      )}
    </Fold>
  );
}
