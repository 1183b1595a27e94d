import { type JobDocument, leaveOutPlace, type Picture } from '@steady-moth/core/job';
import { useEffect } from 'react';
import { nudged } from '../../board/nudge';
import { isTyping } from '../../board/useViewControls';
import { type BoardFace, boardMapper } from '../../frames/boardMap';
import { useBench } from '../../session/benchStore';
import { useJob } from '../../session/jobStore';
import { commonPicks, moveHeld, picksOf } from './picks';

/** Arrow keys move the chosen pick by the readout's step; Delete leaves a chosen place out. */
export function useNudgePick(job: JobDocument, picture: Picture, face: BoardFace): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const { selection, step } = useBench.getState();
      if (
        selection?.kind === 'place' &&
        !isTyping(event.target) &&
        (event.key === 'Delete' || event.key === 'Backspace')
      ) {
        event.preventDefault();
        useJob.getState().apply(leaveOutPlace(picture.id, selection.reference, selection.uPx, selection.vPx));
        useBench.getState().select(null);
        return;
      }
      if (selection?.kind !== 'pick' || isTyping(event.target) || event.ctrlKey || event.metaKey) return;
      const found = [...picksOf(picture), ...commonPicks(job, picture)].find(
        (p) => p.id === selection.id && p.end === selection.end && p.span === (selection.span ?? 0),
      );
      const place = found && nudged(boardMapper(face), found.pick, step, event.key);
      if (!found || !place) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      useJob.getState().apply(moveHeld(picture, found, { ...place, sigmaPx: found.pick.sigmaPx }));
    };
    window.addEventListener('keydown', onKey, { capture: true });
    return () => window.removeEventListener('keydown', onKey, { capture: true });
  }, [job, picture, face]);
}
