import { describe, expect, it } from 'vitest';
import { readPiece } from './typedPiece';

const deg = (d: number) => expect.closeTo((d * Math.PI) / 180, 12);

describe('what is typed of a piece', () => {
  it('is a length as people write it', () => {
    expect(readPiece('40', 'mm')).toMatchObject({ length: { mm: 40, value: { text: '40', unit: 'mm' } }, at: null });
    expect(readPiece('1 3/8 in', 'mm')?.length?.mm).toBeCloseTo(34.925, 9);
  });

  it('has its direction before or after', () => {
    expect(readPiece('40 at 30', 'mm')).toMatchObject({ length: { mm: 40 }, at: deg(30) });
    expect(readPiece('at -45', 'mm')).toMatchObject({ length: null, at: deg(-45) });
    expect(readPiece('30 deg', 'mm')).toMatchObject({ length: null, at: deg(30) });
    expect(readPiece('30°', 'mm')).toMatchObject({ length: null, at: deg(30) });
    expect(readPiece('1.5 in turn 90', 'mm')).toMatchObject({ length: { mm: expect.closeTo(38.1, 9) }, turn: deg(90) });
  });

  it('is a place', () => {
    expect(readPiece('x 10 y -5', 'mm')).toMatchObject({ x: 10, y: -5, length: null });
    expect(readPiece('10x 5y', 'mm')).toMatchObject({ x: 10, y: 5 });
    expect(readPiece('x 1', 'in')).toMatchObject({ x: expect.closeTo(25.4, 9), y: null });
  });

  it('is an arc', () => {
    expect(readPiece('r 12 turn 90', 'mm')).toMatchObject({ radius: 12, turn: deg(90) });
    expect(readPiece('12 r -45 turn', 'mm')).toMatchObject({ radius: 12, turn: deg(-45) });
  });

  it('is nothing where it cannot be read', () => {
    for (const text of ['', 'at', 'at x', '40 at 30 at 20', 'x y', '40 fathoms', 'r', '40 40', 'at 30 mm'])
      expect(readPiece(text, 'mm'), text).toBeNull();
  });
});
