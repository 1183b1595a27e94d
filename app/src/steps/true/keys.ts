import { type JobDocument, leaveOutPlace, type Picture } from '@steady-moth/core/job';
import { nudged } from '../../board/nudge';
import { type BoardFrame, boardMapper } from '../../frames/boardMap';
import { useJob } from '../../session/jobStore';
import { useSession } from '../../session/sessionStore';
import { commonPicks, moveHeld, picksOf } from './picks';

/** Arrow keys move the chosen pick by the readout's step; Delete leaves a chosen place out. */
export function onTrueKey(event: KeyboardEvent, job: JobDocument, picture: Picture, frame: BoardFrame): boolean {
  const { selection, step, select } = useSession.getState();
  const { apply } = useJob.getState();
  if (selection?.kind === 'place' && (event.key === 'Delete' || event.key === 'Backspace')) {
    apply(leaveOutPlace(picture.id, selection.reference, selection.uPx, selection.vPx));
    select(null);
    return true;
  }
  if (selection?.kind !== 'pick' || event.ctrlKey || event.metaKey) return false;
  const found = [...picksOf(picture), ...commonPicks(job, picture)].find(
    (p) => p.id === selection.id && p.end === selection.end && p.span === (selection.span ?? 0),
  );
  const place = found && nudged(boardMapper(frame), found.pick, step, event.key);
  if (!found || !place) return false;
  apply(moveHeld(picture, found, { ...place, sigmaPx: found.pick.sigmaPx }));
  return true;
}
