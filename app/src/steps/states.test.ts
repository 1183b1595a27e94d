import { act, closePath, type JobDocument, NO_HISTORY, openPath } from '@steady-moth/core/job';
import { newPart } from '@steady-moth/core/sketch';
import { describe, expect, it } from 'vitest';
import { sampleJob } from '../../../core/src/job/sample.test-data';
import { STEPS } from '.';

const told = (job: JobDocument) => Object.fromEntries(STEPS.map((s) => [s.name, s.stateOf(job)]));
const done = (job: JobDocument, ...actions: Parameters<typeof act>[1][]) =>
  actions.reduce((state, action) => act(state, action), { job, history: NO_HISTORY }).job;

describe('how far each step has come', () => {
  it('is told by the step, with what it lacks', () => {
    expect(told(sampleJob())).toMatchObject({
      picture: { bead: 'full', lacks: '' },
      true: { bead: 'chipped', lacks: 'One known length does not see how the camera was tilted' },
      trace: { bead: 'full', lacks: '' },
      size: { bead: 'empty', lacks: 'No size is decided yet' },
      solid: { bead: 'empty', lacks: 'No body yet; a flat part needs none' },
      handover: { bead: 'full', lacks: '' },
    });
  });

  it('names an open path where it is traced and where it would be handed over, until it is closed', () => {
    const opened = done(sampleJob(), openPath('path1'));
    const open = { bead: 'chipped', lacks: '“Outer edge” is still open' };
    expect(told(opened)).toMatchObject({ trace: open, handover: open });
    expect(told(done(opened, closePath('path1', 'again')))).toMatchObject({ trace: { bead: 'full' } });
  });

  it('is empty in a job with nothing in it', () => {
    const states = told({ ...sampleJob(), pictures: [], part: newPart() });
    for (const name of ['picture', 'true', 'trace', 'size', 'solid', 'handover'])
      expect(states[name]).toMatchObject({ bead: 'empty', lacks: expect.stringMatching(/./) });
  });

  it('says which formula comes to nothing, and which feature has lost its path', () => {
    const job = structuredClone(sampleJob());
    job.part.parameters.push({ id: 'p', name: 'wall', value: { text: 'nobody * 2', unit: 'mm' } });
    expect(told(job).size).toEqual({ bead: 'chipped', lacks: 'The formula of wall comes to nothing' });
    const turned = structuredClone(sampleJob());
    turned.part.features.push({
      ...({
        id: 'f',
        name: 'Knob',
        kind: 'revolve',
        path: 'gone',
        axis: null,
      } as (typeof turned.part.features)[number]),
    });
    expect(told(turned).solid).toEqual({ bead: 'chipped', lacks: '“Knob” cannot be made' });
  });
});
