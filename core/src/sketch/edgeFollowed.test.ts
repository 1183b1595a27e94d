import { describe, expect, it } from 'vitest';
import { checkJob, upgradeDocument } from '../job';
import { reprojectPicture } from '../job/actions/reprojectPicture';
import { sampleJob, sampleJob9, samplePart9 } from '../job/sample.test-data';
import { edgeFollowed, edgeKept, MAIN_SKETCH, newSketch, type Observation } from '.';
import { putCircle, seen as seenAt, sketchOf } from './traced.test-data';

type Foot = 'seen' | 'hidden' | 'followed';

/** A place on the face edge of a plate seen askew, and how far across that edge its foot shows. */
const seen = (uPx: number, vPx: number, foot: Foot, [du, dv] = [0, 9]): Observation => {
  const [face, below] = [
    { uPx, vPx },
    { uPx: uPx + du, vPx: vPx + dv },
  ];
  const own = foot === 'followed' ? below : face;
  const neighbouringEdge = foot === 'hidden' ? null : foot === 'followed' ? face : below;
  return seenAt(own.uPx, own.vPx, { neighbouringEdge });
};
const followed = (points: string[], closed: boolean, all: Record<string, Observation>) => {
  const { sketch, path } = sketchOf(all, { points, closed });
  return edgeFollowed(sketch, path);
};
// Clockwise as seen; the foot shows along the right and the lower side.
const PLATE = {
  a: seen(100, 100, 'hidden'),
  b: seen(500, 100, 'seen', [6, 0]),
  c: seen(500, 300, 'seen'),
  d: seen(300, 300, 'seen'),
  e: seen(100, 300, 'hidden'),
};
const order = ['a', 'b', 'c', 'd', 'e'];

describe('the edge that a path follows', () => {
  it.each([
    ['clockwise', order],
    ['counter-clockwise', [...order].reverse()],
  ])('is the inner one on the face of a plate, gone round %s', (_, ids) => {
    const found = followed(ids, true, PLATE);
    expect(found).toMatchObject({ side: 'inner', strays: [] });
    expect([...(found?.held ?? [])].sort()).toEqual(['b', 'c', 'd']);
  });

  it('names the point that lies on the foot instead', () => {
    const points = { ...PLATE, d: seen(300, 300, 'followed') };
    expect(followed(order, true, points)).toMatchObject({ side: 'inner', strays: ['d'] });
  });

  it('is the left or right one of a path that is not closed', () => {
    expect(followed(['c', 'd', 'e'], false, PLATE)?.side).toBe('right');
    expect(followed(['e', 'd', 'c'], false, PLATE)?.side).toBe('left');
  });

  it('is the outer one on the upper rim of a hole, whose lower rim shows inside', () => {
    const at = (angle: number) => ({ uPx: 300 + 80 * Math.cos(angle), vPx: 200 + 80 * Math.sin(angle) });
    const rim = (angle: number, shows: boolean): Observation => {
      const p = at(angle);
      return seenAt(p.uPx, p.vPx, { neighbouringEdge: shows ? { uPx: p.uPx + 6, vPx: p.vPx + 9 } : null });
    };
    const sketch = newSketch('s', 'S', null);
    const hole = putCircle(sketch, 'h', [rim(-2.4, true), rim(-0.3, false), rim(1.8, false)]);
    expect(edgeFollowed(sketch, hole)).toEqual({ side: 'outer', held: ['h-r0'], strays: [] });
  });

  it('is not told where no point had another edge beside it', () => {
    expect(followed(['a', 'e'], false, PLATE)).toBeNull();
  });
});

describe('the next point of a path', () => {
  const [face, foot] = [
    { uPx: 200, vPx: 300 },
    { uPx: 200, vPx: 309 },
  ];
  const along = (ids: (keyof typeof PLATE)[]) => ids.map((id) => PLATE[id]);

  it.each(['tail', 'head'] as const)('keeps to the edge that the path is on, growing at its %s', (end) => {
    const growing = along(end === 'tail' ? ['c', 'd'] : ['d', 'c']);
    expect(edgeKept(growing, end, [face, foot])).toBe(0);
    expect(edgeKept(growing, end, [foot, face])).toBe(1);
    const onFoot = [seen(500, 300, 'followed'), seen(300, 300, 'followed')];
    expect(edgeKept(end === 'tail' ? onFoot : onFoot.reverse(), end, [face, foot])).toBe(1);
  });

  it('knows its edge from a single point as soon as there is a direction', () => {
    expect(edgeKept(along(['d']), 'tail', [foot, face])).toBe(1);
  });

  it('is the nearest one where nothing speaks for another', () => {
    expect(edgeKept([], 'tail', [foot, face])).toBe(0);
    expect(edgeKept(along(['e']), 'tail', [foot, face])).toBe(0);
    expect(edgeKept(along(['d']), 'tail', [foot])).toBe(0);
  });
});

describe('what ran beside a traced point', () => {
  it('is carried along when the picture is swapped', () => {
    const job = sampleJob();
    const { at } = job.part.sketches[MAIN_SKETCH]!.points.a!;
    if (at.kind !== 'observed') throw new Error('it was seen');
    at.neighbouringEdge = { uPx: 1010, vPx: 1000 };
    reprojectPicture(job, job.pictures[0]!, [0.5, 0, 7, 0, 0.5, 0, 0, 0, 1]);
    expect(at.neighbouringEdge).toEqual({ uPx: 512, vPx: 500 });
    expect(checkJob(job).ok).toBe(true);
  });

  it('comes to documents of version 7 as nothing', () => {
    const part = samplePart9() as { points: Record<string, { beside?: null }> };
    const now = upgradeDocument(sampleJob9());
    for (const point of Object.values(part.points)) delete point.beside;
    const upgraded = upgradeDocument({ ...sampleJob9(), part, version: 7 });
    if (!upgraded.ok || !now.ok) throw new Error('it is a job');
    expect(checkJob(upgraded.document)).toEqual(checkJob(now.document));
    expect(checkJob(upgraded.document).ok).toBe(true);
  });
});
