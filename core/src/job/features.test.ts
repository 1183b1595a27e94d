import { describe, expect, it } from 'vitest';
import type { Feature } from '../sketch';
import { changeParameter, newJob, sourceOfSize, upgradeDocument } from '.';
import * as said from './actions/featureActions';
import { checkJob } from './document/checkJob';
import { DOCUMENT_VERSION, type JobDocument } from './document/document';
import { act as actOn, type JobAction, NO_HISTORY } from './document/history';
import { sampleJob } from './sample.test-data';

const EXTRUDE: Extract<Feature, { kind: 'extrude' }> = {
  id: 'extrude',
  name: 'Extrude',
  kind: 'extrude',
  does: 'add',
  sketch: 'sketch',
  paths: null,
  heights: { from: { text: '0', unit: 'mm' }, to: { text: '3', unit: 'mm' } },
  draft: { text: '0', unit: 'number' },
  wall: null,
  laid: { by: 'low', length: 'own' },
};
const withPlate = (): JobDocument => sampleJob();
const act = (job: JobDocument, ...actions: JobAction[]): JobDocument =>
  actions.reduce((state, action) => actOn(state, action), { job, history: NO_HISTORY }).job;

describe('features of a part', () => {
  it('are added, changed, moved and taken away, each by one action that says so', () => {
    const edges: Feature = {
      id: 'edges',
      name: 'Edges',
      kind: 'edges',
      does: 'add',
      how: 'round',
      size: { text: '0.5', unit: 'mm' },
      which: { kind: 'outer' },
    };
    const ids = (...actions: JobAction[]) => act(withPlate(), ...actions).part.features.map((f) => f.id);
    const both = [said.addFeature(EXTRUDE), said.addFeature(edges)];
    expect(ids(...both)).toEqual(['extrude', 'edges']);
    expect(ids(...both, said.moveFeature('edges', -1), said.moveFeature('edges', -1))).toEqual(['edges', 'extrude']);
    expect(ids(...both, said.dropFeature('extrude'))).toEqual(['edges']);
    const thick = {
      ...EXTRUDE,
      heights: { from: { text: '0', unit: 'mm' as const }, to: { text: '7', unit: 'mm' as const } },
    };
    expect(act(withPlate(), ...both, said.changeFeature(thick)).part.features[0]).toEqual(thick);
    expect(said.addFeature(EXTRUDE).label).toBe('add extrude');
  });

  it('make a document that is sound, and follow a parameter that takes another name', () => {
    const wall = { id: 'p1', name: 'wall', value: { text: '3', unit: 'mm' as const } };
    const job = withPlate();
    job.part.parameters = [wall];
    const named = {
      ...EXTRUDE,
      heights: { from: { text: '0', unit: 'mm' as const }, to: { text: 'wall * 2', unit: 'mm' as const } },
    };
    const made = act(job, said.addFeature(named), changeParameter('p1', { name: 'sheet' }));
    // Words of formulas are no names: what asked for most(…) would no longer find it.
    expect(act(job, changeParameter('p1', { name: 'most' })).part.parameters[0]!.name).toBe('wall');
    expect(made.part.features[0]).toMatchObject({ heights: { to: { text: 'sheet * 2' } } });
    expect(checkJob(structuredClone(made))).toMatchObject({ ok: true });
    const twice = structuredClone(made);
    twice.part.features.push(structuredClone(twice.part.features[0]!));
    expect(checkJob(twice)).toMatchObject({ ok: false });
  });

  it('are none in a job of an earlier version', () => {
    const old = structuredClone(newJob('job', 'Old', '2026-01-01T00:00:00.000Z', 'mm')) as unknown as {
      version: number;
      part: Record<string, unknown>;
    };
    old.version = 15;
    for (const what of ['features', 'material', 'bodyChecks', 'bodyFactor']) delete old.part[what];
    const made = upgradeDocument(old);
    expect(made).toMatchObject({
      ok: true,
      document: { version: DOCUMENT_VERSION, part: { features: [], material: null, bodyChecks: [] } },
    });
  });
});

describe('where a size of the body comes from', () => {
  const part = act(withPlate(), said.addFeature(EXTRUDE)).part;
  const face = (of: 'start' | 'end' | 'side', curve: string | null = null, path = 'path1') =>
    ({ feature: 'extrude', of, path, curve, nth: 0 }) as const;

  it('is what was typed between the flat faces, and pieces of the sketch elsewhere', () => {
    expect(sourceOfSize(part, [face('start'), face('end')])).toEqual({ kind: 'typed' });
    const curves = part.sketches.sketch!.paths.path1!.uses.map((u) => u.curve);
    expect(sourceOfSize(part, [face('side', curves[0]!), face('side', curves[1]!)])).toMatchObject({
      kind: 'sketch',
      dimension: { kind: 'distance', refs: [{ id: curves[0] }, { id: curves[1] }] },
    });
    const hole = part.sketches.sketch!.paths.hole1!.uses[0]!.curve;
    expect(sourceOfSize(part, [face('side', hole, 'hole1')])).toMatchObject({
      kind: 'sketch',
      dimension: { kind: 'diameter' },
    });
  });

  it('is nowhere for what is gone, and for a flat face alone', () => {
    expect(sourceOfSize(part, [{ ...face('side'), feature: 'gone' }])).toBeNull();
    expect(sourceOfSize(part, [face('end')])).toBeNull();
    expect(sourceOfSize(part, [face('side', 'no-such-curve')])).toBeNull();
  });
});
