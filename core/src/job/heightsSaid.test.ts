import { describe, expect, it } from 'vitest';
import { act, type JobState, NO_HISTORY, newJob, undo } from '.';
import { addReference, sayThin, setHeight } from './actions/calibrationActions';
import { calibrationInput } from './calibrationInput';
import { checkJob } from './document/checkJob';
import { arrivedPicture, type PictureKind } from './document/document';
import { sampleJob } from './sample.test-data';

const { blob, fileName, mime, facts } = sampleJob().pictures[0]!;

function arrived(kind: PictureKind): JobState {
  const job = newJob('job1', 'Heights', '2026-01-01T00:00:00.000Z', 'mm');
  job.pictures.push(arrivedPicture('pic', { blob, fileName, mime, facts }, kind));
  return { job, history: NO_HISTORY };
}
const face = ({ job }: JobState) => calibrationInput(job.pictures[0]!).planes.find((p) => p.id === 'face');

describe('how thick the part is', () => {
  it('is in doubt by six millimetres on a photograph until it is said, and again when that is undone', () => {
    const before = arrived('photo');
    expect(checkJob(before.job).ok).toBe(true);
    expect(face(before)).toEqual({ id: 'face', heightMm: 0, plusMinusMm: 6 });
    const said = act(before, setHeight('pic', 'face', { heightMm: 3, plusMinusMm: 0.1 }));
    expect(face(said)).toEqual({ id: 'face', heightMm: 3, plusMinusMm: 0.1 });
    expect(face(undo(said))).toEqual(face(before));
  });

  it('is out of the question once it is said to be thin, which the ± carries; the yardstick alone does not settle it', () => {
    const ruler = act(arrived('photo'), setHeight('pic', 'reference', { heightMm: 1, plusMinusMm: 0.1 }));
    expect(face(ruler)?.plusMinusMm).toBe(6);
    expect(face(act(ruler, sayThin('pic')))).toEqual({ id: 'face', heightMm: 0, plusMinusMm: 0.3 });
  });

  it('is out of the question where all that is known lies on the face itself, and in it again with one that does not', () => {
    const [known] = sampleJob().pictures[0]!.calibration.references;
    const on = (id: string, plane: string) => addReference('pic', { ...known!, id, plane });
    const before = act(arrived('photo'), on('a', 'face'));
    expect(face(before)?.plusMinusMm).toBe(0);
    expect(face(act(before, on('b', 'reference')))?.plusMinusMm).toBe(6);
  });

  it('is not asked of a scan or a drawing, nor of a job from before it was asked', () => {
    for (const kind of ['scan', 'drawing'] as const) expect(face(arrived(kind))?.plusMinusMm).toBe(0);
    const old: any = { ...structuredClone(arrived('photo').job), version: 11 };
    delete old.pictures[0].calibration.heights.said;
    const checked = checkJob(old);
    if (!checked.ok) throw new Error('the job holds');
    expect(checked.job.pictures[0]!.calibration.heights.said).toBe(true);
  });
});
