import { useEffect, useRef } from 'react';
import { focusBoard } from '../board/focusBoard';
import { afterPresses } from '../board/pressQueue';
import { isTextField, isTyping } from '../board/useViewControls';
import { useJob } from '../session/jobStore';
import { useSession } from '../session/sessionStore';
import type { Pocket, StepParts } from './description';
import { POCKET_KEYS } from './ToolRoll';

/** Beside the key of the free hand. */
const OTHER_EDGE_KEY = 'KeyG';
/** Next, and before. */
const NEXT_STEP_KEY = 'KeyN';
const STEP_BEFORE_KEY = 'KeyB';

/** Keys of a job: first the step’s own; then undo, redo, the pockets, free hand, laying the tool down. */
export function useKeys(
  pockets: readonly Pocket[],
  on: {
    go(by: 1 | -1): void;
    showKeys(): void;
  } & Pick<StepParts, 'giveUp' | 'onKey'>,
): void {
  const latest = useRef(on);
  latest.current = on;
  useEffect(() => {
    // Before the board and the readout: what the step has chosen is nearer to the hand than they are.
    const onFirst = (event: KeyboardEvent) => {
      if (isTyping(event.target) || !latest.current.onKey?.(event)) return;
      event.preventDefault();
      event.stopImmediatePropagation();
    };
    const onDown = (event: KeyboardEvent) => {
      if (isTextField(event.target)) return;
      if (event.ctrlKey || event.metaKey) {
        if (takeBack(event)) event.preventDefault();
      } else if (!event.altKey && !onHand(event, latest.current) && takenOut(event, pockets)) {
        focusBoard('anything');
        event.preventDefault();
      }
    };
    const onUp = (event: KeyboardEvent) => {
      if (event.code === 'KeyF') useSession.getState().setFreeHand(false);
    };
    const onBlur = () => useSession.getState().setFreeHand(false);
    window.addEventListener('keydown', onFirst, { capture: true });
    window.addEventListener('keydown', onDown);
    window.addEventListener('keyup', onUp);
    window.addEventListener('blur', onBlur);
    return () => {
      window.removeEventListener('keydown', onFirst, { capture: true });
      window.removeEventListener('keydown', onDown);
      window.removeEventListener('keyup', onUp);
      window.removeEventListener('blur', onBlur);
    };
  }, [pockets]);
}

/** Undo and redo, once what was pressed before is placed; false for any other key. */
function takeBack({ key: typed, shiftKey }: KeyboardEvent): boolean {
  const key = typed.toLowerCase();
  if (key === 'z' && !shiftKey) afterPresses(() => useJob.getState().undo());
  else if (key === 'y' || key === 'z') afterPresses(() => useJob.getState().redo());
  else return false;
  return true;
}

/** What a key does to the tool in hand and to the step; false where it does nothing of that. */
function onHand(event: KeyboardEvent, on: Parameters<typeof useKeys>[1]): boolean {
  if (event.code === 'KeyF') useSession.getState().setFreeHand(true);
  else if (event.code === OTHER_EDGE_KEY) {
    if (!event.repeat) useSession.getState().setOtherEdge(useSession.getState().otherEdge + 1);
  } else if (event.key === 'Escape') layDown(on.giveUp);
  else if (event.key === '?') on.showKeys();
  else if (event.code === NEXT_STEP_KEY || event.code === STEP_BEFORE_KEY) {
    if (!event.repeat) afterPresses(() => on.go(event.code === NEXT_STEP_KEY ? 1 : -1));
  } else return false;
  return true;
}

/** Escape: first what is asked, then the tool, then what is chosen. */
function layDown(giveUp: (() => boolean) | undefined): void {
  const { selection, tool, select, take } = useSession.getState();
  if (giveUp?.()) return;
  if (tool) afterPresses(() => useSession.getState().tool === tool && take(null));
  else if (selection) select(null);
}

/**
 * Takes the tool out whose letter it is; it is laid down with Escape, not by the same letter in a hurry. What was pressed before it
 * was pressed with the tool before.
 */
function takenOut({ code, repeat }: KeyboardEvent, pockets: readonly Pocket[]): boolean {
  const at = POCKET_KEYS.indexOf(code as (typeof POCKET_KEYS)[number]);
  const pocket = pockets[at];
  if (!pocket || repeat) return false;
  afterPresses(() => useSession.getState().tool !== pocket.tool && useSession.getState().take(pocket.tool));
  return true;
}
