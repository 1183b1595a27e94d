import { describe, expect, it } from 'vitest';
import type { Form, Vec2 } from '../geometry';
import { act, type JobAction, type JobDocument, NO_HISTORY } from '../job';
import { sampleJob } from '../job/sample.test-data';
import { checkForms } from '../proof';
import type { EvaluatedPath } from '../sketch';
import { drawnJob, run, square } from '../tracing/drawn.test-data';
import {
  conditionFindings,
  type Finding,
  featureFindings,
  flawFindings,
  pictureFindings,
  placeOfFinding,
  type Repair,
  sentenceOf,
} from '.';

const cut = (paths: readonly EvaluatedPath[]) => paths.map((p) => ({ id: p.path.id, forms: p.form ? [p.form] : [] }));
const found = (job: ReturnType<typeof drawnJob>) =>
  flawFindings(checkForms(cut(job.paths)), job.setting.job, job.setting);
/** What is done where a repair can be; else why not. */
const taken = (repair: Repair | undefined): JobAction | string => repair?.press?.act() ?? 'nothing to press';
const keysOf = (all: readonly Finding[]) => new Set(all.map((f) => f.key)).size;
const at = (x: number, y: number): Vec2 => ({ x, y });

describe('what a cutter would stumble over', () => {
  it('is told of its path, with the place, and nothing to press where nothing mends it by itself', () => {
    const job = drawnJob(
      run([
        [0, 0],
        [20, 0],
        [20, 10],
        [12, -6],
      ]),
    );
    const crossing = found(job).find((f) => f.says.includes('crosses'))!;
    expect(sentenceOf(crossing)).toBe('“Path 1” crosses itself.');
    expect(placeOfFinding(crossing)!.at.x).toBeCloseTo(15, 9);
    expect(crossing).toMatchObject({ gravity: 'doubtful', certainty: 'sure', repairs: [] });
  });

  it.each([
    [
      'a piece that lies on another',
      [
        square(0, 0, 20),
        run([
          [0, 0],
          [20, 0],
        ]),
      ],
    ],
    [
      'a stray click',
      [
        square(0, 0, 20),
        run([
          [50, 0],
          [50.04, 0],
        ]),
      ],
    ],
  ] as [string, Form[]][])('is gone when its repair is taken: %s', (_, forms) => {
    const job = drawnJob(...forms);
    const one = found(job).find((f) => f.repairs.length > 0)!;
    expect(one.repairs.map((r) => r.press?.name)).toEqual(['Take it out']);
    const action = taken(one.repairs[0]);
    if (typeof action === 'string') throw new Error(action);
    job.apply(action);
    expect(found(job)).toEqual([]);
    expect(job.paths[0]!.form).toEqual(square(0, 0, 20));
  });

  it('is smoothed where a curve can turn, and says why where it cannot', () => {
    const wave = (slope: number): Form => ({
      kind: 'chain',
      closed: false,
      segments: [
        { kind: 'line', from: at(0, 0), to: at(20, 0) },
        { kind: 'curve', from: at(20, 0), handleFrom: at(26, 6 * slope), handleTo: at(34, 5), to: at(40, 5) },
      ],
    });
    const job = drawnJob(wave(0.1));
    const kink = found(job).find((f) => f.says.includes('kink'))!;
    expect(kink).toMatchObject({ certainty: 'likely' });
    const action = taken(kink.repairs[0]);
    if (typeof action === 'string') throw new Error(action);
    job.apply(action);
    expect(found(job).filter((f) => f.says.includes('kink'))).toEqual([]);
    const arcs = drawnJob({
      kind: 'chain',
      closed: false,
      segments: [
        { kind: 'line', from: at(0, 0), to: at(20, 0) },
        { kind: 'arc', from: at(20, 0), via: at(30, 3.2), to: at(40, 10) },
      ],
    });
    const stiff = found(arcs).find((f) => f.says.includes('kink'))!;
    expect(taken(stiff.repairs[0])).toMatch(/Only curves can turn/);
  });

  it('is told apart by its key, and only told without a setting', () => {
    const job = drawnJob(square(0, 0, 20), square(10, 10, 20), square(5, 5, 30));
    const all = found(job);
    expect(all.length).toBeGreaterThan(3);
    expect(keysOf(all)).toBe(all.length);
    expect(flawFindings(checkForms(cut(job.paths)), job.setting.job, null).flatMap((f) => f.repairs)).toEqual([]);
  });
});

describe('what cannot be held together', () => {
  const job = drawnJob(square(0, 0, 20));
  const [own] = job.paths;
  const lines = own!.path.uses.map((u) => ({ sketch: own!.sketch.id, id: u.curve }));
  const sketch = {
    ...own!.sketch,
    constraints: {
      level: { id: 'level', kind: 'level' as const, count: null, refs: [lines[0]!] },
      plumb: { id: 'plumb', kind: 'plumb' as const, count: null, refs: [lines[0]!] },
    },
  };

  it('offers each of it to be taken away, by what it holds', () => {
    const [one] = conditionFindings(sketch, { contradictions: [['level', 'plumb']], lost: [] });
    expect(one).toMatchObject({ gravity: 'wrong', where: { kind: 'conditions', conditions: ['level', 'plumb'] } });
    expect(one!.repairs.map((r) => r.says)).toEqual(['Level: line 1 of Path 1', 'Plumb: line 1 of Path 1']);
    expect(taken(one!.repairs[1])).toMatchObject({ label: expect.stringMatching(/./) });
  });

  it('tells two sizes of one thing apart by what was decided', () => {
    const decided = (id: string, text: string) => ({
      id,
      kind: 'diameter' as const,
      along: 'straight' as const,
      refs: [lines[0]!],
      label: null,
      origin: { kind: 'decided' as const, value: { text, unit: 'mm' as const }, why: '' },
    });
    const sized = { ...sketch, dimensions: { a: decided('a', '45'), b: decided('b', 'wall / 2') } };
    const [one] = conditionFindings(sized, { contradictions: [['a', 'b']], lost: [] });
    expect(one!.repairs.map((r) => r.says)).toEqual([
      'Ø of line 1 of Path 1, decided as 45',
      'Ø of line 1 of Path 1, decided as wall / 2',
    ]);
  });

  it('offers nothing for what is gone', () => {
    const [one] = conditionFindings(sketch, { contradictions: [['gone']], lost: [] });
    expect(one!.says).toBe('This cannot be:');
    expect(one!.repairs[0]!.press).toBeNull();
  });
});

describe('what of a body cannot be made', () => {
  it('is told by its feature, with the place of its profile', () => {
    const { part, unit } = sampleJob();
    const where = { path: 'p', at: at(3, 4), other: null };
    const [one] = featureFindings([{ feature: 'gone', reason: 'touches', detail: 'Rim', where }], { part, unit });
    expect(sentenceOf(one!)).toMatch(/^A feature: “Rim” touches itself at X 3.* Y 4/);
    expect(placeOfFinding(one!)).toEqual(where);
  });
});

describe('what of a picture contradicts itself', () => {
  const sample = sampleJob();
  const picture = sample.pictures[0]!;
  const off = {
    found: { value: 101, plusMinus: 0.2 },
    deviationMm: 1,
    deviationShare: 0.01,
    plusMinusMm: 0.2,
    fits: false,
  };
  const spot = { ...(picture.calibration.spotChecks[0] ?? {}), id: 'spot' } as never;
  const checked = { ...picture, calibration: { ...picture.calibration, spotChecks: [spot] } };
  const told = (explanations: Parameters<typeof pictureFindings>[2]) =>
    pictureFindings(checked, { references: {}, spotChecks: { spot: off } }, explanations, 'mm');

  it('is nothing where all fits', () => {
    const good = { ...off, fits: true };
    expect(pictureFindings(checked, { references: {}, spotChecks: { spot: good } }, [], 'mm')).toEqual([]);
  });

  it('names the yardstick that the rest finds otherwise', () => {
    const y = picture.calibration.references[0]!;
    const [one] = pictureFindings(picture, { references: { [y.id]: off }, spotChecks: {} }, [], 'mm');
    expect(sentenceOf(one!)).toMatch(/^The known length 1: .*1\.0 % larger/);
    expect(one!.where).toEqual({ kind: 'reference', picture: picture.id, reference: y.id });
  });

  it('has every explanation of spot checks as a repair, which changes what it names', () => {
    const y = picture.calibration.references[0]!;
    const [one] = told([
      { kind: 'height', plane: 'face', heightMm: { value: 4.2, plusMinus: 0.3 } },
      { kind: 'size', reference: y.id, sizeMm: { value: 98.5, plusMinus: 0.1 } },
      { kind: 'lens', share: { value: 1.2, plusMinus: 0.05 } },
      { kind: 'factor', factor: { value: 0.99, plusMinus: 0.001 } },
    ]);
    expect(one!.says).toBe('A spot check does not fit within its ±.');
    const [height, size, lens, factor] = one!.repairs;
    expect(lens!.press).toBeNull();
    const after = (repair: Repair | undefined): JobDocument => {
      const action = taken(repair);
      if (typeof action === 'string') throw new Error(action);
      return act({ job: sample, history: NO_HISTORY }, action).job;
    };
    expect(after(size).pictures[0]!.calibration.references[0]).toMatchObject({ lengthMm: 98.5, plusMinusMm: 0.1 });
    expect(after(factor).pictures[0]!.calibration.factor).toMatchObject({ value: 0.99 });
    expect(JSON.stringify(after(height).pictures[0]!.calibration)).toContain('4.2');
  });
});
