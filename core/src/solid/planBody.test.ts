import { describe, expect, it } from 'vitest';
import { type Form, mapForm, pointAt, workCorners } from '../geometry';
import { type EvaluatedPath, type Feature, newPart, newSketch, type Role, workedOut } from '../sketch';
import { type DomeStep, type ExtrudeStep, planBody, type RevolveStep } from '.';
import { loopsOf } from './profiles';
import { circle, polygon, rectangle } from './shapes.test-data';

interface Drawn {
  id: string;
  form: Form;
  sketch?: 'top' | 'front' | 'side';
  role?: Role;
}

/** A part with what was drawn in two views, as it is evaluated, and its features. */
function planned(drawn: readonly Drawn[], features: Feature[], parameters: Record<string, string> = {}) {
  const part = newPart();
  part.sketches = {
    top: newSketch('top', 'Top', null),
    front: newSketch('front', 'Front', 'view'),
    side: newSketch('side', 'Side', 'view'),
  };
  part.order = ['top', 'front', 'side'];
  part.features = features;
  part.parameters = Object.entries(parameters).map(([name, text]) => ({ id: name, name, value: { text, unit: 'mm' } }));
  const paths = drawn.map(({ id, form, sketch = 'top', role = 'cut' }): EvaluatedPath => {
    const count = form.kind === 'circle' ? 1 : form.segments.length;
    const uses = Array.from({ length: count }, (_, k) => ({ curve: `${id}-${k}`, reversed: false }));
    const closed = form.kind === 'circle' || form.closed;
    part.sketches[sketch]!.paths[id] = { id, name: id, role, layer: null, uses, closed };
    part.sketches[sketch]!.order.push(id);
    return { sketch: part.sketches[sketch]!, path: part.sketches[sketch]!.paths[id]!, form, made: null };
  });
  return planBody({
    part: workedOut(part),
    evaluated: { paths },
    placing: new Map(),
    sideOf: (id) => ({ side: id as 'top' | 'front' | 'side', offsetMm: 0 }),
  });
}

const mm = (text: string) => ({ text, unit: 'mm' as const });
const extrude = (
  change: Partial<Extract<Feature, { kind: 'extrude' }>> = {},
): Extract<Feature, { kind: 'extrude' }> => ({
  id: 'body',
  name: 'Extrude',
  kind: 'extrude',
  does: 'add',
  sketch: 'top',
  paths: null,
  heights: { from: mm('0'), to: mm('3') },
  draft: { text: '0', unit: 'number' },
  wall: null,
  laid: { by: 'low', length: 'own' },
  ...change,
});
const outer: Drawn = { id: 'outer', form: rectangle(10, 20, 80, 50) };
const open = (form: ReturnType<typeof polygon>): Form => ({
  ...form,
  closed: false,
  segments: form.segments.slice(0, -1),
});
const step = <S>(found: ReturnType<typeof planned>, k = 0) => found.steps[k] as S;

describe('the plan of a body', () => {
  it('takes all that is cut, holes as holes, and works formulas out', () => {
    const hole: Drawn = { id: 'hole', form: circle(30, 40, 5) };
    const mark: Drawn = { id: 'mark', form: circle(60, 40, 2), role: 'mark' };
    const made = planned([outer, hole, mark], [extrude({ heights: { from: mm('-wall'), to: mm('2 * wall') } })], {
      wall: '1.5',
    });
    expect(made.faults).toEqual([]);
    const { regions, heights } = step<ExtrudeStep>(made);
    expect(regions.map((r) => [r.outer.path, r.holes.map((h) => h.path)])).toEqual([['outer', ['hole']]]);
    expect(heights).toEqual({ fromMm: -1.5, toMm: 3 });
    expect(regions[0]!.holes[0]!.curves).toEqual(['hole-0']);
  });

  it('tells what cannot be: open, crossing itself, no length, no thickness, nothing there', () => {
    const bow: Drawn = { id: 'bow', form: polygon([0, 0], [10, 10], [10, 0], [0, 10]) };
    const line: Drawn = { id: 'line', form: open(rectangle(0, 0, 5, 5)) };
    const reasons = (drawn: Drawn[], feature: Feature) =>
      planned(drawn, [feature]).faults.map((f) => [f.reason, f.detail]);
    expect(reasons([outer, line], extrude())).toEqual([['open-profile', 'line']]);
    expect(reasons([bow], extrude())).toEqual([['crosses-itself', 'bow']]);
    expect(reasons([outer], extrude({ heights: { from: mm('0'), to: mm('wide') } }))).toEqual([['no-length', 'wide']]);
    expect(reasons([outer], extrude({ heights: { from: mm('2'), to: mm('2') } }))).toEqual([['no-thickness', null]]);
    expect(reasons([], extrude())).toEqual([['nothing-to-go-by', null]]);
    expect(reasons([outer], extrude({ heights: null }))).toEqual([['no-body', null]]);
    expect(reasons([outer], extrude({ paths: ['gone'] }))[0]).toEqual(['nothing-to-go-by', null]);
  });

  it('makes walls of open paths, half on either side', () => {
    const line: Drawn = {
      id: 'line',
      form: { kind: 'chain', closed: false, segments: [{ kind: 'line', from: { x: 0, y: 0 }, to: { x: 30, y: 0 } }] },
    };
    const { form } = step<ExtrudeStep>(planned([line], [extrude({ wall: mm('2') })])).regions[0]!.outer;
    const ys = form.kind === 'chain' ? form.segments.map((s) => s.from.y) : [];
    expect([Math.min(...ys), Math.max(...ys)]).toEqual([-1, 1]);
  });

  it('lays a view from the front against the body, tells a length that differs, and stretches it on demand', () => {
    // Drawn elsewhere on the page, 0.4 mm longer, its left end a little slanted.
    const front: Drawn = {
      id: 'front',
      sketch: 'front',
      form: polygon([200, 300], [280.4, 300], [280.4, 305], [206, 305], [206, 332], [200.05, 332]),
    };
    const cut = (length: 'own' | 'body', by: 'low' | 'high' | 'drawn' = 'low') =>
      extrude({ id: 'cut', does: 'keep', sketch: 'front', heights: null, laid: { by, length } });
    const xs = (found: ReturnType<typeof planned>) => {
      const { form } = step<ExtrudeStep>(found, 1).regions[0]!.outer;
      return form.kind === 'chain' ? form.segments.map((s) => s.from.x) : [];
    };
    const own = planned([outer, front], [extrude(), cut('own')]);
    expect(own.notes).toEqual([{ feature: 'cut', kind: 'longer', along: 'x', mm: expect.closeTo(0.4, 9) }]);
    expect(Math.min(...xs(own))).toBeCloseTo(10, 9);
    expect(Math.max(...xs(planned([outer, front], [extrude(), cut('own', 'high')])))).toBeCloseTo(90, 9);
    // Left where it was drawn, its zero is held against the body's as well.
    const drawn = planned([outer, front], [extrude(), cut('own', 'drawn')]);
    expect(Math.min(...xs(drawn))).toBe(200);
    expect(drawn.notes).toEqual([
      { feature: 'cut', kind: 'longer', along: 'x', mm: expect.closeTo(0.4, 9) },
      { feature: 'cut', kind: 'apart', along: 'x', mm: expect.closeTo(190, 9) },
    ]);
    const stretched = xs(planned([outer, front], [extrude(), cut('body')]));
    // Neither end cuts anything off, and what stands at the left is as wide as it was.
    expect(Math.min(...stretched.filter((x) => x > 9.9 && x < 11))).toBeLessThanOrEqual(10);
    expect(stretched.filter((x) => Math.abs(x - 10) < 0.06).every((x) => x <= 10 + 1e-9)).toBe(true);
    expect(Math.max(...stretched)).toBeCloseTo(90, 9);
  });

  it('turns a profile about a line, and says that it closed it', () => {
    const axis: Drawn = {
      id: 'axis',
      role: 'centre-line',
      form: { kind: 'chain', closed: false, segments: [{ kind: 'line', from: { x: 0, y: 5 }, to: { x: 50, y: 5 } }] },
    };
    const half: Drawn = { id: 'half', form: open(polygon([0, 15], [30, 15], [30, 12])) };
    const revolve: Feature = {
      id: 'turned',
      name: 'Revolve',
      kind: 'revolve',
      does: 'add',
      sketch: 'top',
      path: 'half',
      axis: 'axis',
      degrees: { text: '180', unit: 'number' },
    };
    const made = planned([axis, half], [revolve]);
    expect(made.notes).toEqual([{ feature: 'turned', kind: 'closed-on-axis' }]);
    expect(step<RevolveStep>(made)).toMatchObject({
      angleRad: Math.PI,
      axis: { at: { x: 0, y: 5 }, along: { x: 1, y: 0 } },
    });
    expect(planned([half], [revolve]).faults[0]?.reason).toBe('nothing-to-go-by');
  });

  it('keeps marks inside the face that they stand on, raised or sunk', () => {
    const mark: Drawn = { id: 'mark', form: rectangle(20, 30, 5, 5), role: 'mark' };
    const marks = (does: 'add' | 'cut'): Feature => ({
      id: 'marks',
      name: 'Marks',
      kind: 'marks',
      does,
      sketch: 'top',
      paths: ['mark'],
      by: mm('0.5'),
      width: mm('1'),
    });
    const heights = (does: 'add' | 'cut') =>
      step<ExtrudeStep>(planned([outer, mark], [extrude(), marks(does)]), 1).heights;
    expect(heights('add')).toEqual({ fromMm: 3, toMm: 3.5 });
    expect(heights('cut')).toEqual({ fromMm: 2.5, toMm: 3 });
    expect(planned([mark], [marks('add')]).faults[0]?.reason).toBe('no-body');
  });

  it('drills where circles lie, and refuses a head narrower than its hole', () => {
    const hole: Drawn = { id: 'hole', form: circle(30, 40, 5), role: 'drill' };
    const holes = (head: string): Feature => ({
      id: 'holes',
      name: 'Holes',
      kind: 'holes',
      does: 'cut',
      sketch: 'top',
      paths: ['hole'],
      diameter: mm('4.2'),
      depth: null,
      from: 'end',
      head: { kind: 'countersink', diameter: mm(head), degrees: { text: '90', unit: 'number' } },
    });
    expect(planned([outer, hole], [extrude(), holes('9')]).steps[1]).toMatchObject({
      holes: [{ path: 'hole', centre: { x: 30, y: 40 }, diameterMm: 4.2 }],
      head: { kind: 'countersink', diameterMm: 9 },
    });
    expect(planned([outer, hole], [extrude(), holes('4')]).faults[0]?.reason).toBe('too-large');
  });

  it('repeats only what is on the list before', () => {
    const repeat: Feature = {
      id: 'again',
      name: 'Repeat',
      kind: 'repeat',
      does: 'add',
      of: ['body', 'gone'],
      how: { kind: 'row', along: 'x', step: mm('-20'), count: { text: '3', unit: 'number' } },
    };
    const made = planned([outer], [extrude(), repeat]);
    expect(made.steps[1]).toMatchObject({ of: ['body'], how: { kind: 'row', stepMm: -20, count: 3 } });
    expect(made.faults.map((f) => f.reason)).toEqual(['nothing-to-go-by']);
    expect(planned([outer], [repeat, extrude()]).faults.map((f) => f.feature)).toEqual(['again']);
  });

  it('takes counts and degrees from formulas, and refuses what is none', () => {
    const repeat = (count: string): Feature => ({
      id: 'again',
      name: 'Repeat',
      kind: 'repeat',
      does: 'add',
      of: ['body'],
      how: { kind: 'row', along: 'x', step: mm('20'), count: { text: count, unit: 'number' } },
    });
    const made = planned([outer], [extrude({ draft: { text: 'lean * 2', unit: 'number' } }), repeat('posts + 1')], {
      posts: '3',
      lean: '2.5',
    });
    expect(made.faults).toEqual([]);
    expect(made.steps[0]).toMatchObject({ draftRad: (5 * Math.PI) / 180 });
    expect(made.steps[1]).toMatchObject({ how: { count: 4 } });
    const leaning = planned([outer], [extrude({ draft: { text: '80', unit: 'number' } })]);
    expect(leaning.faults).toMatchObject([{ feature: 'body', reason: 'no-number', detail: '80: -60 to 60' }]);
    expect(planned([outer], [extrude(), repeat('1')]).faults).toMatchObject([
      { feature: 'again', reason: 'no-number' },
    ]);
  });
});

describe('what is made of a path', () => {
  it('keeps the names of the sides that are left between its corners', () => {
    const form = rectangle(0, 0, 40, 20);
    const sketch = newSketch('top', 'Top', null);
    const uses = ['a', 'b', 'c', 'd'].map((curve) => ({ curve, reversed: false }));
    const path = { id: 'outer', name: 'Outer', role: 'cut' as const, layer: null, uses, closed: true };
    const rounded = workCorners(form, 'fillet', 3).form;
    const [own] = loopsOf({ sketch, path, form, made: [rounded] });
    expect(own!.curves).toEqual(['a', null, 'b', null, 'c', null, 'd', null]);
    // A copy beside it lies on nothing of the path, and what is copied gives each name once.
    const [first, second] = loopsOf({
      sketch,
      path,
      form,
      made: [form, mapForm(form, (p) => ({ ...p, x: p.x + 60 }))],
    });
    expect(first!.curves).toEqual(['a', 'b', 'c', 'd']);
    expect(second!.curves).toEqual([null, null, null, null]);
  });
});

describe('a face bowed two ways', () => {
  const line = (id: string, sketch: 'front' | 'side' | 'top', ...places: [number, number][]): Drawn => ({
    id,
    sketch,
    role: 'reference',
    form: open(polygon(...places)),
  });
  const dome: Extract<Feature, { kind: 'dome' }> = {
    id: 'dome',
    name: 'Dome',
    kind: 'dome',
    does: 'cut',
    sketch: 'front',
    path: 'along',
    acrossSketch: 'side',
    across: 'across',
    bow: null,
    from: 'end',
    laid: 'body',
  };
  const along = line('along', 'front', [0, 1], [40, 4], [80, 2]);
  const across = line('across', 'side', [60, 7], [35, 9], [10, 7]);
  const body = extrude({ paths: ['outer'], heights: { from: mm('0'), to: mm('12') } });

  it('is laid with its highest place to the end of the body, both lines to its middles', () => {
    const made = planned([outer, along, across], [body, dome]);
    expect(made.faults).toEqual([]);
    expect(made.steps[1]).toMatchObject({
      run: { x: 1, y: 0, z: 0 },
      runAcross: { x: 0, y: 1, z: 0 },
      rise: { x: 0, y: 0, z: 1 },
      // The body lies from 10 to 90 along X: 10 farther than it was drawn, and 8 higher; and no line is drawn on yet.
      along: [{ from: { x: 10, y: 9 }, to: { x: 50, y: 12 } }, { to: { x: 90, y: 10 } }],
    });
    // Across it runs the other way round from how it was drawn, and its highest place lies at 0.
    const own = (made.steps[1] as DomeStep).across;
    expect(own[0]).toMatchObject({ from: { x: 20, y: -2 }, to: { x: 45, y: 0 } });
  });

  it('cuts from below as well, stays where it was drawn, and tells how far it was drawn on', () => {
    const below = planned([outer, along, across], [body, { ...dome, from: 'start', laid: 'drawn' }]);
    expect(below.steps[1]).toMatchObject({ rise: { z: -1 }, along: [{ from: { x: 0, y: -1 } }, {}] });
    expect(below.notes).toEqual([
      { feature: 'dome', kind: 'drawn-on', mm: expect.closeTo(10, 9) },
      { feature: 'dome', kind: 'drawn-on', mm: expect.closeTo(10, 9) },
    ]);
  });

  it('is typed by height or by radius, and lies over all of the body', () => {
    const typed = { ...dome, sketch: 'top', path: 'outer', acrossSketch: 'top', across: 'outer' };
    const high = planned([outer], [body, { ...typed, bow: { by: 'height', along: null, across: mm('2') } }]);
    expect(high.faults).toEqual([]);
    const step = high.steps[1] as DomeStep;
    expect(step.along).toEqual([{ kind: 'line', from: { x: 10, y: 12 }, to: { x: 90, y: 12 } }]);
    const [low, top] = [step.across[0]!.from.x, step.across[0]!.to.x];
    expect(step.across[0]).toMatchObject({ kind: 'arc', from: { y: -2 }, via: { x: (low + top) / 2, y: 0 } });
    // A radius of 100 over 80: its ends lie 100 − √(100² − 40²) lower.
    const round = planned([outer], [body, { ...typed, bow: { by: 'radius', along: mm('100'), across: null } }]);
    expect((round.steps[1] as DomeStep).along[0]!.from.y).toBeCloseTo(12 - (100 - Math.sqrt(8400)), 9);
    const reason = (bow: (typeof typed)['bow'] | object) =>
      planned([outer], [body, { ...typed, bow } as Feature]).faults[0]?.reason;
    expect(reason({ by: 'radius', along: mm('39'), across: null })).toBe('bow-too-round');
    expect(reason({ by: 'height', along: null, across: null })).toBe('no-bow-typed');
    expect(reason({ by: 'height', along: mm('0'), across: null })).toBe('no-length');
  });

  it('is drawn over the body, from its middle and its end', () => {
    const own = { ...dome, sketch: 'top', path: 'outer', acrossSketch: 'top', across: 'outer' };
    const places = (...at: readonly (readonly [number, number])[]) => at.map(([x, y]) => ({ x, y }));
    const drawn = (along: ReturnType<typeof places> | null, across: ReturnType<typeof places> | null) =>
      planned([outer], [body, { ...own, bow: { by: 'places', along, across } }]);
    const made = drawn(places([-40, -3], [0, 0], [40, -3]), places([-20, -5], [0, -4], [20, -5]));
    expect(made.faults).toEqual([]);
    const { along, across } = made.steps[1] as DomeStep;
    // The body runs from 10 to 90, its end lies at 12; three places are a parabola: 12 − 3/4 halfway.
    const quarter = pointAt(along[0]!, 0.5);
    expect([along[0]!.from.x, quarter.x, along[1]!.to.x]).toEqual([10, expect.closeTo(30, 9), 90]);
    expect([along[0]!.from.y, quarter.y, along[0]!.to.y]).toEqual([9, expect.closeTo(11.25, 9), 12]);
    // Of the line across the form alone counts.
    expect(across.map((piece) => piece.to.y)).toEqual([0, -1]);
    expect(drawn(null, places([-20, -1], [20, 0])).faults).toEqual([]);
    expect(drawn(null, null).faults[0]?.reason).toBe('no-bow-typed');
    expect(drawn(null, places([5, 0], [-5, 0])).faults[0]?.reason).toBe('bow-goes-back');
  });

  it('is refused of lines that are closed, go back on themselves, are gone, or are seen from one side', () => {
    const reason = (change: Partial<typeof dome>, ...drawn: Drawn[]) =>
      planned([outer, along, across, ...drawn], [body, { ...dome, ...change }]).faults[0]?.reason;
    expect(reason({ path: 'box' }, { id: 'box', sketch: 'front', form: rectangle(0, 0, 5, 5) })).toBe('no-bow');
    expect(reason({ path: 'back' }, line('back', 'front', [0, 0], [40, 4], [30, 2]))).toBe('no-bow');
    expect(reason({ path: 'gone' })).toBe('nothing-to-go-by');
    expect(reason({ acrossSketch: 'front', across: 'along' })).toBe('one-side');
    expect(planned([along, across], [dome]).faults[0]?.reason).toBe('no-body');
  });
});
