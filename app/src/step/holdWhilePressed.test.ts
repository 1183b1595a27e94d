import { describe, expect, it } from 'vitest';
import { holdWhilePressed } from './holdWhilePressed';

/** A page of which only the events count; what is pressed lies within elements of these kinds. */
function setUp() {
  const page = new EventTarget();
  const show = holdWhilePressed(page, (f) => f());
  const tell = (kind: string, within: string[] = [], { button = 0, buttons = 0 } = {}) => {
    const closest = (wanted: string) => (within.some((w) => wanted.split(', ').includes(w)) ? {} : null);
    const event = Object.assign(new Event(kind), { button, buttons });
    page.dispatchEvent(Object.defineProperty(event, 'target', { value: { closest } }));
  };
  const shown: number[] = [];
  return { tell, shown, figure: (n: number) => show(() => shown.push(n)) };
}

describe('holdWhilePressed', () => {
  it('shows figures at once while nothing is pressed', () => {
    const { shown, figure } = setUp();
    figure(1);
    expect(shown).toEqual([1]);
  });

  it.each(['pointerup', 'pointercancel', 'blur'])(
    'keeps them in their order while a control is pressed, until %s',
    (end) => {
      const { tell, shown, figure } = setUp();
      tell('pointerdown', ['button']);
      figure(1);
      figure(2);
      expect(shown).toEqual([]);
      tell(end);
      expect(shown).toEqual([1, 2]);
      figure(3);
      expect(shown).toEqual([1, 2, 3]);
    },
  );

  it('does not wait for ever where nobody told of the end of a press', () => {
    const { tell, shown, figure } = setUp();
    tell('pointerdown', ['button']);
    figure(1);
    tell('pointermove', [], { buttons: 1 });
    expect(shown).toEqual([]);
    tell('pointermove');
    expect(shown).toEqual([1]);
    // A press of another button opens a menu, which takes the pointer.
    tell('pointerdown', ['button'], { button: 2 });
    figure(2);
    expect(shown).toEqual([1, 2]);
  });

  it('lets them follow what is dragged on the board, and what is no control', () => {
    const { tell, shown, figure } = setUp();
    tell('pointerdown', ['button', '[role=application]']);
    figure(1);
    tell('pointerup');
    tell('pointerdown', ['p']);
    figure(2);
    expect(shown).toEqual([1, 2]);
  });
});
