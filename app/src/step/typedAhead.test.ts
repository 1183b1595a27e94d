import { describe, expect, it } from 'vitest';
import { type TypedAhead, typedAhead } from './typedAhead';

/** Keys one after the other; which of them the tools still get. */
function type(keys: readonly string[], isBusy: (k: number) => boolean = () => true) {
  let kept: TypedAhead | null = null;
  const left: string[] = [];
  keys.forEach((key, k) => {
    const next = typedAhead(kept, key, isBusy(k));
    kept = next.kept;
    if (!next.isTaken) left.push(key);
  });
  return { kept, left };
}

describe('a figure typed before anything asks for it', () => {
  it('is kept whole, letters of its unit among it, with Enter if that was pressed', () => {
    expect(type([...'3 1/2 in'])).toEqual({ kept: { text: '3 1/2 in', isEntered: false }, left: [] });
    expect(type([...'30,8', 'Enter'])).toEqual({ kept: { text: '30,8', isEntered: true }, left: [] });
    expect(type([...'305', 'Backspace', '.', '5'])).toEqual({ kept: { text: '30.5', isEntered: false }, left: [] });
    expect(type([...'Ø8.4'])).toMatchObject({ kept: { text: 'Ø8.4' } });
  });

  it('leaves the tools their letters where no figure was begun, and all keys after Enter', () => {
    expect(type(['q', 'w'])).toEqual({ kept: null, left: ['q', 'w'] });
    expect(type(['4', 'Enter', '5', 'Enter'])).toMatchObject({
      kept: { text: '4', isEntered: true },
      left: ['5', 'Enter'],
    });
    expect(type(['4', 'ArrowLeft', '2'])).toMatchObject({ kept: { text: '42' }, left: ['ArrowLeft'] });
  });

  it('is given up by Escape, which the tools get too, and where nothing is under way any more', () => {
    expect(type(['4', '2', 'Escape'])).toEqual({ kept: null, left: ['Escape'] });
    expect(type(['4', '2', 'q'], (k) => k < 2)).toEqual({ kept: null, left: ['q'] });
    expect(type(['4'], () => false)).toEqual({ kept: null, left: ['4'] });
  });
});
