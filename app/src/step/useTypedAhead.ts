import { useLayoutEffect, useRef } from 'react';
import { isPlacing } from '../board/pressQueue';
import { isTextField } from '../board/useViewControls';
import { isWaiting } from '../session/questions';
import { type TypedAhead, typedAhead } from './typedAhead';

/** Once nothing is under way any more, what was typed waits this long to be asked for, ms: later it would be taken for another. */
const KEPT_MS = 1000;
const CHECKED_MS = 100;

const isBusy = (): boolean => isPlacing() || isWaiting();

/**
 * Keeps a figure that is typed while a press is still being placed or something is searched, and nothing asks for one yet: it
 * is handed over once something does, with Enter if that was pressed too.
 */
export function useTypedAhead(isAsked: boolean, take: (text: string, isEntered: boolean) => void): void {
  const kept = useRef<TypedAhead | null>(null);
  useLayoutEffect(() => {
    if (isAsked) return;
    let busyAt = performance.now();
    const checking = setInterval(() => {
      if (isBusy()) busyAt = performance.now();
      else if (performance.now() - busyAt > KEPT_MS) kept.current = null;
    }, CHECKED_MS);
    const onKey = (event: KeyboardEvent) => {
      if (isTextField(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      const { kept: now, isTaken } = typedAhead(kept.current, event.key, isBusy());
      kept.current = now;
      if (!isTaken) return;
      // It belongs to the figure: not to a tool of that letter.
      event.preventDefault();
      event.stopImmediatePropagation();
    };
    window.addEventListener('keydown', onKey, { capture: true });
    return () => {
      clearInterval(checking);
      window.removeEventListener('keydown', onKey, { capture: true });
    };
  }, [isAsked]);
  const latest = useRef(take);
  latest.current = take;
  // Before the question is seen: a key pressed at once comes behind what was kept.
  useLayoutEffect(() => {
    const own = kept.current;
    kept.current = null;
    if (isAsked && own && own.text !== '') latest.current(own.text, own.isEntered);
  }, [isAsked]);
}
