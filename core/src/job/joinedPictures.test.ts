import { describe, expect, it } from 'vitest';
import {
  act,
  checkJob,
  groupOf,
  type JobDocument,
  joinedInput,
  type KnownLengthRecord,
  NO_HISTORY,
  upgradeDocument,
} from '.';
import { addPlane, addReference, removePlane, removeReference } from './actions/calibrationActions';
import { addJoin, moveCommonPoint, removeJoin } from './actions/joinActions';
import { addPicture, lockPicture, removePicture, swapPicture } from './actions/pictureActions';
import { canBeShared } from './joinedPictures';
import { sampleJob, sampleJob9 } from './sample.test-data';

const pick = (uPx: number, vPx = 100) => ({ uPx, vPx, sigmaPx: 0.1 });

/** A ruler of which two graduations to either side of each reading were counted. */
function ruler(id: string, typed: string, lengthMm: number): KnownLengthRecord {
  const count = lengthMm;
  const graduations = [0, 1, count - 1, count].map((n) => ({
    n,
    places: [pick(500 + 10 * n), pick(500 + 10 * n, 130)],
  }));
  const said = { id, plane: 'reference', typed, lengthMm, plusMinusMm: null } as const;
  const graduationsSaid = { spacingMm: 1, graduations, edge: [pick(500, 90), pick(900, 90)], far: [] };
  return {
    ...said,
    kind: 'known-length',
    from: pick(500),
    to: pick(500 + 10 * count),
    graduations: graduationsSaid,
    width: null,
  };
}

function two() {
  const job = sampleJob();
  const second = { ...structuredClone(job.pictures[0]!), id: 'second', fileName: 'right.jpg' };
  let state = act({ job, history: NO_HISTORY }, addPicture(second));
  state = act(state, addReference('pic', ruler('r1', '20 to 60', 40)));
  return act(state, addReference('second', ruler('r2', '80 to 40', 40)));
}
const point = (id = 'p1') => ({
  id,
  kind: 'point' as const,
  seen: [
    { picture: 'pic', plane: 'face', pick: pick(900) },
    { picture: 'second', plane: 'face', pick: pick(200) },
  ],
});
const same = {
  id: 'same',
  kind: 'reference' as const,
  seen: [
    { picture: 'pic', reference: 'r1' },
    { picture: 'second', reference: 'r2' },
  ],
};

describe('joined pictures', () => {
  it('make a group with what joins them, in the order of the job, the one being changed in its place', () => {
    const { job } = act(two(), addJoin(point()));
    expect(checkJob(job)).toMatchObject({ ok: true });
    const group = groupOf(job, 'second');
    expect(group?.pictures.map((p) => p.id)).toEqual(['pic', 'second']);
    const draft = { ...job.pictures[1]!, fileName: 'dragged' };
    expect(groupOf(job, 'pic', draft)?.pictures[1]).toBe(draft);
    expect(groupOf(two().job, 'pic')).toBeNull();
    // With nothing known in any of them there is nothing to go by.
    const empty = (p: JobDocument['pictures'][number]) => ({
      ...p,
      calibration: { ...p.calibration, references: [], axis: null, zero: null },
    });
    expect(groupOf({ ...job, pictures: job.pictures.map(empty) }, 'pic')).toBeNull();
  });

  it('take one ruler in both by its own graduations, also one that was read from its other end', () => {
    const { job } = act(two(), addJoin(same));
    const input = joinedInput(groupOf(job, 'pic') as NonNullable<ReturnType<typeof groupOf>>);
    expect(input.references).toHaveLength(1);
    const [left, right] = input.pictures.map(
      ({ input: i }) => i.references.at(-1) as KnownLengthRecord & { graduations: { first: number } },
    );
    expect(left!.graduations.first).toBe(20);
    expect(left!.from.uPx).toBe(500);
    // Read from 80 to 40: graduation 40 is where the second reading was picked.
    expect(right!.graduations.first).toBe(40);
    expect(right!.from.uPx).toBe(900);
    const at = (y: typeof right, reading: number) =>
      y!.graduations.graduations.find((s) => s.n + y!.graduations.first === reading)?.places[0]?.uPx;
    expect([at(right, 40), at(right, 80), at(left, 21)]).toEqual([900, 500, 510]);
  });

  it('share no ruler whose readings are not said, or lie between graduations', () => {
    expect(canBeShared(ruler('r', '20 to 60', 40), 'mm')).toBe(true);
    for (const typed of ['40', '20.5 to 60.5', 'from here to there'])
      expect(canBeShared(ruler('r', typed, 40), 'mm')).toBe(false);
    expect(canBeShared({ ...ruler('r', '20 to 60', 40), graduations: null }, 'mm')).toBe(false);
    expect(canBeShared(undefined, 'mm')).toBe(false);
    expect(
      canBeShared(
        { ...ruler('r', '1 to 2 in', 25.4), graduations: { spacingMm: 25.4 / 16, graduations: [], edge: [], far: [] } },
        'mm',
      ),
    ).toBe(true);
  });

  it('add, move and remove joins as one change each, one join for one yardstick', () => {
    let state = act(act(two(), addJoin(point())), addJoin(same));
    state = act(state, addJoin({ ...same, id: 'again' }));
    expect(state.job.joins.map((j) => j.id)).toEqual(['p1', 'same']);
    state = act(state, moveCommonPoint('p1', 'second', { pick: pick(777) }));
    expect(state.job.joins[0]).toMatchObject({ seen: [{ pick: { uPx: 900 } }, { pick: { uPx: 777 } }] });
    state = act(state, removeJoin('same'));
    expect(state.job.joins).toHaveLength(1);
    const locked = act(state, lockPicture('second', true));
    for (const action of [removeJoin('p1'), addJoin(point('p2')), moveCommonPoint('p1', 'pic', { plane: 'table' })])
      expect(act(locked, action).job.joins).toEqual(locked.job.joins);
  });

  it('go with their picture or yardstick, and fall to the face with their plane', () => {
    let state = act(act(two(), addJoin(point())), addJoin(same));
    expect(act(state, removePicture('second')).job.joins).toEqual([]);
    expect(act(state, removeReference('pic', 'r1')).job.joins.map((j) => j.id)).toEqual(['p1']);
    state = act(state, addPlane('pic', { id: 'step', name: 'Step', heightMm: 3, plusMinusMm: 0 }));
    state = act(state, moveCommonPoint('p1', 'pic', { plane: 'step' }));
    expect(checkJob(state.job).ok).toBe(true);
    const gone = act(state, removePlane('pic', 'step')).job;
    expect(gone.joins[0]).toMatchObject({ seen: [{ plane: 'face' }, {}] });
    expect(checkJob(gone).ok).toBe(true);
  });

  it('are carried along when a picture is swapped for another', () => {
    const state = act(two(), addJoin(point()));
    const { blob, fileName, mime, facts } = state.job.pictures[1]!;
    const swapped = act(state, swapPicture('second', { blob, fileName, mime, facts }, [1, 0, 30, 0, 1, 40, 0, 0, 1]));
    expect(swapped.job.joins[0]).toMatchObject({ seen: [{ pick: { uPx: 900 } }, { pick: { uPx: 230, vPx: 140 } }] });
  });

  it.each([
    ['a picture that is not there', (j: any) => (j.joins[0].seen[1].picture = 'nowhere')],
    ['one picture twice', (j: any) => (j.joins[0].seen[1].picture = 'pic')],
    ['a plane that is not there', (j: any) => (j.joins[0].seen[1].plane = 'nowhere')],
    ['a yardstick that is not there', (j: any) => (j.joins[1].seen[1].reference = 'nowhere')],
    ['one place only', (j: any) => j.joins[0].seen.pop()],
  ])('are refused with %s', (_, spoil) => {
    const job = structuredClone(act(act(two(), addJoin(point())), addJoin(same)).job);
    expect(checkJob(job).ok).toBe(true);
    spoil(job);
    expect(checkJob(job)).toMatchObject({ ok: false, reason: 'bad-field' });
  });

  it('come to documents of version 6 as none', () => {
    const old = sampleJob9() as unknown as Record<string, unknown>;
    delete old.joins;
    for (const picture of old.pictures as { truing: Record<string, unknown> }[]) delete picture.truing.turned;
    const upgraded = upgradeDocument({ ...old, version: 6 });
    expect(upgraded.ok && checkJob(upgraded.document)).toEqual(checkJob(sampleJob9()));
  });
});
