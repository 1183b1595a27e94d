import { describe, expect, it } from 'vitest';
import { type Calibration, calibrate, figureOf } from '../calibration';
import { type Form, formArea, formLength } from '../geometry';
import { seededRandom } from '../numeric';
import { calibrationInput, onPlane } from './calibrationInput';
import type { ChainRun, SegmentRecord, TracedPoint } from './document';
import { formOf } from './forms';
import { measureRun } from './measure';
import { sampleJob } from './sample.test-data';
import { pointsOfRun } from './traceActions';

const job = sampleJob();
const [picture] = job.pictures;

function trued(hold: 'flat-on' | 'free', draws?: number): Calibration {
  const result = calibrate({ ...calibrationInput(picture), hold }, { draws });
  if (!result.ok) throw new Error(result.reason);
  return result.truing;
}

/** A closed run of lines, arcs and curves round the picture's middle. */
function round(count: number, seed: number): { run: ChainRun; points: Record<string, TracedPoint> } {
  const random = seededRandom(seed);
  const points: Record<string, TracedPoint> = {};
  const at = (angle: number, r: number): string => {
    const id = `p${Object.keys(points).length}`;
    const [uPx, vPx] = [2000 + r * Math.cos(angle), 1500 - r * Math.sin(angle)];
    points[id] = { picture: 'pic', uPx, vPx, sigmaPx: 0.05 + 0.1 * random(), cling: 'edge', beside: null };
    return id;
  };
  const step = (2 * Math.PI) / count;
  const ends = Array.from({ length: count }, (_, k) => at(k * step, 700 + 60 * random()));
  const segments = ends.map((_, k): SegmentRecord => {
    if (k % 3 === 1) return { kind: 'arc', via: at((k + 0.5) * step, 760) };
    if (k % 3 === 2)
      return { kind: 'curve', handleFrom: at((k + 0.3) * step, 720), handleTo: at((k + 0.7) * step, 720) };
    return { kind: 'line' };
  });
  const run: ChainRun = {
    id: 'r',
    kind: 'chain',
    role: 'cut',
    name: 'round',
    layer: null,
    plane: 'face',
    points: ends,
    segments,
    closed: true,
  };
  return { run, points };
}

/** The plain way: each figure as a function of all places. */
function plainly(
  run: ChainRun,
  points: Record<string, TracedPoint>,
  truing: Calibration,
  what: (form: Form) => number,
) {
  const ids = pointsOfRun(run);
  const picks = ids.map((id) => onPlane(points[id], 'face'));
  return figureOf(truing, picks, (p) => {
    const form = formOf(run, (id) => ({ x: p[2 * ids.indexOf(id)], y: p[2 * ids.indexOf(id) + 1] }));
    return form ? what(form) : Number.NaN;
  });
}

const segment = (form: Form, k: number): Form =>
  form.kind === 'chain' ? { kind: 'chain', segments: [form.segments[k]], closed: false } : form;

describe('measureRun', () => {
  it.each([
    [7, 1],
    [12, 2],
    [2, 3],
  ])('tells what the plain way tells, of %i segments', (count, seed) => {
    const truing = { ...trued('flat-on'), draws: null };
    const { run, points } = round(count, seed);
    const measured = measureRun(points, run, truing, picture.truing);
    const same = (a: { value: number; plusMinus: number } | null | undefined, what: (form: Form) => number) => {
      const b = plainly(run, points, truing, what);
      expect(a?.value).toBeCloseTo(b?.value ?? Number.NaN, 9);
      expect(a?.plusMinus).toBeCloseTo(b?.plusMinus ?? Number.NaN, 6);
    };
    same(measured?.length, formLength);
    same(measured?.area, formArea);
    for (let k = 0; k < count; k++) same(measured?.segments[k].length, (form) => formLength(segment(form, k)));
    expect(Object.keys(measured?.corners ?? {})).toHaveLength(count);
  });

  it('tells by draws what the plain way tells, within what draws differ by', () => {
    const truing = trued('flat-on', 1500);
    expect(truing.draws?.length).toBeGreaterThan(1000);
    const { run, points } = round(9, 4);
    const measured = measureRun(points, run, truing, picture.truing);
    const plain = plainly(run, points, truing, formLength);
    expect((measured?.length.plusMinus ?? 0) / (plain?.plusMinus ?? 1)).toBeCloseTo(1, 1);
    const one = plainly(run, points, truing, (form) => formLength(segment(form, 0)));
    expect((measured?.segments[0].length.plusMinus ?? 0) / (one?.plusMinus ?? 1)).toBeCloseTo(1, 1);
  });

  it('measures only the segments asked for, and tells the same of them', () => {
    const truing = trued('flat-on', 200);
    const { run, points } = round(30, 5);
    const all = measureRun(points, run, truing, picture.truing);
    const some = measureRun(points, run, truing, picture.truing, { from: 10, to: 14 });
    expect(Object.keys(some?.segments ?? {})).toEqual(['10', '11', '12', '13']);
    expect(some?.segments[12]).toEqual(all?.segments[12]);
    expect(some?.length).toEqual(all?.length);
  });

  it('tells nothing of a circle whose points lie on one line', () => {
    const hole = job.part.runs[1];
    const points = { ...job.part.points, r3: { ...job.part.points.r3, uPx: 1674, vPx: 1500 } };
    expect(measureRun(points, hole, trued('flat-on', 0), picture.truing)).toBeNull();
  });
});
