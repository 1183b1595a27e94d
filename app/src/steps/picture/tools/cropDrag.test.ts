import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boardPlace } from '../../../frames/place';
import { type CropBox, type CropRules, dragged, gripAt, LEAST_SIDE, middleOf, symmetricAbout } from './cropDrag';

const within: CropBox = { left: 0, top: 0, right: 400, bottom: 300 };
const free: CropRules = { aspect: null, symmetry: 'none', within };
const box: CropBox = { left: 100, top: 50, right: 200, bottom: 150 };
const size = (b: CropBox) => [b.right - b.left, b.bottom - b.top];

describe('gripAt', () => {
  it('finds corners, sides, the line, the inside, and the outside', () => {
    expect(gripAt(box, boardPlace(101, 51), 4, 'none')).toEqual({ kind: 'side', x: -1, y: -1 });
    expect(gripAt(box, boardPlace(199, 100), 4, 'none')).toEqual({ kind: 'side', x: 1, y: 0 });
    expect(gripAt(box, boardPlace(151, 100), 4, 'upright')).toEqual({ kind: 'line' });
    expect(gripAt(box, boardPlace(151, 100), 4, 'none')).toEqual({ kind: 'all' });
    expect(gripAt(box, boardPlace(20, 20), 4, 'none')).toMatchObject({ kind: 'new' });
  });
});

describe('dragged', () => {
  it('moves a side, all of it, or draws a new one', () => {
    const from = boardPlace(200, 100);
    expect(dragged(box, { kind: 'side', x: 1, y: 0 }, from, boardPlace(230, 180), free)).toEqual({
      ...box,
      right: 230,
    });
    expect(dragged(box, { kind: 'all' }, from, boardPlace(900, 100), free)).toEqual({ ...box, left: 300, right: 400 });
    expect(dragged(box, { kind: 'new', from: boardPlace(300, 200) }, from, boardPlace(250, 220), free)).toEqual({
      left: 250,
      top: 200,
      right: 300,
      bottom: 220,
    });
  });

  it('mirrors a moved side about the line of symmetry', () => {
    const rules = { ...free, symmetry: 'upright' as const };
    const found = dragged(box, { kind: 'side', x: -1, y: 0 }, boardPlace(100, 0), boardPlace(80, 0), rules);
    expect(found).toEqual({ ...box, left: 80, right: 220 });
    const moved = dragged(box, { kind: 'line' }, boardPlace(150, 0), boardPlace(30, 0), rules);
    expect(middleOf(moved).x).toBe(30);
    expect(moved.left).toBe(0);
  });

  it('keeps aspect, symmetry and bounds, whatever is dragged where', () => {
    const place = fc
      .tuple(fc.integer({ min: -100, max: 500 }), fc.integer({ min: -100, max: 400 }))
      .map(([x, y]) => boardPlace(x, y));
    const side = fc.constantFrom(-1 as const, 0 as const, 1 as const);
    const symmetry = fc.constantFrom('none' as const, 'upright' as const, 'level' as const);
    fc.assert(
      fc.property(place, side, side, symmetry, fc.constantFrom(null, 0.5, 1, 1.5), (to, x, y, s, aspect) => {
        if (x === 0 && y === 0) return;
        const rules = { aspect, symmetry: s, within };
        const from = boardPlace(x < 0 ? box.left : box.right, y < 0 ? box.top : box.bottom);
        const found = dragged(box, { kind: 'side', x, y }, from, to, rules);
        const [w, h] = size(found) as [number, number];
        expect(w).toBeGreaterThanOrEqual(0);
        expect(h).toBeGreaterThanOrEqual(0);
        if (aspect) expect(w).toBeCloseTo(h * aspect, 6);
        expect(found.left).toBeGreaterThanOrEqual(-1e-9);
        expect(found.right).toBeLessThanOrEqual(400 + 1e-9);
        expect(found.top).toBeGreaterThanOrEqual(-1e-9);
        expect(found.bottom).toBeLessThanOrEqual(300 + 1e-9);
        if (s === 'upright') expect(middleOf(found).x).toBeCloseTo(150, 6);
        if (s === 'level') expect(middleOf(found).y).toBeCloseTo(100, 6);
      }),
    );
  });

  it('makes a box symmetric about a line as far as the picture goes', () => {
    const rules = { ...free, symmetry: 'upright' as const };
    expect(symmetricAbout(box, 380, rules)).toMatchObject({ left: 360, right: 400 });
    expect(size(symmetricAbout(box, -50, rules))[0]).toBeCloseTo(LEAST_SIDE, 9);
  });
});
