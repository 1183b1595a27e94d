import { useEffect } from 'react';

/** Puts the keyboard's focus on the board, where the work goes on; unless something else has it, or from there as well. */
export function focusBoard(from: 'nothing' | 'anything' = 'nothing'): void {
  const own = document.activeElement;
  if (from === 'nothing' && own && own !== document.body) return;
  document.querySelector<HTMLElement>('[role=application]')?.focus({ preventScroll: true });
}

/** Once what had the focus is gone, the focus is on the board and not on the page. */
export function useFocusAfter(): void {
  useEffect(() => () => void setTimeout(focusBoard), []);
}
