import { describe, expect, it } from 'vitest';
import { calibrate, planeMap, planeMapper } from '../../calibration';
import { MAIN_SKETCH, newPart, observationOf, pathsOf } from '../../sketch';
import { calibrationInput, datumOf, isScaleKnown } from '../calibrationInput';
import { checkJob } from '../document/checkJob';
import { newPicture, type PictureFile } from '../document/document';
import { act, type JobAction, type JobState, NO_HISTORY, undo } from '../document/history';
import { viewOfPath } from '../document/viewOfPath';
import { sampleJob } from '../sample.test-data';
import * as on from './pictureActions';

const FILE: PictureFile = {
  blob: 'b'.repeat(64),
  fileName: 'again.png',
  mime: 'image/png',
  facts: { widthPx: 2000, heightPx: 1500, focal35Mm: null, focalMm: null, doubts: [], resolution: null },
};
const start = (...actions: JobAction[]): JobState => actions.reduce(act, { job: sampleJob(), history: NO_HISTORY });

describe('a locked picture', () => {
  const locked = start(on.lockPicture('pic', true));
  it.each([
    on.turnPicture('pic', 1),
    on.flipPicture('pic'),
    on.cropPicture('pic', { leftPx: 0, topPx: 0, widthPx: 10, heightPx: 10 }),
    on.clearBackground('pic', { by: 'colour', colour: [0, 0, 0], tolerance: 0.2 }),
    on.setKind('pic', 'scan'),
    on.removePicture('pic'),
    on.orderPicture('pic', 1),
    on.swapPicture('pic', FILE, [1, 0, 0, 0, 1, 0, 0, 0, 1]),
  ])('stays as it is: $label', (action) => expect(act(locked, action)).toBe(locked));

  it('can still be dimmed, hidden and unlocked', () => {
    for (const action of [on.setOpacity('pic', 0.3), on.showPicture('pic', false), on.lockPicture('pic', false)])
      expect(act(locked, action)).not.toBe(locked);
  });
});

describe('several pictures', () => {
  const two = start(on.addPicture(newPicture('pic2', FILE, 'drawing')));
  const order = (s: JobState) => s.job.pictures.map((p) => p.id);

  it('lie in a chosen order', () => {
    expect(order(act(two, on.orderPicture('pic2', -1)))).toEqual(['pic2', 'pic']);
    expect(act(two, on.orderPicture('pic2', 1))).toBe(two);
  });

  it('go with what was traced on them, and come back with it', () => {
    const gone = act(two, on.removePicture('pic'));
    expect(gone.job.part).toEqual(newPart());
    expect(checkJob(gone.job).ok).toBe(true);
    expect(undo(gone).job).toEqual(two.job);
  });
});

describe('flipping', () => {
  it('twice is nothing, at every quarter turn', () => {
    for (let turns = 0; turns < 4; turns++) {
      const turned = start(...Array.from({ length: turns }, () => on.turnPicture('pic', 1)));
      const back = act(act(turned, on.flipPicture('pic')), on.flipPicture('pic'));
      expect(back.job).toEqual(turned.job);
    }
  });

  it('mirrors the part and leaves its lengths, wherever the picture is turned to', () => {
    for (let turns = 0; turns < 4; turns++) {
      const { job } = start(...Array.from({ length: turns }, () => on.turnPicture('pic', 1)), on.flipPicture('pic'));
      const picture = { ...job.pictures[0]!, calibration: { ...job.pictures[0]!.calibration, axis: null, zero: null } };
      const found = calibrate(calibrationInput(picture), { draws: 0 });
      if (!found.ok) throw new Error(found.reason);
      const map = planeMapper(planeMap(found.calibration, datumOf(picture), 'face', { uPx: 2016, vPx: 1512 }));
      // Flipped, then turned: what stands right of the middle on screen, from the picture's own right or left.
      const shownRight = { uPx: 2016 + [-1, 0, 1, 0][turns]! * 100, vPx: 1512 + [0, 1, 0, -1][turns]! * 100 };
      const place = map.toPart(shownRight);
      expect(place?.xMm).toBeGreaterThan(4);
      expect(Math.abs(place?.yMm ?? 9)).toBeLessThan(0.2);
    }
  });
});

describe('turning a true picture', () => {
  it('turns the true board by the same quarter, also where a length had said which way X runs', () => {
    const turnOf = (quarters: number) => {
      const { job } = start(...Array.from({ length: quarters }, () => on.turnPicture('pic', 1)));
      const picture = job.pictures[0]!;
      const found = calibrate(calibrationInput(picture), { draws: 0 });
      if (!found.ok || !picture.calibration.axis) throw new Error('it has an axis');
      return planeMap(found.calibration, datumOf(picture), 'face', { uPx: 2016, vPx: 1512 }).turn;
    };
    const at = turnOf(0);
    for (const quarters of [1, 2, 3, 4]) {
      const by = (((turnOf(quarters) - at) / (Math.PI / 2)) % 4) + 4;
      expect(Math.min(Math.abs((by % 4) - (quarters % 4)), 4 - (by % 4) + (quarters % 4))).toBeLessThan(1e-9);
    }
  });
});

describe('swapping a picture', () => {
  const onto = [0.5, 0, 10, 0, 0.5, 20, 0, 0, 1];
  const before = start(on.cropPicture('pic', { leftPx: 100, topPx: 200, widthPx: 400, heightPx: 300 }));
  const after = act(before, on.swapPicture('pic', FILE, onto));
  const picture = after.job.pictures[0]!;

  it('carries every pick, the crop and the traces to the new pixels', () => {
    expect(picture.blob).toBe(FILE.blob);
    expect(picture.calibration.references[0]).toMatchObject({ from: { uPx: 310, vPx: 1020, sigmaPx: 0.05 } });
    expect(picture.preparation.crop).toEqual({ leftPx: 60, topPx: 120, widthPx: 200, heightPx: 150 });
    expect(observationOf(after.job.part, 'a')).toMatchObject({ uPx: 510, vPx: 520, sigmaPx: 0.05 });
  });

  it('carries the places that a background was cleared from', () => {
    const clear = { by: 'region' as const, places: [{ uPx: 100, vPx: 200 }], tolerance: 0.1 };
    const swapped = act(act(before, on.clearBackground('pic', clear)), on.swapPicture('pic', FILE, onto));
    expect(swapped.job.pictures[0]!.preparation.clear).toEqual({ ...clear, places: [{ uPx: 60, vPx: 120 }] });
    expect(checkJob(swapped.job).ok).toBe(true);
  });

  it('remembers the one before, is one undo, and passes the check', () => {
    expect(picture.before).toMatchObject({ blob: 'a'.repeat(64), onto });
    expect(checkJob(after.job).ok).toBe(true);
    expect(undo(after).job).toEqual(before.job);
  });
});

describe('whether the scale is known', () => {
  const scanned = (change: object) =>
    isScaleKnown({
      ...newPicture(
        'p',
        { ...FILE, facts: { ...FILE.facts, resolution: { perMmX: 12, perMmY: 12, sigma: 0.01 } } },
        'scan',
      ),
      ...change,
    });
  it('is so of a scan that states its resolution, and not of a photograph that does', () => {
    expect(scanned({})).toBe(true);
    expect(scanned({ kind: 'photo' })).toBe(false);
  });
});

describe('outlines that come in with a page', () => {
  it('get names of their own, beside what was traced before', () => {
    const page = newPicture('page', sampleJob().pictures[0]!, 'drawing');
    const sketch = sampleJob().part.sketches[MAIN_SKETCH];
    const joined = start(on.addPicture(page, sketch)).job;
    expect(pathsOf(joined.part).map((p) => p.id)).toEqual(['path1', 'hole1', 'page-path1', 'page-hole1']);
    expect(observationOf(joined.part, 'page-a')).toMatchObject({ picture: 'page', uPx: 1000 });
    expect(joined.part.sketches[MAIN_SKETCH]!.curves['page-path1-c1']).toMatchObject({ from: 'page-b', to: 'page-c' });
    expect(checkJob(joined).ok).toBe(true);
  });
});

describe('the view that a path lies in', () => {
  const crop = { leftPx: 0, topPx: 0, widthPx: 4000, heightPx: 3000 };
  const view = (id: string, size: number) => ({
    id,
    name: id,
    side: 'top' as const,
    offsetMm: 0,
    crop: { ...crop, widthPx: size, heightPx: size },
  });
  const two = start(on.addView('pic', view('large', 2900)), on.addView('pic', view('small', 1100)));
  const viewsOf = ({ job }: JobState) => ['path1', 'hole1'].map((id) => viewOfPath(job, id)?.id ?? null);

  it('is the smallest view round where it begins, and each view has a sketch of its own', () => {
    expect(viewsOf(two)).toEqual(['small', 'large']);
    expect(two.job.part.order).toEqual([MAIN_SKETCH, 'sketch-large', 'sketch-small']);
    expect(checkJob(two.job).ok).toBe(true);
    expect(viewOfPath(sampleJob(), 'path1')).toBeNull();
  });

  it('is another when the views change, and none when they are gone', () => {
    const moved = act(two, on.changeView('pic', 'small', { crop: { ...crop, leftPx: 3000, widthPx: 500 } }));
    expect(viewsOf(moved)).toEqual(['large', 'large']);
    expect(moved.job.part.order).toEqual([MAIN_SKETCH, 'sketch-large']);
    const none = act(moved, on.removeView('pic', 'large'));
    expect(viewsOf(none)).toEqual([null, null]);
    expect(checkJob(none.job).ok).toBe(true);
    expect(undo(undo(none)).job).toEqual(two.job);
  });
});

describe('the scale that a swapped file stated', () => {
  const stated = start({
    label: '',
    recipe: (job) => {
      job.pictures[0]!.kind = 'scan';
      job.pictures[0]!.facts.resolution = { perMmX: 12, perMmY: 11, sigma: 0.0025 };
    },
  });
  const after = (onto: number[]) => act(stated, on.swapPicture('pic', FILE, onto)).job.pictures[0]!.facts.resolution;

  it('lies over the new pixels, larger and turned as they are', () => {
    expect(after([2, 0, 5, 0, 2, 7, 0, 0, 1])).toEqual({ perMmX: 24, perMmY: 22, sigma: 0.0025 });
    expect(after([0, -2, 900, 2, 0, 0, 0, 0, 1])).toEqual({ perMmX: 22, perMmY: 24, sigma: 0.0025 });
  });

  it('is the new one where there was none', () => {
    const file = { ...FILE, facts: { ...FILE.facts, resolution: { perMmX: 8, perMmY: 8, sigma: 0.0025 } } };
    const swapped = act(start(), on.swapPicture('pic', file, [1, 0, 0, 0, 1, 0, 0, 0, 1]));
    expect(swapped.job.pictures[0]!.facts.resolution?.perMmX).toBe(8);
  });
});
