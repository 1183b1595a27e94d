import { type Constraint, type Dimension, type Id, newSketch, type Sketch } from '..';
import { putCircle, putPath, seen } from '../traced.test-data';

/** A sketch whose pictures' pixels are millimetres, so that where something was seen is where it lies. */
export const flat = (sketch: Sketch) => (id: Id) => {
  const at = sketch.picks[id] ?? sketch.points[id]?.at;
  return at && 'uPx' in at ? { x: at.uPx, y: at.vPx } : null;
};

const ref = (id: Id) => ({ sketch: 'sketch', id });

export const relate = (sketch: Sketch, kind: Constraint['kind'], ...ids: Id[]): Constraint => {
  const id = `c${Object.keys(sketch.constraints).length}`;
  const made: Constraint = { id, kind, refs: ids.map(ref), count: null };
  sketch.constraints[id] = made;
  return made;
};

export const decide = (
  sketch: Sketch,
  kind: Dimension['kind'],
  value: number,
  ids: Id[],
  along: Dimension['along'] = 'straight',
): Dimension => {
  const id = `d${Object.keys(sketch.dimensions).length}`;
  const origin = { kind: 'decided', value: { text: String(value), unit: 'mm' }, why: '' } as const;
  const made: Dimension = { id, kind, refs: ids.map(ref), along, label: null, origin };
  sketch.dimensions[id] = made;
  return made;
};

/** A rectangle, 40 × 20, seen askew by up to 0.3 mm, with a hole; a slot with round ends; a curve that joins a line. */
export function plate(): Sketch {
  const sketch = newSketch('sketch', 'Sketch', null);
  const at = {
    a: seen(0.1, 0.2),
    b: seen(40.2, -0.1),
    c: seen(39.9, 20.2),
    d: seen(-0.2, 19.8),
    e: seen(60, 0),
    f: seen(80, 0.3),
    g: seen(80.2, 8),
    h: seen(59.8, 8.2),
    v: seen(84.1, 4.2),
    w: seen(55.8, 4),
    p: seen(0, 40),
    q: seen(10, 40.4),
    r: seen(20, 50),
    h1: seen(13, 41),
    h2: seen(18, 44),
  };
  putPath(sketch, at, { id: 'rect', points: ['a', 'b', 'c', 'd'] });
  putPath(sketch, at, { id: 'slot', points: ['e', 'f', 'g', 'h'], bent: ['line', { arc: 'v' }, 'line', { arc: 'w' }] });
  putPath(sketch, at, { id: 'curve', points: ['p', 'q', 'r'], bent: ['line', { cubic: ['h1', 'h2'] }], closed: false });
  const rim = (x: number, y: number, r: number) =>
    [0.3, 2.4, 4.5].map((t) => seen(x + r * Math.cos(t), y + r * Math.sin(t))) as [never, never, never];
  putCircle(sketch, 'hole', rim(20.1, 9.9, 5.05));
  putCircle(sketch, 'pin', rim(70, 30, 3));
  putCircle(sketch, 'pin2', rim(80, 30.4, 3.2));
  putCircle(sketch, 'pin3', rim(90, 30, 2.9));
  return sketch;
}
