/** What a press acts on when it is let go: moved from under the pointer in between, it would not act at all. */
const CONTROL = 'button, a, label';
/** On the board what is pressed is dragged, and must follow. */
const BOARD = '[role=application]';

/**
 * A scheduler for figures that were worked out: they are shown soon, but while a control is pressed only once it is
 * let go, as what they move in the slip would slip away under the pointer and the press be lost.
 */
export function holdWhilePressed(page: EventTarget, later: (show: () => void) => unknown = (f) => setTimeout(f, 0)) {
  let pressed = false;
  let held: (() => void)[] = [];
  const on = (kind: string, hear: (event: PointerEvent) => void, capture = true) =>
    page.addEventListener(kind, (event) => hear(event as PointerEvent), capture);
  // After this event's own click has been told.
  const letGo = () => {
    pressed = false;
    for (const show of held.splice(0)) later(show);
  };
  on('pointerdown', ({ target, button }) => {
    const at = target as Partial<Element> | null;
    pressed = button === 0 && Boolean(at?.closest?.(CONTROL)) && !at?.closest?.(BOARD);
  });
  for (const end of ['pointerup', 'pointercancel']) on(end, letGo);
  // Let go where the page was not told, as over a menu of the browser's own.
  on('pointermove', ({ buttons }) => {
    if (pressed && buttons === 0) letGo();
  });
  // Of the page alone: an element that a press takes the focus from does not tell its own on upwards.
  on('blur', letGo, false);
  return (show: () => void): void => {
    if (pressed) held = [...held, show];
    else later(show);
  };
}
