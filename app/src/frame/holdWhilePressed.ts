/** What a press acts on when it is let go: moved from under the pointer in between, it would not act at all. */
const CONTROL = 'button, a, label, select';
/** On the board what is pressed is dragged, and must follow. */
const BOARD = '[role=application]';

/**
 * A scheduler for figures that were worked out: they are shown soon, but while a control is pressed only once it is
 * let go, as what they move in the slip would slip away under the pointer and the press be lost.
 */
export function holdWhilePressed(page: EventTarget, later: (show: () => void) => unknown = (f) => setTimeout(f, 0)) {
  let pressed = false;
  let held: (() => void)[] = [];
  // After this event's own click has been told.
  const letGo = () => {
    pressed = false;
    for (const show of held.splice(0)) later(show);
  };
  page.addEventListener(
    'pointerdown',
    ({ target }) => {
      const on = target as Partial<Element> | null;
      pressed = Boolean(on?.closest?.(CONTROL)) && !on?.closest?.(BOARD);
    },
    true,
  );
  for (const end of ['pointerup', 'pointercancel']) page.addEventListener(end, letGo, true);
  // Of the page alone: an element that a press takes the focus from does not tell its own on upwards.
  page.addEventListener('blur', letGo);
  return (show: () => void): void => {
    if (pressed) held = [...held, show];
    else later(show);
  };
}
