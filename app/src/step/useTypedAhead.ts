import { useEffect, useRef } from 'react';
import { isPlacing } from '../board/pressQueue';
import { isTextField } from '../board/useViewControls';
import { useBench } from '../session/benchStore';

/** What begins a figure, and what may go on with one. */
const BEGINS = /^[\d.,Øø]$/;
const GOES_ON = /^[\d.,Øø×x*/'"°±+\- a-z]$/i;
/** Once nothing is under way any more, what was typed waits so long to be asked for, ms: later it would be taken for another. */
const KEPT_MS = 1000;
const CHECKED_MS = 100;

const isBusy = (): boolean => isPlacing() || useBench.getState().finding;

/**
 * Keeps a figure that is typed while a press is still being placed or something is searched, and nothing asks for one yet: it
 * is handed over once something does, with Enter if that was pressed too.
 */
export function useTypedAhead(isAsked: boolean, take: (text: string, isEntered: boolean) => void): void {
  const kept = useRef<{ text: string; isEntered: boolean } | null>(null);
  useEffect(() => {
    if (isAsked) return;
    let busyAt = performance.now();
    const checking = setInterval(() => {
      if (isBusy()) busyAt = performance.now();
      else if (performance.now() - busyAt > KEPT_MS) kept.current = null;
    }, CHECKED_MS);
    const onKey = (event: KeyboardEvent) => {
      if (isTextField(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      // Nothing came to ask for it: letters are the tools' again.
      if (!isBusy()) kept.current = null;
      const own = kept.current;
      const begins = own === null && isBusy() && BEGINS.test(event.key);
      if (event.key === 'Escape') {
        kept.current = null;
        return;
      }
      if (!begins && (own === null || own.isEntered)) return;
      const text = own?.text ?? '';
      if (event.key === 'Enter') kept.current = { text, isEntered: true };
      else if (event.key === 'Backspace') kept.current = { text: text.slice(0, -1), isEntered: false };
      else if (GOES_ON.test(event.key)) kept.current = { text: text + event.key, isEntered: false };
      else return;
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
  useEffect(() => {
    const own = kept.current;
    kept.current = null;
    if (isAsked && own && own.text !== '') latest.current(own.text, own.isEntered);
  }, [isAsked]);
}
