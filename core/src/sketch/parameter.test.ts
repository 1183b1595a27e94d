import { describe, expect, it } from 'vitest';
import { formArea } from '../geometry';
import { checkJob } from '../job/document/checkJob';
import { sampleJob } from '../job/sample.test-data';
import { createEvaluator, MAIN_SKETCH, newPart, type Part, type Placing, scopeOf, workedOut } from '.';
import { addMaker } from './edit/makers';
import { putPath, seen } from './traced.test-data';

const mm = (text: string) => ({ text, unit: 'mm' as const });
const placing: Placing = new Map([
  ['pic', { isTrue: true, place: ({ uPx, vPx }) => ({ x: uPx / 10, y: -vPx / 10 }), turned: null }],
]);
const options = { truly: true, draft: null };

/** A square of 20 mm with an offset by a formula. */
function part(by: string): Part {
  const made = newPart();
  const sketch = made.sketches[MAIN_SKETCH]!;
  putPath(
    sketch,
    { a: seen(0, 0), b: seen(200, 0), c: seen(200, 200), d: seen(0, 200) },
    { points: ['a', 'b', 'c', 'd'] },
  );
  addMaker(sketch, { id: 'm', path: 'path', kind: 'offset', by: mm(by), side: 'out', corners: 'sharp', except: {} });
  made.parameters = [
    { id: 'w', name: 'wall', value: mm('2') },
    { id: 'g', name: 'gap', value: mm('wall / 2') },
  ];
  return made;
}
const side = (own: Part, evaluate = createEvaluator().evaluate) =>
  Math.sqrt(formArea(evaluate(own, placing, options).paths[0]!.made![0]!));

describe('parameters', () => {
  it('stand in formulas, and in those of others', () => {
    expect(side(part('wall + gap'))).toBeCloseTo(20 + 2 * 3, 9);
    expect(scopeOf(part('1')).values.get('gap')).toBe(1);
  });

  it('keep the ± that was typed for one, so that what clears it does so for sure', () => {
    const own = part('most(shaft) - 10');
    own.parameters = [
      { id: 's', name: 'seat', value: mm('shaft * 2') },
      { id: 'h', name: 'shaft', value: mm('11.98 ± 0.02') },
    ];
    const { values, spreads } = scopeOf(own);
    expect([values.get('shaft'), spreads.get('shaft'), spreads.get('seat')]).toEqual([11.98, 0.02, 0.04]);
    expect(side(own)).toBeCloseTo(20 + 2 * 2, 9);
  });

  it('may be a thousand, each made of the one before', () => {
    const own = part('1');
    own.parameters = Array.from({ length: 1000 }, (_, k) => ({
      id: `p${k}`,
      name: `n${k}`,
      value: mm(k === 0 ? '3 mm' : `n${k - 1} + n${k - 1} - n${k - 1}`),
    }));
    const { values, figures } = scopeOf(own);
    expect([values.size, values.get('n999'), figures.size]).toEqual([1000, 3, 0]);
  });

  it('count copies and turn them by figures of their own', () => {
    const own = part('1');
    const sketch = own.sketches[MAIN_SKETCH]!;
    const number = (text: string) => ({ text, unit: 'number' as const });
    addMaker(sketch, {
      id: 'r',
      path: 'path',
      kind: 'row',
      step: mm('40'),
      span: 'each',
      count: number('posts + 1'),
      way: 'up',
    });
    own.parameters = [{ id: 'p', name: 'posts', value: mm('2') }];
    const made = () => createEvaluator().evaluate(own, placing, options).paths[0]!.made!.length;
    expect(made()).toBe(3);
    own.parameters = [{ id: 'p', name: 'posts', value: mm('4') }];
    expect(made()).toBe(5);
    expect(workedOut(own).sketches[MAIN_SKETCH]!.makers.r).toMatchObject({ count: { text: '5', unit: 'number' } });
  });

  it('are something else in a variant, and what was made follows', () => {
    const own = part('wall + gap');
    own.variants = [{ id: 'v', name: 'thick', overrides: { w: mm('4') } }];
    const { evaluate } = createEvaluator();
    expect(side(own, evaluate)).toBeCloseTo(26, 9);
    const shown = { ...own, variant: 'v' };
    expect(side(shown, evaluate)).toBeCloseTo(20 + 2 * 6, 9);
    expect(side(own, evaluate)).toBeCloseTo(26, 9);
  });

  it('that go round, or ask for what is not there, are told by name, and the others hold', () => {
    const own = part('wall');
    own.parameters = [
      { id: 'a', name: 'a', value: mm('b + 1') },
      { id: 'b', name: 'b', value: mm('a * 2') },
      { id: 'c', name: 'c', value: mm('nobody') },
      { id: 'd', name: 'd', value: mm('c + 1') },
      { id: 'w', name: 'wall', value: mm('2') },
    ];
    const { values, faults } = scopeOf(own);
    expect([...values]).toEqual([['wall', 2]]);
    expect(faults.get('a')).toMatchObject({ reason: 'goes-round' });
    expect(faults.get('c')).toEqual({ reason: 'unknown-name', name: 'nobody' });
    expect(faults.get('d')).toEqual({ reason: 'unknown-name', name: 'nobody' });
    expect(side(own)).toBeCloseTo(24, 9);
  });

  it('leave a maker out whose formula comes to nothing, and say so', () => {
    const { faults, paths } = createEvaluator().evaluate(part('nobody * 2'), placing, options);
    expect(faults).toMatchObject([{ maker: 'm', reason: 'no-length' }]);
    expect(formArea(paths[0]!.made![0]!)).toBeCloseTo(400, 9);
  });

  it('cost nothing where no formula stands, and keep what did not change', () => {
    const plain = newPart();
    expect(workedOut(plain)).toBe(plain);
    const own = part('wall');
    expect(workedOut(own).sketches[MAIN_SKETCH]).toBe(workedOut({ ...own }).sketches[MAIN_SKETCH]);
    // Fractions and feet are lengths as people write them, and no formulas.
    const typed = part('11 1/4');
    typed.parameters = [];
    expect(workedOut(typed)).toBe(typed);
  });

  it('of a thousand names are worked out, the last from all before it', () => {
    const own = part('p_999');
    own.parameters = Array.from({ length: 1000 }, (_, k) => ({
      id: `q${k}`,
      name: `p_${k}`,
      value: mm(k === 0 ? '1' : `p_${k - 1} + 0.001`),
    }));
    expect(side(own)).toBeCloseTo(20 + 2 * 1.999, 6);
  });

  it('are checked when they come from outside', () => {
    const check = (change: Partial<Part>) => {
      const job = sampleJob();
      return checkJob({ ...job, part: { ...job.part, ...change } });
    };
    const wall = { id: 'w', name: 'wall', value: mm('2') };
    expect(check({ parameters: [wall] }).ok).toBe(true);
    expect(check({ parameters: [wall, { ...wall, id: 'x' }] })).toMatchObject({ place: '/part/parameters' });
    expect(check({ parameters: [{ ...wall, name: '2 wall' }] }).ok).toBe(false);
    expect(check({ variant: 'gone' })).toMatchObject({ place: '/part/variants' });
  });
});

describe('a long chain of parameters', () => {
  const chain = (count: number, last: string) => ({
    parameters: Array.from({ length: count }, (_, k) => ({
      id: `i${k}`,
      name: `n${k}`,
      value: { text: k === count - 1 ? last : `n${k + 1}`, unit: 'mm' as const },
    })),
    variants: [],
    variant: null,
  });

  it('is worked out however long it is, whichever end is asked for first', () => {
    const { values, faults } = scopeOf(chain(20_000, '5'));
    expect([values.get('n0'), values.get('n19999'), faults.size]).toEqual([5, 5, 0]);
  });

  it('that leads back to itself is a fault of all that hang on it, and of nobody else', () => {
    const part = chain(3000, 'n0');
    part.parameters.push({ id: 'own', name: 'own', value: { text: '7', unit: 'mm' } });
    const { values, faults } = scopeOf(part);
    expect([values.get('own'), values.size, faults.size]).toEqual([7, 1, 3000]);
  });
});
