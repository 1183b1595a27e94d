import { useEffect, useRef } from 'react';
import { isPlacing } from '../board/pressQueue';
import { isTextField } from '../board/useViewControls';
import { useBench } from '../session/benchStore';

/** What begins a figure, and what may go on with one. */
const BEGINS = /^[\d.,Øø]$/;
const GOES_ON = /^[\d.,Øø×x*/'"°±+\- a-z]$/i;
/** What was typed and never asked for is forgotten after so long, ms. */
const KEPT_MS = 10_000;

/**
 * Keeps a figure that is typed while a press is still being placed or something is searched, and nothing asks for one yet: it
 * is handed over once something does, with Enter if that was pressed too.
 */
export function useTypedAhead(isAsked: boolean, take: (text: string, isEntered: boolean) => void): void {
  const kept = useRef<{ text: string; isEntered: boolean; at: number } | null>(null);
  useEffect(() => {
    if (isAsked) return;
    const onKey = (event: KeyboardEvent) => {
      if (isTextField(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      const isBusy = isPlacing() || useBench.getState().finding;
      // Nothing came to ask for it: letters are the tools' again.
      if (!isBusy) kept.current = null;
      const own = kept.current;
      const begins = own === null && isBusy && BEGINS.test(event.key);
      if (event.key === 'Escape') {
        kept.current = null;
        return;
      }
      if (!begins && (own === null || own.isEntered || event.timeStamp - own.at > KEPT_MS)) return;
      const text = own?.text ?? '';
      if (event.key === 'Enter') kept.current = { text, isEntered: true, at: event.timeStamp };
      else if (event.key === 'Backspace')
        kept.current = { text: text.slice(0, -1), isEntered: false, at: event.timeStamp };
      else if (GOES_ON.test(event.key))
        kept.current = { text: text + event.key, isEntered: false, at: event.timeStamp };
      else return;
      // It belongs to the figure: not to a tool of that letter.
      event.preventDefault();
      event.stopImmediatePropagation();
    };
    window.addEventListener('keydown', onKey, { capture: true });
    return () => window.removeEventListener('keydown', onKey, { capture: true });
  }, [isAsked]);
  const latest = useRef(take);
  latest.current = take;
  useEffect(() => {
    const own = kept.current;
    kept.current = null;
    if (isAsked && own && own.text !== '' && performance.now() - own.at < KEPT_MS)
      latest.current(own.text, own.isEntered);
  }, [isAsked]);
}
