import { describe, expect, it } from 'vitest';
import { clustersOf, constraintsFor, dimensionsFor, type Sketch, settleCluster, tryCondition } from '..';
import { decide, flat, plate, relate } from './rig.test-data';

const kinds = (sketch: Sketch, ...ids: string[]) => constraintsFor(sketch, ids, flat(sketch), 'x').map((c) => c.kind);

describe('what is offered', () => {
  it('fits what is chosen', () => {
    const sketch = plate();
    expect(kinds(sketch, 'rect-c0')).toEqual(['level', 'plumb', 'fixed']);
    expect(kinds(sketch, 'rect-c0', 'rect-c2')).toEqual([
      'level',
      'plumb',
      'square',
      'parallel',
      'equal',
      'on',
      'fixed',
    ]);
    expect(kinds(sketch, 'rect-c1', 'hole-c')).toEqual(expect.arrayContaining(['tangent', 'on']));
    expect(kinds(sketch, 'curve-c0', 'curve-c1')).toEqual(['smooth', 'fixed']);
    expect(kinds(sketch, 'pin-c', 'pin2-c')).toEqual(expect.arrayContaining(['equal', 'concentric', 'tangent']));
    // The line of symmetry may be chosen in any order.
    const symmetric = constraintsFor(sketch, ['a', 'slot-c2', 'd'], flat(sketch), 'x').find(
      (c) => c.kind === 'symmetric',
    );
    expect(symmetric?.refs.map((r) => r.id)).toEqual(['a', 'd', 'slot-c2']);
    expect(kinds(sketch, 'rect')).toEqual([]);
    relate(sketch, 'fixed', 'rect-c0');
    expect(kinds(sketch, 'rect-c0')).toEqual(['level', 'plumb']);
    expect(kinds(sketch, 'rect-c0', 'rect-c1')).toContain('fixed');
  });

  it('is not offered twice', () => {
    const sketch = plate();
    relate(sketch, 'parallel', 'rect-c0', 'rect-c2');
    expect(kinds(sketch, 'rect-c2', 'rect-c0')).not.toContain('parallel');
  });

  it('has the sizes of what is chosen, the usual one first', () => {
    const sketch = plate();
    const first = (...ids: string[]) => dimensionsFor(sketch, ids, flat(sketch), 'x')[0]?.kind;
    expect(first('rect-c0')).toBe('distance');
    expect(first('hole-c')).toBe('diameter');
    expect(first('slot-c1')).toBe('radius');
    expect(first('rect-c0', 'rect-c1')).toBe('angle');
    expect(first('rect-c0', 'rect-c2')).toBe('distance');
    expect(first('hole-c', 'rect-c2')).toBe('distance');
    expect(first('slot')).toBe('width');
    expect(dimensionsFor(sketch, ['a', 'b', 'c'], flat(sketch), 'x')).toEqual([]);
  });

  it('tells what it would move, what would only grow, and what contradicts', () => {
    const sketch = plate();
    const at = flat(sketch);
    const level = constraintsFor(sketch, ['rect-c0'], at, 'x').find((c) => c.kind === 'level')!;
    expect(tryCondition(sketch, level, at, at)).toEqual({ ok: true, moved: 2, mostMm: expect.closeTo(0.15, 6) });
    const equal = constraintsFor(sketch, ['pin-c', 'pin2-c'], at, 'x').find((c) => c.kind === 'equal')!;
    const grows = tryCondition(sketch, equal, at, (id) => at(id));
    expect(grows).toMatchObject({ ok: true, moved: 2 });
    expect(grows.ok && grows.mostMm).toBeGreaterThan(0.05);
    decide(sketch, 'distance', 5, ['d', 'a'], 'y');
    const own = { ...sketch, curves: { ...sketch.curves } };
    const [cluster] = clustersOf(own).all;
    expect(settleCluster(own, cluster!, at).ok).toBe(true);
    const wrong = { ...decide(own, 'distance', 9, ['d', 'a'], 'y'), id: 'wrong' };
    delete own.dimensions.d1;
    expect(tryCondition(own, wrong, at, at)).toEqual({ ok: false });
  });
});
