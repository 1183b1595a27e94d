import { describe, expect, it } from 'vitest';
import {
  evaluatePart,
  findPath,
  MAIN_SKETCH,
  observationsOf,
  observedOf,
  type Part,
  type Placing,
  pathsOf,
  walkOf,
} from '../../sketch';
import { putPath, seen } from '../../sketch/traced.test-data';
import { checkJob } from '../document/checkJob';
import { act, type JobState, NO_HISTORY, undo } from '../document/history';
import { sampleJob } from '../sample.test-data';
import {
  breakPath,
  changeLayer,
  deletePaths,
  extendTo,
  joinEnds,
  removePiece,
  reversePath,
  scalePicks,
  setLayer,
  setWorn,
} from './formActions';
import { addParameter, addVariant, changeParameter, dropParameter, showVariant } from './parameterActions';
import { addMaker, bend, decideDistance, extendPath, insertPoint, setPathPlane } from './pathActions';

const placing: Placing = new Map([
  ['pic', { isTrue: true, place: ({ uPx, vPx }) => ({ x: uPx / 10, y: -vPx / 10 }), turned: null }],
]);

/** A square and an open path of three lines beside it. */
function start(): JobState {
  const job = sampleJob();
  const sketch = job.part.sketches[MAIN_SKETCH]!;
  const places = { p: seen(0, 0), q: seen(100, 0), r: seen(100, 100), s: seen(0, 100) };
  putPath(sketch, places, { id: 'square', points: ['p', 'q', 'r', 's'] });
  const more = { t: seen(300, 0), u: seen(400, 0), v: seen(400, 50), w: seen(500, 50) };
  putPath(sketch, more, { id: 'open', points: ['t', 'u', 'v', 'w'], closed: false });
  return { job, history: NO_HISTORY };
}
const sound = (state: JobState) => {
  const checked = checkJob(JSON.parse(JSON.stringify(state.job)));
  expect(checked.ok ? null : checked).toBeNull();
};
const pathOf = ({ part }: { part: Part }, id: string) => findPath(part, id)!;
const points = (state: JobState, id: string) => {
  const { sketch, path } = pathOf(state.job, id);
  return walkOf(sketch, path)!.points;
};

describe('editing paths', () => {
  it('breaks a closed path open, and an open one in two, and nothing moves', () => {
    const before = start();
    const opened = act(before, breakPath('square', 'r', { rest: 'n1', point: 'n2' }));
    sound(opened);
    expect(pathOf(opened.job, 'square').path.closed).toBe(false);
    expect(points(opened, 'square')).toEqual(['n2', 's', 'p', 'q', 'r']);
    const { placeOf } = evaluatePart(opened.job.part, placing, { truly: true, draft: null });
    expect(placeOf('n2')).toEqual(placeOf('r'));
    const parted = act(opened, breakPath('open', 'u', { rest: 'n3', point: 'n4' }));
    sound(parted);
    expect(points(parted, 'open')).toEqual(['t', 'u']);
    expect(points(parted, 'n3')).toEqual(['n4', 'v', 'w']);
    expect(undo(undo(parted)!)!.job).toEqual(before.job);
    // The end of an open path cannot be broken.
    expect(act(before, breakPath('open', 't', { rest: 'n3', point: 'n4' })).job).toBe(before.job);
  });

  it('joins what was broken again, half way, and is as it was', () => {
    const opened = act(start(), breakPath('square', 'r', { rest: 'n1', point: 'n2' }));
    const joined = act(opened, joinEnds('r', 'n2', 'square'));
    sound(joined);
    expect(pathOf(joined.job, 'square').path.closed).toBe(true);
    expect(points(joined, 'square')).toHaveLength(4);
    const shifted = act(start(), joinEnds('q', 't', 'open'));
    sound(shifted);
  });

  it('joins two paths in the middle between their ends, as well known as the gap is narrow', () => {
    const parted = act(start(), breakPath('open', 'u', { rest: 'n3', point: 'n4' }));
    const moved: JobState = structuredClone(parted);
    const at = moved.job.part.sketches[MAIN_SKETCH]!.points.n4!.at as { uPx: number };
    at.uPx += 6;
    const joined = act(moved, joinEnds('u', 'n4', 'open'));
    sound(joined);
    expect(points(joined, 'open')).toEqual(['t', 'u', 'v', 'w']);
    expect(joined.job.part.sketches[MAIN_SKETCH]!.points.u!.at).toMatchObject({ uPx: 403, sigmaPx: 3 });
  });

  it('takes a piece out of the middle, the end, and all that there is', () => {
    const { job } = start();
    const curves = pathOf(job, 'open').path.uses.map((u) => u.curve);
    const parted = act(start(), removePiece('open', curves[1]!, 'n1'));
    sound(parted);
    expect([points(parted, 'open'), points(parted, 'n1')]).toEqual([
      ['t', 'u'],
      ['v', 'w'],
    ]);
    const shorter = act(start(), removePiece('open', curves[2]!, 'n1'));
    sound(shorter);
    expect(points(shorter, 'open')).toEqual(['t', 'u', 'v']);
    const none = act(parted, removePiece('open', curves[0]!, 'n2'));
    sound(none);
    expect(findPath(none.job.part, 'open')).toBeUndefined();
  });

  it('turns a path round and back', () => {
    const once = act(start(), reversePath('open'));
    sound(once);
    expect(points(once, 'open')).toEqual(['w', 'v', 'u', 't']);
    expect(points(act(once, reversePath('open')), 'open')).toEqual(['t', 'u', 'v', 'w']);
  });

  it('takes makers along with a path that is joined into another, or taken away', () => {
    const size = { text: '1', unit: 'mm' as const };
    const parted = act(start(), breakPath('open', 'u', { rest: 'n3', point: 'n4' }));
    const made = act(parted, addMaker({ id: 'mk', path: 'n3', kind: 'fillet', size, at: null }));
    sound(act(made, joinEnds('u', 'n4', 'open')));
    sound(act(made, deletePaths(['n3', 'square'])));
  });

  it('scales what was decided of it with it', () => {
    const typed = act(start(), decideDistance('square', 'd1', ['p', 'q'], { text: '10', unit: 'mm' }));
    const sketch = typed.job.part.sketches[MAIN_SKETCH]!;
    const moves = Object.fromEntries(
      ['p', 'q', 'r', 's'].map((id) => {
        const { kind: _, ...at } = sketch.points[id]!.at as ReturnType<typeof seen> & { kind: string };
        return [id, { ...at, uPx: 2 * at.uPx, vPx: 2 * at.vPx }];
      }),
    );
    const scaled = act(typed, scalePicks(moves, 2));
    sound(scaled);
    expect(Object.values(scaled.job.part.sketches[MAIN_SKETCH]!.dimensions)).toMatchObject([
      { origin: { value: { text: '20' } } },
    ]);
  });

  it('sees what is new of a path on the plane that the path lies on', () => {
    const curve = (state: JobState) => pathOf(state.job, 'open').path.uses[0]!.curve;
    let state = act(start(), setPathPlane('open', 'table'));
    const via = { id: 'v9', at: seen(350, 20) };
    state = act(state, bend(curve(state), { kind: 'arc', via }));
    const halves = [
      { kind: 'arc' as const, via: { id: 'k1', at: seen(320, 15) } },
      { kind: 'arc' as const, via: { id: 'k2', at: seen(380, 15) } },
    ] as const;
    state = act(state, insertPoint('open', curve(state), { id: 'i1', at: seen(350, 20) }, 'second', halves));
    state = act(state, extendPath('open', 'tail', { id: 'e1', at: seen(600, 50) }, 'more'));
    state = act(state, extendTo('open', 'e1', seen(650, 50)));
    sound(state);
    const { sketch, path } = pathOf(state.job, 'open');
    expect(observedOf(sketch, path)).toEqual(expect.arrayContaining(['i1', 'k1', 'k2', 'e1']));
    expect(new Set(observationsOf(sketch, path).map((o) => o.plane))).toEqual(new Set(['table']));
  });

  it('keeps layers and what is worn, and forgets both where they are no longer meant', () => {
    const [curve] = pathOf(start().job, 'square').path.uses.map((u) => u.curve);
    let state = act(start(), setWorn('square', curve!, true));
    state = act(state, setLayer(['square', 'open'], 'outline'));
    state = act(state, changeLayer('outline', { hidden: true, locked: false }));
    sound(state);
    expect(state.job.part.layers).toEqual([{ name: 'outline', hidden: true, locked: false }]);
    expect(pathsOf(state.job.part).filter((p) => p.layer === 'outline')).toHaveLength(2);
    state = act(state, changeLayer('outline', { hidden: false, locked: false }));
    state = act(state, deletePaths(['square']));
    sound(state);
    expect(state.job.part.layers).toEqual([]);
    expect(state.job.part.sketches[MAIN_SKETCH]!.worn).toEqual({});
  });
});

describe('parameters and variants', () => {
  const mm = (text: string) => ({ text, unit: 'mm' as const });

  it('have names of their own that formulas can hold', () => {
    let state = act(start(), addParameter('p1', 'wall', mm('2')));
    state = act(state, addParameter('p2', 'wall', mm('3')));
    state = act(state, addParameter('p3', 'two words', mm('3')));
    expect(state.job.part.parameters.map((p) => p.id)).toEqual(['p1']);
    state = act(state, addParameter('p2', 'gap', mm('3')));
    expect(act(state, changeParameter('p2', { name: 'wall' })).job).toBe(state.job);
    state = act(state, changeParameter('p2', { name: 'play' }));
    state = act(state, addVariant('v1', 'thick'));
    sound(state);
    expect(state.job.part.variant).toBe('v1');
    state = act(act(state, showVariant(null)), dropParameter('p1'));
    sound(state);
    expect(state.job.part.variant).toBeNull();
  });
});
