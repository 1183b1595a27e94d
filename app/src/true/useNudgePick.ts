import type { Picture } from '@steady-moth/core/job';
import { useEffect } from 'react';
import { type BoardFace, boardMapper } from '../board/boardMap';
import { nudged } from '../board/nudge';
import { isTyping } from '../board/useViewControls';
import { useBench } from '../store/benchStore';
import { useJob } from '../store/jobStore';
import { moveHeld, picksOf } from './picks';

/** Arrow keys move the chosen pick by the readout's step. */
export function useNudgePick(picture: Picture, face: BoardFace): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const { selection, step } = useBench.getState();
      if (selection?.kind !== 'pick' || isTyping(event.target) || event.ctrlKey || event.metaKey) return;
      const found = picksOf(picture).find((p) => p.id === selection.id && p.end === selection.end);
      const place = found && nudged(boardMapper(face), found.pick, step, event.key);
      if (!found || !place) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      useJob.getState().apply(moveHeld(picture, found.id, found.end, { ...place, sigmaPx: found.pick.sigmaPx }));
    };
    window.addEventListener('keydown', onKey, { capture: true });
    return () => window.removeEventListener('keydown', onKey, { capture: true });
  }, [picture, face]);
}
