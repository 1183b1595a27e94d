import { describe, expect, it } from 'vitest';
import { formOf, newSketch, type Sketch } from '../sketch';
import { putCircle, putPath, seen } from '../sketch/traced.test-data';
import { hitSegment, hitTest } from '.';

const sketch: Sketch = newSketch('sketch', 'Sketch', null);
const all = { a: seen(0, 0), b: seen(50, 0), c: seen(50, 30) };
putPath(sketch, all, { points: ['a', 'b', 'c'], closed: false });
putCircle(sketch, 'hole', [seen(20, 10), seen(24, 14), seen(20, 18)]);

const placeOf = (id: string) => {
  const at = sketch.picks[id] ?? sketch.points[id]?.at;
  return at && 'uPx' in at ? { x: at.uPx, y: -at.vPx } : null;
};
const drawn = (...ids: string[]) => ({
  placeOf,
  paths: ids.map((id) => {
    const form = formOf(sketch, sketch.paths[id]!, placeOf);
    return { sketch, path: sketch.paths[id]!, form, made: null };
  }),
});

describe('hitTest', () => {
  it('takes the nearest point before any piece', () => {
    expect(hitTest(drawn('path'), { x: 48, y: -1 }, 3)).toEqual({ kind: 'point', path: 'path', point: 'b' });
  });

  it('takes a piece, and where along it', () => {
    expect(hitTest(drawn('path'), { x: 25, y: -2 }, 3)).toEqual({
      kind: 'piece',
      path: 'path',
      curve: 'path-c0',
      t: expect.closeTo(0.5, 9),
    });
    expect(hitTest(drawn('path'), { x: 52, y: -15 }, 3)).toMatchObject({ kind: 'piece', curve: 'path-c1' });
  });

  it('takes a circle by its rim and by its centre', () => {
    expect(hitTest(drawn('hole'), { x: 20, y: -14.5 }, 1)).toEqual({ kind: 'centre', path: 'hole' });
    expect(hitSegment(drawn('hole'), { x: 16.2, y: -14 }, 1)).toEqual({ kind: 'circle', path: 'hole' });
  });

  it('takes nothing beyond its reach', () => {
    expect(hitTest(drawn('path', 'hole'), { x: 80, y: 80 }, 5)).toBeNull();
  });
});
