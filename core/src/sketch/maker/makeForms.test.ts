import { describe, expect, it } from 'vitest';
import { type Form, flattenForm, formArea, formsBounds, polygonArea, type Vec2, vec } from '../../geometry';
import { checkJob } from '../../job/document/checkJob';
import { sampleJob } from '../../job/sample.test-data';
import { createEvaluator, MAIN_SKETCH, type Maker, newPart, type Part, type Placing } from '..';
import { dropPath } from '../edit/drawing';
import { addMaker, changeMaker, dropMaker } from '../edit/makers';
import { putCircle, putPath, seen } from '../traced.test-data';
import { makeForms, makersOf } from './makeForms';

const polygon = (at: readonly Vec2[], closed = true): Form => ({
  kind: 'chain',
  closed,
  segments: at
    .slice(0, closed ? undefined : -1)
    .map((from, k) => ({ kind: 'line', from, to: at[(k + 1) % at.length]! })),
});
const of = (maker: Record<string, unknown>, place = 0): Maker =>
  ({ id: `m${place}`, path: 'path', place, ...maker }) as Maker;
const no = (text: string) => ({ text, unit: 'number' as const });
const mm = (text: string) => ({ text, unit: 'mm' as const });
const area = (forms: readonly Form[]) => forms.reduce((sum, f) => sum + formArea(f), 0);
const axis = polygon([vec(0, -50), vec(0, 50)], false);
const by =
  (all: Record<string, Form>) =>
  (id: string): Form | null =>
    all[id] ?? null;

describe('more copies than are made', () => {
  it('are counted before one of them is built', () => {
    const hole: Form = { kind: 'circle', centre: vec(0, 0), radius: 1 };
    const row = of({ kind: 'row', step: mm('3'), span: 'each', count: no('500'), way: 'right' });
    const grid = of({ kind: 'grid', step: mm('3'), rowStep: mm('3'), count: no('500'), rows: no('500') }, 1);
    const began = performance.now();
    const { forms, faults } = makeForms(hole, [row, grid], () => null);
    expect(forms).toHaveLength(500);
    expect(faults).toEqual([{ maker: 'm1', reason: 'too-many' }]);
    // A quarter of a million forms of 500 each would take half a minute and a gigabyte.
    expect(performance.now() - began).toBeLessThan(2000);
  });
});

describe('what is made of a path', () => {
  it('is smooth across the line of its mirror image where that is wished and a curve ends there', () => {
    const curve: Form = {
      kind: 'chain',
      closed: false,
      segments: [{ kind: 'curve', from: vec(0, 0), handleFrom: vec(5, 4), handleTo: vec(9, 22), to: vec(0, 30) }],
    };
    const smooth = [of({ kind: 'mirror', about: 'axis', smooth: true })];
    const { forms, faults } = makeForms(curve, smooth, by({ axis }));
    expect(faults).toEqual([]);
    const [whole] = forms;
    const segments = whole?.kind === 'chain' ? whole.segments : [];
    expect(segments[0]).toMatchObject({ handleFrom: { x: Math.hypot(5, 4), y: 0 }, handleTo: { y: 30 } });
    const askew = polygon([vec(0, 0), vec(20, 5), vec(0, 30)], false);
    const line = makeForms(askew, smooth, by({ axis }));
    expect(line.faults).toMatchObject([{ reason: 'only-curves-turn' }]);
    expect(line.forms).toMatchObject([{ closed: true }]);
  });

  it('is copies round a centre, by an angle from one to the next or in all', () => {
    const hole: Form = { kind: 'circle', centre: vec(10, 0), radius: 1 };
    const about: Form = { kind: 'circle', centre: vec(0, 0), radius: 4 };
    const round = (turn: unknown) =>
      makeForms(hole, [of({ kind: 'round', about: 'bore', count: no('3'), turn })], by({ bore: about })).forms.map(
        (f) => (f.kind === 'circle' ? Math.round((Math.atan2(f.centre.y, f.centre.x) * 180) / Math.PI) : null),
      );
    expect(round(null)).toEqual([0, 120, -120]);
    expect(round({ degrees: no('30'), span: 'each' })).toEqual([0, 30, 60]);
    expect(round({ degrees: no('-90'), span: 'total' })).toEqual([0, -45, -90]);
  });

  it('is copies in a row as long in all, and on a grid', () => {
    const one = polygon([vec(0, 0), vec(4, 0), vec(4, 2)]);
    const row = { kind: 'row', step: mm('30'), span: 'total', count: no('4'), way: 'left' };
    const inRow = makeForms(one, [of(row)], by({})).forms;
    expect(formsBounds(inRow)).toEqual({ min: vec(-30, 0), max: vec(4, 2) });
    expect(inRow).toHaveLength(4);
    const grid = { kind: 'grid', step: mm('10'), count: no('3'), rowStep: mm('7'), rows: no('2') };
    const onGrid = makeForms(one, [of(grid)], by({})).forms;
    expect(formsBounds(onGrid)).toEqual({ min: vec(0, 0), max: vec(24, 9) });
    expect(area(onGrid)).toBeCloseTo(6 * 4, 9);
    for (const count of ['1', '1000', 'many'])
      expect(makeForms(one, [of({ ...row, count: no(count) })], by({})).faults[0]?.reason).toBe('no-number');
  });

  it('is the whole of a half, closed, its ends brought onto the line', () => {
    const half = polygon([vec(0.2, 0), vec(20, 0), vec(20, 30), vec(-0.1, 30)], false);
    const { forms, faults } = makeForms(half, [of({ kind: 'mirror', about: 'axis', smooth: false })], by({ axis }));
    expect(faults).toEqual([]);
    expect(forms).toHaveLength(1);
    expect(forms[0]).toMatchObject({ closed: true });
    expect(formArea(forms[0]!)).toBeCloseTo(40 * 30, 9);
    expect(formsBounds(forms)).toEqual({ min: vec(-20, 0), max: vec(20, 30) });
  });

  it('is an image beside a form that does not touch the line, and says when a half crosses it', () => {
    const beside = polygon([vec(5, 0), vec(9, 0), vec(9, 4)]);
    const mirror = [of({ kind: 'mirror', about: 'axis', smooth: false })];
    expect(makeForms(beside, mirror, by({ axis })).forms).toHaveLength(2);
    const across = polygon([vec(0, 0), vec(20, 0), vec(-6, 30), vec(0, 40)], false);
    expect(makeForms(across, mirror, by({ axis })).faults).toEqual([{ maker: 'm0', reason: 'crosses-its-line' }]);
    expect(makeForms(beside, mirror, by({})).faults).toEqual([{ maker: 'm0', reason: 'nothing-to-go-by' }]);
    expect(makeForms(beside, mirror, by({})).forms).toEqual([beside]);
  });

  it('is one closed form of lobes that meet end to end, copied round a circle', () => {
    const bore: Form = { kind: 'circle', centre: vec(3, 4), radius: 2 };
    const [r, turn] = [10, Math.PI / 2];
    const on = (angle: number) => vec(3 + r * Math.cos(angle), 4 + r * Math.sin(angle));
    const lobe: Form = {
      kind: 'chain',
      closed: false,
      segments: [{ kind: 'arc', from: on(0), via: vec(3 + 14 * Math.SQRT1_2, 4 + 14 * Math.SQRT1_2), to: on(turn) }],
    };
    const { forms } = makeForms(lobe, [of({ kind: 'round', about: 'bore', count: no('4'), turn: null })], by({ bore }));
    expect(forms).toHaveLength(1);
    expect(forms[0]).toMatchObject({ closed: true, segments: [{}, {}, {}, {}] });
    expect(Math.abs(polygonArea(flattenForm(forms[0]!, 1e-3)))).toBeCloseTo(formArea(forms[0]!), 0);
    expect(
      makeForms(lobe, [of({ kind: 'round', about: 'bore', count: no('4'), turn: null })], by({ bore: axis })).faults,
    ).toHaveLength(1);
  });

  it('goes one after the other: rounded, then larger; and what cannot be made leaves the rest as it is', () => {
    const square = polygon([vec(0, 0), vec(10, 0), vec(10, 10), vec(0, 10)]);
    const offset = { kind: 'offset', by: mm('3'), side: 'out', corners: 'sharp', except: {} };
    const rounded = makeForms(square, [of({ kind: 'fillet', size: mm('2'), at: null }), of(offset, 1)], by({}));
    // Offset of a rounded square: its area, its perimeter times the distance, and a circle's worth.
    const perimeter = 40 - 16 + 4 * Math.PI;
    expect(area(rounded.forms)).toBeCloseTo(100 - (4 - Math.PI) * 4 + perimeter * 3 + Math.PI * 9, 6);
    const tooLarge = makeForms(
      square,
      [
        of({ ...offset, by: mm('6'), side: 'in' }),
        of({ kind: 'row', step: mm('20'), span: 'each', count: no('3'), way: 'left' }, 1),
      ],
      by({}),
    );
    expect(tooLarge.faults).toEqual([{ maker: 'm0', reason: 'too-large' }]);
    expect(tooLarge.forms).toHaveLength(3);
    expect(formsBounds(tooLarge.forms)!.min.x).toBe(-40);
    expect(makeForms(square, [of({ kind: 'fillet', size: mm('no size'), at: null })], by({})).faults[0]!.reason).toBe(
      'no-length',
    );
    expect(makeForms(square, [of({ kind: 'chamfer', size: mm('99'), at: null })], by({})).faults[0]!.reason).toBe(
      'too-large',
    );
  });
});

describe('a part with makers', () => {
  const placing: Placing = new Map([
    ['pic', { isTrue: true, place: ({ uPx, vPx }) => ({ x: uPx / 10, y: -vPx / 10 }), turned: null }],
  ]);
  const options = { truly: true, draft: null };
  function part(): Part {
    const made = newPart();
    const sketch = made.sketches[MAIN_SKETCH]!;
    putPath(
      sketch,
      { a: seen(0, 0), b: seen(200, 0), c: seen(200, 300), d: seen(0, 300) },
      { points: ['a', 'b', 'c', 'd'], closed: false },
    );
    putPath(
      sketch,
      { e: seen(0, -100), f: seen(0, 400) },
      { id: 'line', points: ['e', 'f'], closed: false, role: 'centre-line' },
    );
    putCircle(sketch, 'hole', [seen(60, 20), seen(70, 30), seen(60, 40)]);
    return made;
  }

  it('follows the line that it is mirrored in, and is kept as long as nothing changed', () => {
    const own = part();
    const sketch = own.sketches[MAIN_SKETCH]!;
    addMaker(sketch, { id: 'm', path: 'path', kind: 'mirror', about: 'line', smooth: false });
    const { evaluate } = createEvaluator();
    const first = evaluate(own, placing, options);
    expect(first.paths[0]!.made).toHaveLength(1);
    expect(formArea(first.paths[0]!.made![0]!)).toBeCloseTo(40 * 30, 9);
    expect(first.paths[1]!.made).toBeNull();
    expect(evaluate({ ...own }, placing, options).paths).toBe(first.paths);
    const draft = { f: seen(20, 400) };
    const dragged = evaluate(own, placing, { ...options, draft });
    expect(dragged.paths[0]!.made).not.toEqual(first.paths[0]!.made);
  });

  it('works the corners that are named, and gives pieces that are named a distance of their own', () => {
    const own = part();
    const sketch = own.sketches[MAIN_SKETCH]!;
    sketch.paths.path!.closed = true;
    sketch.curves.back = { id: 'back', kind: 'line', from: 'd', to: 'a', evidence: [] };
    sketch.paths.path!.uses.push({ curve: 'back', reversed: false });
    const made = () => createEvaluator().evaluate(own, placing, options);
    addMaker(sketch, { id: 'm', path: 'path', kind: 'chamfer', size: mm('2'), at: ['b', 'c'] });
    expect(formArea(made().paths[0]!.made![0]!)).toBeCloseTo(20 * 30 - 2 * 2, 9);
    changeMaker(sketch, { id: 'm', path: 'path', kind: 'chamfer', size: mm('2'), at: ['gone'] });
    expect(made().faults).toMatchObject([{ maker: 'm', reason: 'nothing-to-go-by' }]);
    const offset = { id: 'm', path: 'path', kind: 'offset', by: mm('1'), side: 'out', corners: 'round' } as const;
    changeMaker(sketch, { ...offset, except: { back: mm('4') } });
    expect(formArea(made().paths[0]!.made![0]!)).toBeCloseTo((20 + 1 + 4) * (30 + 2), 9);
    changeMaker(sketch, { ...offset, side: 'in', except: { back: mm('25') } });
    expect(made().faults).toMatchObject([{ maker: 'm', reason: 'edges-do-not-meet' }]);
  });

  it('keeps the order in which they were said, changes one in its place, and goes with its path', () => {
    const sketch = part().sketches[MAIN_SKETCH]!;
    addMaker(sketch, { id: 'z', path: 'path', kind: 'fillet', size: mm('2'), at: null });
    addMaker(sketch, { id: 'a', path: 'path', kind: 'mirror', about: 'line', smooth: false });
    changeMaker(sketch, { id: 'z', path: 'path', kind: 'chamfer', size: mm('3'), at: null });
    expect(makersOf(sketch.makers, 'path').map((m) => [m.id, m.kind])).toEqual([
      ['z', 'chamfer'],
      ['a', 'mirror'],
    ]);
    addMaker(sketch, { id: 'h', path: 'hole', kind: 'row', step: mm('9'), span: 'each', count: no('2'), way: 'up' });
    dropMaker(sketch, 'a');
    dropPath(sketch, sketch.paths.path!);
    expect(Object.keys(sketch.makers)).toEqual(['h']);
    addMaker(sketch, { id: 'x', path: 'gone', kind: 'mirror', about: 'line', smooth: false });
    expect(Object.keys(sketch.makers)).toEqual(['h']);
  });

  it('is checked when it comes from outside', () => {
    const job = sampleJob();
    const sketch = job.part.sketches[MAIN_SKETCH]!;
    const [path] = sketch.order;
    const check = (maker: unknown) => {
      const own = structuredClone(job);
      own.part.sketches[MAIN_SKETCH]!.makers = { m: maker } as Record<string, Maker>;
      return checkJob(own);
    };
    const good = { id: 'm', path, place: 0, kind: 'row', step: mm('5'), span: 'each', count: no('3'), way: 'up' };
    expect(check(good).ok).toBe(true);
    expect(check({ ...good, path: 'gone' })).toMatchObject({ ok: false, reason: 'bad-field' });
    expect(check({ ...good, id: 'other' }).ok).toBe(false);
    expect(check({ ...good, count: 1e9 }).ok).toBe(false);
    expect(check({ ...good, kind: 'explode' }).ok).toBe(false);
    expect(checkJob({ ...structuredClone(job), version: 12 }).ok).toBe(true);
  });
});
