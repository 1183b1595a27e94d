import { describe, expect, it } from 'vitest';
import { type Calibration, calibrate, figureOf } from '../../calibration';
import { type Form, formArea, formLength } from '../../geometry';
import { seededRandom } from '../../numeric';
import { formOf, MAIN_SKETCH, type Observation, observationIn, observedOf, type Path, type Sketch } from '../../sketch';
import { type Bent, seen, sketchOf } from '../../sketch/traced.test-data';
import { calibrationInput, onPlane } from '../calibrationInput';
import { sampleJob } from '../sample.test-data';
import { measurePath } from './measure';
import { leadingOf, overallAlong } from './overall';

const job = sampleJob();
const [picture] = job.pictures;

function calibrated(hold: 'flat-on' | 'free', draws?: number): Calibration {
  const result = calibrate({ ...calibrationInput(picture!), hold }, { draws });
  if (!result.ok) throw new Error(result.reason);
  return result.calibration;
}

/** A closed path of lines, arcs and curves round the picture's middle. */
function round(count: number, seed: number): { sketch: Sketch; path: Path } {
  const random = seededRandom(seed);
  const all: Record<string, Observation> = {};
  const at = (angle: number, r: number): string => {
    const id = `p${Object.keys(all).length}`;
    all[id] = seen(2000 + r * Math.cos(angle), 1500 - r * Math.sin(angle), { sigmaPx: 0.05 + 0.1 * random() });
    return id;
  };
  const step = (2 * Math.PI) / count;
  const points = Array.from({ length: count }, (_, k) => at(k * step, 700 + 60 * random()));
  const bent = points.map((_, k): Bent => {
    if (k % 3 === 1) return { arc: at((k + 0.5) * step, 760) };
    return k % 3 === 2 ? { cubic: [at((k + 0.3) * step, 720), at((k + 0.7) * step, 720)] } : 'line';
  });
  return sketchOf(all, { points, bent });
}

/** The plain way: each figure as a function of all places. */
function plainly(
  { sketch, path }: { sketch: Sketch; path: Path },
  calibration: Calibration,
  what: (form: Form) => number,
) {
  const ids = observedOf(sketch, path);
  const picks = ids.map((id) => onPlane(observationIn(sketch, id) as Observation, 'face'));
  return figureOf(calibration, picks, (p) => {
    const form = formOf(sketch, path, (id) => ({ x: p[2 * ids.indexOf(id)]!, y: p[2 * ids.indexOf(id) + 1]! }));
    return form ? what(form) : Number.NaN;
  });
}

const segmentsIn = (form: Form) => (form.kind === 'chain' ? form.segments : []);

/** The form where it was seen. */
function formAsSeen(traced: { sketch: Sketch; path: Path }, calibration: Calibration): Form {
  let seen: Form | null = null;
  plainly(traced, calibration, (form) => {
    seen ??= form;
    return 0;
  });
  return seen!;
}

const segment = (form: Form, k: number): Form =>
  form.kind === 'chain' ? { kind: 'chain', segments: [form.segments[k]!], closed: false } : form;

describe('measurePath', () => {
  it.each([
    [7, 1],
    [12, 2],
    [2, 3],
  ])('tells what the plain way tells, of %i pieces', (count, seed) => {
    const calibration = { ...calibrated('flat-on'), draws: null };
    const traced = round(count, seed);
    const measured = measurePath(traced.sketch, traced.path, calibration, picture!.calibration);
    const same = (a: { value: number; plusMinus: number } | null | undefined, what: (form: Form) => number) => {
      const b = plainly(traced, calibration, what);
      expect(a?.value).toBeCloseTo(b?.value ?? Number.NaN, 9);
      expect(a?.plusMinus).toBeCloseTo(b?.plusMinus ?? Number.NaN, 6);
    };
    same(measured?.length, formLength);
    same(measured?.area, formArea);
    // The plain way: how far all of it reaches along and across the piece that it is laid by, all places scattered.
    const lead = leadingOf(segmentsIn(formAsSeen(traced, calibration)))?.lead;
    for (const which of [0, 1] as const)
      if (lead !== undefined && measured?.overall) {
        const across = (form: Form) => overallAlong(segmentsIn(form)[lead]!, segmentsIn(form));
        const isLong = (f: number) => Math.abs(f - measured.overall![0].value) < 1e-6;
        const told = isLong(plainly(traced, calibration, (f) => across(f)[which])!.value) ? 0 : 1;
        same(measured.overall[told], (form) => across(form)[which]);
      }
    expect(measured?.overall === null).toBe(lead === undefined);
    for (let k = 0; k < count; k++)
      same(measured?.pieces[`path-c${k}`]?.length, (form) => formLength(segment(form, k)));
    expect(Object.keys(measured?.corners ?? {})).toHaveLength(count);
  });

  it('tells by draws what the plain way tells, within what draws differ by', () => {
    const calibration = calibrated('flat-on', 1500);
    expect(calibration.draws?.length).toBeGreaterThan(1000);
    const traced = round(9, 4);
    const measured = measurePath(traced.sketch, traced.path, calibration, picture!.calibration);
    const plain = plainly(traced, calibration, formLength);
    expect((measured?.length.plusMinus ?? 0) / (plain?.plusMinus ?? 1)).toBeCloseTo(1, 1);
    const one = plainly(traced, calibration, (form) => formLength(segment(form, 0)));
    expect((measured?.pieces['path-c0']?.length.plusMinus ?? 0) / (one?.plusMinus ?? 1)).toBeCloseTo(1, 1);
  });

  it('measures only the pieces asked for, and tells the same of them', () => {
    const calibration = calibrated('flat-on', 200);
    const traced = round(30, 5);
    const all = measurePath(traced.sketch, traced.path, calibration, picture!.calibration);
    const some = measurePath(traced.sketch, traced.path, calibration, picture!.calibration, { from: 10, to: 14 });
    expect(Object.keys(some?.pieces ?? {})).toEqual([10, 11, 12, 13].map((k) => `path-c${k}`));
    expect(some?.pieces['path-c12']).toEqual(all?.pieces['path-c12']);
    expect(some?.length).toEqual(all?.length);
  });

  it('tells nothing of a circle whose points lie on one line', () => {
    const sketch = structuredClone(job.part.sketches[MAIN_SKETCH]);
    Object.assign(sketch!.picks['hole1-r2']!, { uPx: 1674, vPx: 1500 });
    expect(measurePath(sketch!, sketch!.paths.hole1!, calibrated('flat-on', 0), picture!.calibration)).toBeNull();
  });

  it('tells of a line whose length was decided what was decided, and of the others what was seen', () => {
    const calibration = { ...calibrated('flat-on'), draws: null };
    const traced = round(8, 6);
    const free = measurePath(traced.sketch, traced.path, calibration, picture!.calibration);
    const { from, to, id } = traced.sketch.curves['path-c3'] as { from: string; to: string; id: string };
    expect(traced.sketch.curves[id]!.kind).toBe('line');
    const was = free?.pieces[id]?.length.value ?? 0;
    const refs = [from, to].map((point) => ({ sketch: 'sketch', id: point }));
    const value = { text: (was + 0.5).toFixed(3), unit: 'mm' as const };
    const sketch: Sketch = {
      ...traced.sketch,
      dimensions: {
        d: {
          id: 'd',
          kind: 'distance',
          refs,
          along: 'straight',
          label: null,
          origin: { kind: 'decided', value, why: '' },
        },
      },
    };
    const decided = measurePath(sketch, traced.path, calibration, picture!.calibration);
    expect(decided?.pieces[id]?.length.value).toBeCloseTo(Number(value.text), 9);
    expect(decided?.pieces[id]?.length.plusMinus).toBeLessThan(1e-6);
    expect(decided?.pieces[id]?.decided).toBe('d');
    // A piece that touches it follows its end, which moved by about half the difference; one far from it does not.
    expect(decided?.pieces['path-c7']).toEqual(free?.pieces['path-c7']);
    expect(decided?.pieces['path-c2']?.length.value).not.toBe(free?.pieces['path-c2']?.length.value);
    expect(decided?.pieces['path-c2']?.length.plusMinus).toBeGreaterThan(0);
  });

  it('tells of a circle whose diameter was decided that, and what was seen beside it', () => {
    const sketch = structuredClone(job.part.sketches[MAIN_SKETCH]);
    sketch!.dimensions.d = {
      id: 'd',
      kind: 'diameter',
      refs: [{ sketch: 'sketch', id: 'hole1-c' }],
      along: 'straight',
      label: null,
      origin: { kind: 'decided', value: { text: '3/8 in', unit: 'mm' }, why: '' },
    };
    const found = measurePath(sketch!, sketch!.paths.hole1!, calibrated('flat-on', 0), picture!.calibration);
    expect(found?.diameter).toEqual({ value: expect.closeTo(9.525, 9), plusMinus: 0 });
    expect(found?.decided?.seen?.value).toBeCloseTo(10, 0);
  });
});
