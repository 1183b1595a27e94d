import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Box, type CropRules, dragged, holdAt, LEAST_SIDE, middleOf, symmetricAbout } from './cropDrag';

const within: Box = { left: 0, top: 0, right: 400, bottom: 300 };
const free: CropRules = { aspect: null, symmetry: 'none', within };
const box: Box = { left: 100, top: 50, right: 200, bottom: 150 };
const size = (b: Box) => [b.right - b.left, b.bottom - b.top];

describe('holdAt', () => {
  it('finds corners, sides, the line, the inside, and the outside', () => {
    expect(holdAt(box, { x: 101, y: 51 }, 4, 'none')).toEqual({ kind: 'side', x: -1, y: -1 });
    expect(holdAt(box, { x: 199, y: 100 }, 4, 'none')).toEqual({ kind: 'side', x: 1, y: 0 });
    expect(holdAt(box, { x: 151, y: 100 }, 4, 'upright')).toEqual({ kind: 'line' });
    expect(holdAt(box, { x: 151, y: 100 }, 4, 'none')).toEqual({ kind: 'all' });
    expect(holdAt(box, { x: 20, y: 20 }, 4, 'none')).toMatchObject({ kind: 'new' });
  });
});

describe('dragged', () => {
  it('moves a side, all of it, or draws a new one', () => {
    const from = { x: 200, y: 100 };
    expect(dragged(box, { kind: 'side', x: 1, y: 0 }, from, { x: 230, y: 180 }, free)).toEqual({ ...box, right: 230 });
    expect(dragged(box, { kind: 'all' }, from, { x: 900, y: 100 }, free)).toEqual({ ...box, left: 300, right: 400 });
    expect(dragged(box, { kind: 'new', from: { x: 300, y: 200 } }, from, { x: 250, y: 220 }, free)).toEqual({
      left: 250,
      top: 200,
      right: 300,
      bottom: 220,
    });
  });

  it('mirrors a moved side about the line of symmetry', () => {
    const rules = { ...free, symmetry: 'upright' as const };
    const found = dragged(box, { kind: 'side', x: -1, y: 0 }, { x: 100, y: 0 }, { x: 80, y: 0 }, rules);
    expect(found).toEqual({ ...box, left: 80, right: 220 });
    const moved = dragged(box, { kind: 'line' }, { x: 150, y: 0 }, { x: 30, y: 0 }, rules);
    expect(middleOf(moved).x).toBe(30);
    expect(moved.left).toBe(0);
  });

  it('keeps aspect, symmetry and bounds, whatever is dragged where', () => {
    const place = fc.record({ x: fc.integer({ min: -100, max: 500 }), y: fc.integer({ min: -100, max: 400 }) });
    const side = fc.constantFrom(-1 as const, 0 as const, 1 as const);
    const symmetry = fc.constantFrom('none' as const, 'upright' as const, 'level' as const);
    fc.assert(
      fc.property(place, side, side, symmetry, fc.constantFrom(null, 0.5, 1, 1.5), (to, x, y, s, aspect) => {
        if (x === 0 && y === 0) return;
        const rules = { aspect, symmetry: s, within };
        const from = { x: x < 0 ? box.left : box.right, y: y < 0 ? box.top : box.bottom };
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
