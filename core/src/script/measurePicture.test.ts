import { execFile } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { describe, expect, it } from 'vitest';
import type { MeasureAnswer } from './answerPicture';
import { measurePicture } from './measurePicture';
import type { MeasureRequest } from './request';

const root = fileURLToPath(new URL('../../../', import.meta.url));
const run = async (...args: string[]): Promise<{ stdout: string; stderr: string; code: number }> => {
  try {
    return {
      ...(await promisify(execFile)('node', ['--import', 'tsx', 'scripts/measure.ts', ...args], { cwd: root })),
      code: 0,
    };
  } catch (error) {
    return error as { stdout: string; stderr: string; code: number };
  }
};
const example: MeasureRequest = JSON.parse(readFileSync(`${root}demo/script/latch-plate.json`, 'utf8'));

describe('a request that leads nowhere', () => {
  const facts = { widthPx: 4032, heightPx: 3024, focal35Mm: 27, focalMm: 5.6, doubts: [], resolution: null };
  const short = { id: 'a', from: [2000, 1500], to: [2010, 1500], length: '1 ± 0.2', cling: 'none' } as const;

  it('is refused where a ± would have no bound, with the point', () => {
    const far = { at: [5000, -1500], cling: 'none' } as const;
    const near = { at: [2000, 2900], cling: 'none' } as const;
    expect(measurePicture({ yardsticks: [short], points: { far, near } }, facts, null)).toEqual({
      ok: false,
      reason: 'without-bound',
      at: 'far',
    });
    expect(measurePicture({ yardsticks: [short], points: { near } }, facts, null).ok).toBe(true);
  });
});

describe('the example of docs/core.md', () => {
  it('measures the latch plate within its ±', async () => {
    const { stdout } = await run('demo/pictures/latch-plate.jpg', 'demo/script/latch-plate.json');
    const answer = JSON.parse(stdout) as MeasureAnswer;
    const truth = { 'left right': 90, 'slot low slot high': 7 } as Record<string, number>;
    for (const d of answer.distances) {
      const off = Math.abs((d.mm?.value ?? 0) - truth[`${d.from} ${d.to}`]!);
      expect(off).toBeLessThan(d.mm?.plusMinus ?? 0);
      // A rule by its readings and two lengths leave ± 0.6 mm: a hundredth of a pixel moves it by 0.2.
      expect(off).toBeLessThan(0.4);
    }
    expect(Math.abs(answer.truing.tiltDegrees - 6.5)).toBeLessThan(answer.truing.tiltPlusMinusDegrees);
    expect(Object.values(answer.yardsticks).every((a) => a?.fits)).toBe(true);
  });

  it('takes the width of a ruler that it finds, and holds it against all else', async () => {
    const path = join(tmpdir(), `moth-width-${process.pid}.json`);
    const rule = { id: 'rule', kind: 'ruler' as const, click: [1700, 1890] as const, width: '19 ± 0.03' };
    const measured = async (width: string) => {
      writeFileSync(path, JSON.stringify({ ...example, yardsticks: [{ ...rule, width }] }));
      return JSON.parse((await run('demo/pictures/latch-plate.jpg', path)).stdout) as MeasureAnswer;
    };
    const [right, wrong] = [await measured('19 ± 0.03'), await measured('19.5')];
    expect(right.rulerWidths.rule!.measured?.fits).toBe(true);
    expect(Math.abs(right.rulerWidths.rule!.found.value - 19)).toBeLessThan(right.rulerWidths.rule!.found.plusMinus);
    expect(Math.abs(right.truing.tiltDegrees - 6.5)).toBeLessThan(right.truing.tiltPlusMinusDegrees);
    expect(right.truing.tiltPlusMinusDegrees).toBeLessThan(1);
    expect(wrong.rulerWidths.rule!.measured?.fits).toBe(false);
  });

  it.each([
    ['no such picture', ['nowhere.jpg', 'demo/script/latch-plate.json'], /nowhere\.jpg cannot be read/],
    ['a picture that is none', ['package.json', 'demo/script/latch-plate.json'], /not-a-picture/],
    ['a request that is no JSON', ['demo/pictures/latch-plate.jpg', 'README.md'], /is not JSON/],
    ['no arguments', [], /Say which/],
  ])('says what is wrong with %s', async (_, args, sentence) => {
    const { stderr, code } = await run(...args);
    expect(code).toBe(1);
    expect(stderr).toMatch(sentence);
  });

  it('refuses a field that nobody knows', async () => {
    const path = join(tmpdir(), `moth-request-${process.pid}.json`);
    writeFileSync(path, JSON.stringify({ ...example, surprise: 1 }));
    expect((await run('demo/pictures/latch-plate.jpg', path)).stderr).toMatch(/additional properties/);
  });
});

describe('the turned knob', () => {
  it('is as large as it was turned, by its limbs and a stick in the plane of its axis', async () => {
    const { stdout } = await run('demo/pictures/focus-knob.jpg', 'demo/script/focus-knob.json');
    const answer = JSON.parse(stdout) as MeasureAnswer;
    const truth: Record<string, number> = { flange: 30, neck: 18, grip: 26 };
    for (const { from, mm } of answer.distances) {
      const off = Math.abs((mm?.value ?? 0) - truth[from.split(' ')[0]!]!);
      expect(off).toBeLessThan(mm?.plusMinus ?? 0);
      expect(off).toBeLessThan(0.06);
    }
    expect(Math.abs((answer.turned?.diameterMm?.value ?? 0) - 26)).toBeLessThan(0.06);
  });
});

describe('the turned knob by one diameter', () => {
  const request = JSON.parse(readFileSync(`${root}demo/script/focus-knob.json`, 'utf8')) as MeasureRequest;
  const grip = { id: 'grip', kind: 'turned-diameter' as const, diameter: '26 ± 0.02' };

  it('makes the picture true: its flange is as large as it was turned', async () => {
    const path = join(tmpdir(), `moth-grip-${process.pid}.json`);
    writeFileSync(path, JSON.stringify({ ...request, yardsticks: [grip] }));
    const { stdout } = await run('demo/pictures/focus-knob.jpg', path);
    const answer = JSON.parse(stdout) as MeasureAnswer;
    const flange = answer.distances.find((d) => d.from.startsWith('flange'))?.mm;
    expect(Math.abs((flange?.value ?? 0) - 30)).toBeLessThan(Math.min(0.25, flange?.plusMinus ?? 0));
  });

  it('is refused where no turned part is named, and without a size', async () => {
    const path = join(tmpdir(), `moth-none-${process.pid}.json`);
    writeFileSync(path, JSON.stringify({ yardsticks: [grip] }));
    expect((await run('demo/pictures/focus-knob.jpg', path)).stderr).toMatch(/names no turned part/);
    writeFileSync(path, JSON.stringify({ ...request, yardsticks: [{ ...grip, diameter: 'wide' }] }));
    expect((await run('demo/pictures/focus-knob.jpg', path)).stderr).toMatch(/grip/);
  });
});

describe('the scanned drawing', () => {
  const truth = JSON.parse(readFileSync(`${root}demo/pictures/funnel-bracket.truth.json`, 'utf8')) as {
    marks: { name: string; own: [number, number]; picture: [number, number] }[];
  };
  const at = (name: string) => truth.marks.find((m) => m.name === name)?.picture ?? [0, 0];
  const perMm = 300 / 25.4;
  const facts = {
    widthPx: 2550,
    heightPx: 2600,
    focal35Mm: null,
    focalMm: null,
    doubts: [],
    resolution: { perMmX: perMm, perMmY: perMm, sigma: 0.0025 },
  };
  const points = Object.fromEntries(truth.marks.map((m) => [m.name, { at: m.picture }]));
  const request = (yardsticks: MeasureRequest['yardsticks']): MeasureRequest => ({
    kind: 'scan',
    yardsticks,
    points,
    distances: [
      { from: 'frame lower left', to: 'frame lower right' },
      { from: 'frame lower left', to: 'frame upper left' },
      { from: 'front foot', to: 'plate upper' },
    ],
  });
  const off = (r: MeasureRequest) => {
    const result = measurePicture(r, facts, null);
    if (!result.ok) throw new Error(JSON.stringify(result));
    return result.answer.distances.map(({ from, to, mm }) => {
      const own = (name: string) => truth.marks.find((m) => m.name === name)?.own ?? [0, 0];
      const true_ = Math.hypot(own(from)[0] - own(to)[0], own(from)[1] - own(to)[1]);
      return { off: Math.abs((mm?.value ?? 0) - true_), plusMinus: mm?.plusMinus ?? 0 };
    });
  };

  it('is within its ± by what the file states, and far nearer by two known lengths across each other', () => {
    const stated = off(request([]));
    for (const d of stated) expect(d.off).toBeLessThan(d.plusMinus);
    expect(Math.max(...stated.map((d) => d.off))).toBeGreaterThan(0.3);
    const known = off(
      request([
        { id: 'wide', from: at('plate left'), to: at('plate right'), length: '80 ± 0.02' },
        { id: 'high', from: at('plate lower'), to: at('plate upper'), length: '50 ± 0.02' },
      ]),
    );
    for (const d of known) {
      expect(d.off).toBeLessThan(d.plusMinus);
      expect(d.off).toBeLessThan(0.12);
    }
  });
});

describe('measurePicture', () => {
  const facts = { widthPx: 4032, heightPx: 3024, focal35Mm: 27, focalMm: 5.6, doubts: [], resolution: null };

  it('takes picks as given without pixels', () => {
    const result = measurePicture(example, facts, null);
    expect(result.ok && result.answer.positions.left?.sigmaPx).toBe(0.5);
  });

  it.each([
    [
      'a length that is none',
      { yardsticks: [{ ...example.yardsticks[0]!, length: '1/0' }] },
      { reason: 'bad-length', at: 'rule' },
    ],
    [
      'a point that is not there',
      { distances: [{ from: 'left', to: 'nowhere' }] },
      { reason: 'unknown-point', at: 'nowhere' },
    ],
    [
      'picks in one place',
      { yardsticks: [{ ...example.yardsticks[0]!, to: example.yardsticks[0]!.from }] },
      { reason: 'picks-coincide', at: 'rule' },
    ],
  ])('refuses %s', (_, change, fault) => {
    expect(measurePicture({ ...example, ...(change as Partial<MeasureRequest>) }, facts, null)).toEqual({
      ok: false,
      ...fault,
    });
  });
});
