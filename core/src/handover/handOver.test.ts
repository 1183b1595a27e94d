import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { sentenceOf } from '../findings';
import { readJobFile } from '../format';
import type { JobDocument } from '../job';
import { createCalibrator, placingOf } from '../job/calibrated';
import { makeProfile, planJob } from '../script';
import { evaluatePart, type Maker, sketchesOf } from '../sketch';
import { handedOver, worthALook } from '.';

const load = (name: string): JobDocument => {
  const opened = readJobFile(new Uint8Array(readFileSync(new URL(`../../../demo/jobs/${name}.moth`, import.meta.url))));
  if (!opened.ok) throw new Error(opened.reason);
  return structuredClone(opened.job);
};
const OPTIONS = { date: '2026-01-01', notes: true, sizes: false, view: null };
const evaluated = (job: JobDocument) =>
  evaluatePart(job.part, placingOf(job, createCalibrator()), { truly: true, draft: null });
const said = (job: JobDocument) => {
  const made = makeProfile(job, OPTIONS);
  return made.faults.map(sentenceOf);
};

describe('what is handed over', () => {
  it.each(['latch-plate', 'lamp-gasket', 'baffle-pattern', 'focus-knob', 'funnel-bracket'])(
    'of a finished %s has no fault, and is the same for the screen and for a script',
    (name) => {
      const job = load(name);
      const own = handedOver(job, evaluated(job), OPTIONS);
      const made = makeProfile(job, OPTIONS);
      expect(own.faults).toEqual([]);
      expect(made.ok && made.profile).toEqual(own.profile);
    },
  );

  it('names an offset that cannot be made, and the path that stays as it was', () => {
    const job = load('latch-plate');
    const sketch = sketchesOf(job.part)[0]!;
    const path = Object.values(sketch.paths).find((p) => p.closed && p.uses.length > 3)!;
    const by = { text: '400', unit: 'mm' as const };
    const offset: Maker = {
      id: 'm',
      path: path.id,
      place: 0,
      kind: 'offset',
      by,
      side: 'in',
      corners: 'round',
      except: {},
    };
    sketch.makers = { m: offset };
    expect(said(job)).toEqual([expect.stringMatching(new RegExp(`“${path.name}”.*no room for it`))]);
  });

  it('names sizes that contradict each other, and a parameter that comes to nothing', () => {
    const job = load('latch-plate');
    const sketch = sketchesOf(job.part)[0]!;
    const circle = Object.values(sketch.curves).find((c) => c.kind === 'circle')!;
    for (const [id, text] of [
      ['one', '9'],
      ['two', '12'],
    ] as const)
      sketch.dimensions[id] = {
        id,
        kind: 'diameter',
        along: 'straight',
        refs: [{ sketch: sketch.id, id: circle.id }],
        label: null,
        origin: { kind: 'decided', value: { text, unit: 'mm' }, why: '' },
      };
    job.part.parameters.push({ id: 'p', name: 'nowhere', value: { text: 'nobody * 2', unit: 'mm' } });
    const sentences = said(job).join(' ');
    expect(sentences).toMatch(/contradict each other/);
    expect(sentences).toMatch(/nowhere comes to nothing\. There is no parameter called nobody/);
  });

  it('names what lies on a height that is not there, and leaves it out', () => {
    const job = load('latch-plate');
    const sketch = sketchesOf(job.part)[0]!;
    const before = makeProfile(job, OPTIONS);
    for (const { at } of Object.values(sketch.points)) if (at.kind === 'observed') at.plane = 'gone';
    for (const pick of Object.values(sketch.picks)) pick.plane = 'gone';
    const made = makeProfile(job, OPTIONS);
    expect(before.ok && before.profile.forms.length).toBeGreaterThan(0);
    expect(made.ok).toBe(false);
    expect(made.faults.length).toBeGreaterThan(0);
  });

  it('tells of a body what its features lack, and of what is cut what a cutter would stumble over', () => {
    const job = load('lamp-gasket');
    const extrude = job.part.features.find((f) => f.kind === 'extrude');
    if (!extrude) throw new Error('the gasket has a body');
    job.part.features.push({ ...extrude, id: 'other', paths: ['gone'] });
    const planned = planJob(job);
    expect(planned.ok && planned.body.faults.map(sentenceOf).join(' ')).toMatch(/is gone/);
    const open = load('latch-plate');
    const sketch = sketchesOf(open.part)[0]!;
    const path = Object.values(sketch.paths).find((p) => p.closed && p.uses.length > 3)!;
    path.closed = false;
    path.uses = path.uses.slice(0, -1);
    expect(worthALook(open, evaluated(open), null).map(sentenceOf).join(' ')).toMatch(
      /is open: its ends are [\d.]+ mm apart/,
    );
  });
});
