import { deletePath, type JobDocument, removePiece } from '@steady-moth/core/job';
import { type Finding, MOST_FINDINGS } from '@steady-moth/core/proof';
import { findingSentence } from '@steady-moth/core/say';
import { walkOf } from '@steady-moth/core/sketch';
import { hitSegment, type Setting, smoothed } from '@steady-moth/core/tracing';
import { fixed } from '@steady-moth/core/units';
import { Act } from '../../../kit';
import { Fold } from '../../../kit/Fold';
import type { DrawnPath } from '../../../part/useDrawn';
import { useJob } from '../../../session/jobStore';
import { newId } from '../../../session/newId';
import { showPlace } from '../../../session/showPlace';
import { useFindings } from '../../../session/useFindings';

/** So many are listed; of more the first ones, and how many there are. */
const LISTED = 30;

/** What a cutter would stumble over in the paths that are cut, each with the way there. */
export function WorthALook({
  job: { part, unit },
  drawn,
  setting,
}: {
  job: JobDocument;
  drawn: readonly DrawnPath[];
  setting: Setting | null;
}) {
  const { findings, isLarge, lookThrough } = useFindings(part, drawn);
  if (isLarge)
    return (
      <p className="border-line border-t py-2 pl-9">
        <Act onClick={lookThrough}>Look it through</Act> for open ends and crossings.
      </p>
    );
  if (!findings) return null;
  const nameOf = (id: string) => drawn.find((d) => d.path.id === id)?.path.name ?? 'a path';
  const count = findings.length >= MOST_FINDINGS ? `${MOST_FINDINGS} or more` : String(findings.length);
  return (
    <Fold
      name="worth a look"
      title="Worth a look"
      state={findings.length ? <span className="text-amber">{count}</span> : 'nothing'}
      isUsed={false}
    >
      {findings.length === 0 ? (
        <p className="pb-2 pl-9 text-[12.5px] text-ink2">
          No open ends, no crossings, nothing drawn twice, no stray bits and no kinks in what is cut.
        </p>
      ) : (
        <ol aria-label="Worth a look" className="flex flex-col gap-1 pb-2 pl-9 text-[12.5px]">
          {findings.slice(0, LISTED).map((finding, k) => (
            <li
              key={`${finding.kind} ${finding.path} ${finding.at.x} ${finding.at.y}`}
              className="flex items-baseline justify-between gap-3"
            >
              <span>
                <b className="font-medium">{nameOf(finding.path)}</b>{' '}
                {findingSentence(finding, finding.other && nameOf(finding.other), (mm) =>
                  unit === 'in' ? `${fixed(mm / 25.4, 3)} in` : `${fixed(mm, 2)} mm`,
                )}
              </span>
              <span className="flex gap-3 whitespace-nowrap">
                {(finding.kind === 'drawn-twice' || finding.kind === 'stray') && (
                  <Act aria-label={`Take finding ${k + 1} out`} onClick={() => takeOut(finding, drawn)}>
                    Take it out
                  </Act>
                )}
                {finding.kind === 'kink' && setting && (
                  <Act aria-label={`Smooth finding ${k + 1}`} onClick={() => smoothOut(finding, setting)}>
                    Smooth it
                  </Act>
                )}
                <Act aria-label={`Show finding ${k + 1}`} onClick={() => showPlace(finding.path, finding.at)}>
                  Show me
                </Act>
              </span>
            </li>
          ))}
          {findings.length > LISTED && <li className="text-ink2">and {findings.length - LISTED} more.</li>}
        </ol>
      )}
    </Fold>
  );
}

/** Takes the piece out that lies on another, or is a stray bit: of one drawn over another path the one drawn later. */
function takeOut({ path, other, at }: Finding, drawn: readonly DrawnPath[]): void {
  const own = drawn.filter((d) => d.path.id === (other ?? path));
  const found = hitSegment({ paths: own }, at, TWICE_MM);
  if (found?.kind === 'piece') useJob.getState().apply(removePiece(found.path, found.curve, newId()));
  if (found?.kind === 'circle') useJob.getState().apply(deletePath(found.path));
}

/** A piece that was found lies so near to where it was found, mm. */
const TWICE_MM = 0.05;

/** Makes the path go on smoothly where a kink was found. */
function smoothOut({ path, at }: Finding, setting: Setting): void {
  const own = setting.drawn.paths.find((d) => d.path.id === path);
  const points = own ? (walkOf(own.sketch, own.path)?.points ?? []) : [];
  const away = (id: string) => {
    const place = setting.drawn.placeOf(id);
    return place ? Math.hypot(place.x - at.x, place.y - at.y) : Number.POSITIVE_INFINITY;
  };
  const point = points.reduce<string | null>((best, id) => (best && away(best) <= away(id) ? best : id), null);
  const action = own && point && away(point) < TWICE_MM ? smoothed(own, point, 'as it comes', setting) : null;
  if (action) useJob.getState().apply(action);
  else useJob.setState({ notice: 'Only curves can turn: make one of both pieces a curve first.' });
}
