import { describe, expect, it } from 'vitest';
import { createEvaluator, MAIN_SKETCH, newPart, observationOf, type Part, type PicturePlacing, type Placing } from '.';
import { decideDistance } from './edit/sizes';
import { putCircle, putPath, seen } from './traced.test-data';

const scaled = (perMm: number): PicturePlacing => ({
  isTrue: true,
  place: ({ uPx, vPx }) => ({ x: uPx / perMm, y: -vPx / perMm }),
  turned: null,
});
const placing = (perMm = 10): Placing => new Map([['pic', scaled(perMm)]]);
const options = { truly: false, draft: null };

function part(): Part {
  const made = newPart();
  const sketch = made.sketches[MAIN_SKETCH]!;
  putPath(sketch, { a: seen(0, 0), b: seen(100, 0), c: seen(100, 80) }, { points: ['a', 'b', 'c'] });
  putPath(sketch, { d: seen(300, 0), e: seen(400, 0) }, { id: 'other', points: ['d', 'e'], closed: false });
  putCircle(sketch, 'hole', [seen(60, 20), seen(70, 30), seen(60, 40)]);
  return made;
}
const changed = (before: Part, change: (after: Part) => void): Part => {
  const sketch = before.sketches[MAIN_SKETCH]!;
  const after = { ...before, sketches: { [MAIN_SKETCH]: { ...sketch, points: { ...sketch.points }, dimensions: {} } } };
  change(after);
  return after;
};

describe('evaluating a part', () => {
  it('makes each path where its picture places it', () => {
    const { paths, placeOf, faults } = createEvaluator().evaluate(part(), placing(), options);
    expect(paths.map((p) => p.form?.kind)).toEqual(['chain', 'chain', 'circle']);
    expect(paths[2]!.form).toMatchObject({ centre: { x: 6, y: -3 }, radius: 1 });
    expect(placeOf('b')).toEqual({ x: 10, y: -0 });
    expect(placeOf('hole-o')).toEqual({ x: 6, y: -3 });
    expect(placeOf('nothing')).toBeNull();
    expect(faults).toEqual([]);
  });

  it('keeps what nothing was changed of, and the list when nothing was changed at all', () => {
    const { evaluate } = createEvaluator();
    const on = placing();
    const before = part();
    const first = evaluate(before, on, options);
    expect(evaluate({ ...before }, on, options).paths).toBe(first.paths);
    const moved = changed(before, (p) => {
      p.sketches[MAIN_SKETCH]!.points.b = { at: { kind: 'observed', ...seen(120, 0) } };
    });
    const second = evaluate(moved, on, options);
    expect(second.paths[0]).not.toBe(first.paths[0]);
    expect(second.paths[1]).toBe(first.paths[1]);
    expect(second.paths[2]).toBe(first.paths[2]);
    const again = evaluate(moved, new Map(on), options);
    expect(again.paths).toBe(second.paths);
    expect(evaluate(moved, placing(), options).paths[1]).not.toBe(second.paths[1]);
  });

  it('shows what is dragged where it is, and only that', () => {
    const { evaluate } = createEvaluator();
    const [on, before] = [placing(), part()];
    const first = evaluate(before, on, options);
    const draft = { c: { ...seen(200, 80) } };
    const dragged = evaluate(before, on, { ...options, draft });
    expect(dragged.placeOf('c')).toEqual({ x: 20, y: -8 });
    expect(dragged.paths[0]!.form).toMatchObject({ segments: [{}, { to: { x: 20, y: -8 } }, {}] });
    expect(dragged.paths[1]).toBe(first.paths[1]);
    expect(evaluate(before, on, options).paths[0]!.form).toEqual(first.paths[0]!.form);
  });

  it('works ahead in stretches, and comes to the same', () => {
    const { evaluate, prepare } = createEvaluator();
    const [on, all] = [placing(), part()];
    let asked = 0;
    expect(prepare(all, on, options, () => asked++ > 0)).toBe(false);
    expect(prepare(all, on, options, () => false)).toBe(true);
    const ahead = evaluate(all, on, options);
    expect(ahead.paths).toEqual(createEvaluator().evaluate(all, on, options).paths);
    // What was moved since then is worked out again.
    const moved = changed(all, (p) => {
      p.sketches[MAIN_SKETCH]!.points.b = { at: { kind: 'observed', ...seen(120, 0) } };
    });
    expect(prepare(moved, on, options, () => true)).toBe(false);
    expect(evaluate(moved, on, options).paths).toEqual(createEvaluator().evaluate(moved, on, options).paths);
  });

  it('takes what was settled elsewhere, as long as nothing that it hangs on changed', () => {
    // A comb of teeth, each upright and as long as the next one, all in one cluster.
    const teeth = 60;
    const made = newPart();
    const sketch = made.sketches[MAIN_SKETCH]!;
    const ids = Array.from({ length: 2 * teeth }, (_, k) => `p${k}`);
    const at = (k: number): [number, number] => [10 * Math.floor(k / 2), k % 4 === 1 || k % 4 === 2 ? 80 + (k % 3) : 0];
    putPath(sketch, Object.fromEntries(ids.map((id, k) => [id, seen(...at(k))])), {
      id: 'comb',
      points: ids,
      closed: false,
    });
    const tooth = (k: number) => ({ sketch: MAIN_SKETCH, id: `comb-c${2 * k}` });
    for (let k = 0; k < teeth; k++) {
      sketch.constraints[`u${k}`] = { id: `u${k}`, kind: 'plumb', refs: [tooth(k)], count: null };
      if (k > 0)
        sketch.constraints[`e${k}`] = { id: `e${k}`, kind: 'equal', refs: [tooth(k - 1), tooth(k)], count: null };
    }
    const on = placing();
    const { evaluate, long, take } = createEvaluator();
    const [one, ...none] = long(made, on, options);
    expect(none).toEqual([]);
    expect(one!.cluster.conditions).toHaveLength(2 * teeth - 1);
    // Where it is put is where it then lies, right or not: nothing of it is worked out again.
    const places = new Map(ids.map((id, k) => [id, { x: k, y: 7 }]));
    take(one!, { ok: true, places, lost: [] });
    expect(long(made, on, options)).toEqual([]);
    expect(evaluate(made, on, options).placeOf('p5')).toEqual({ x: 5, y: 7 });
    const moved = changed(made, (p) => {
      p.sketches[MAIN_SKETCH]!.points.p3 = { at: { kind: 'observed', ...seen(11, 1) } };
    });
    expect(long(moved, on, options)).toHaveLength(1);
    expect(long(moved, placing(20), options)).toHaveLength(1);
    // Without an answer it is settled here: every tooth upright and as long as the others.
    const { placeOf } = evaluate(moved, on, options);
    const lengths = Array.from({ length: teeth }, (_, k) => placeOf(`p${2 * k + 1}`)!.y - placeOf(`p${2 * k}`)!.y);
    for (const l of lengths) expect(Math.abs(l)).toBeCloseTo(Math.abs(lengths[0]!), 8);
    // What is being dragged is never sent away.
    expect(long(made, on, { ...options, draft: { p3: seen(12, 1) } })).toEqual([]);
  });

  it('says which paths have no place, and keeps the others', () => {
    const before = part();
    const lost = changed(before, (p) => {
      p.sketches[MAIN_SKETCH]!.points.d = { at: { kind: 'observed', ...seen(0, 0, { picture: 'other' }) } };
    });
    const { paths, faults } = createEvaluator().evaluate(lost, placing(), options);
    expect(paths.map((p) => p.form !== null)).toEqual([true, false, true]);
    expect(faults).toEqual([{ sketch: MAIN_SKETCH, path: 'other', maker: null, reason: 'no-place' }]);
  });
});

describe('a length that was typed', () => {
  const typed = changed(part(), (p) =>
    decideDistance(p.sketches[MAIN_SKETCH]!, 'size', ['d', 'e'], { text: '10.5', unit: 'mm' }),
  );
  const lengthOf = (on: Placing, of: Part = typed) => {
    const form = createEvaluator().evaluate(of, on, options).paths[1]!.form;
    if (form?.kind !== 'chain') throw new Error('a line');
    const { from, to } = form.segments[0]!;
    return Math.hypot(to.x - from.x, to.y - from.y);
  };

  it('stays what was typed through every calibration, its ends where they were seen but for that', () => {
    for (const perMm of [9, 10, 11.3]) expect(lengthOf(placing(perMm))).toBeCloseTo(10.5, 9);
    const { placeOf } = createEvaluator().evaluate(typed, placing(), options);
    expect(placeOf('d')?.x).toBeCloseTo(29.75, 9);
    expect(placeOf('e')?.x).toBeCloseTo(40.25, 9);
    expect(observationOf(typed, 'd')?.uPx).toBe(300);
  });

  it('says nothing while the picture is not true', () => {
    const inPixels: Placing = new Map([['pic', { ...scaled(1), isTrue: false }]]);
    expect(lengthOf(inPixels)).toBe(100);
  });

  it('that cannot be with others is told, and the points lie where they were seen', () => {
    const twice = changed(typed, (p) => {
      const sketch = p.sketches[MAIN_SKETCH]!;
      sketch.dimensions = { ...typed.sketches[MAIN_SKETCH]!.dimensions };
      const refs = ['d', 'e'].map((id) => ({ sketch: MAIN_SKETCH, id }));
      sketch.dimensions.again = {
        id: 'again',
        kind: 'distance',
        refs,
        along: 'straight',
        label: null,
        origin: { kind: 'decided', value: { text: '12', unit: 'mm' }, why: '' },
      };
    });
    const { paths, faults } = createEvaluator().evaluate(twice, placing(), options);
    expect(faults).toEqual([{ sketch: MAIN_SKETCH, path: 'other', maker: null, reason: 'sizes-contradict' }]);
    expect(paths[1]!.form).toMatchObject({ segments: [{ from: { x: 30 }, to: { x: 40 } }] });
  });
});
