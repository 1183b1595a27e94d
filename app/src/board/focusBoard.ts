/** Puts the keyboard's focus on the board, where the work goes on; unless something else has it. */
export function focusBoard(): void {
  if (document.activeElement && document.activeElement !== document.body) return;
  document.querySelector<HTMLElement>('[role=application]')?.focus({ preventScroll: true });
}
