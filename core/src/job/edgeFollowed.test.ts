import { describe, expect, it } from 'vitest';
import { checkJob, edgeFollowed, edgeKept, type Run, type TracedPoint, upgradeDocument } from '.';
import { reprojectPicture } from './reprojectPicture';
import { sampleJob } from './sample.test-data';

type Foot = 'seen' | 'hidden' | 'followed';

/** A place on the face edge of a plate seen askew, whose foot shows so far across that edge. */
const seen = (uPx: number, vPx: number, foot: Foot, [du, dv] = [0, 9]): TracedPoint => {
  const [face, below] = [
    { uPx, vPx },
    { uPx: uPx + du, vPx: vPx + dv },
  ];
  const own = foot === 'followed' ? below : face;
  const beside = foot === 'hidden' ? null : foot === 'followed' ? face : below;
  return { picture: 'pic', ...own, sigmaPx: 0.1, cling: 'edge', beside };
};
const run = (points: string[], closed: boolean): Extract<Run, { kind: 'chain' }> => ({
  id: 'r',
  kind: 'chain',
  role: 'cut',
  name: 'Outer edge',
  layer: null,
  plane: 'face',
  points,
  segments: points.slice(closed ? 0 : 1).map(() => ({ kind: 'line' })),
  closed,
});
// Clockwise as seen; the foot shows along the right and the lower side.
const PLATE = {
  a: seen(100, 100, 'hidden'),
  b: seen(500, 100, 'seen', [6, 0]),
  c: seen(500, 300, 'seen'),
  d: seen(300, 300, 'seen'),
  e: seen(100, 300, 'hidden'),
};
const order = ['a', 'b', 'c', 'd', 'e'];

describe('the edge that a run follows', () => {
  it.each([
    ['clockwise', order],
    ['counter-clockwise', [...order].reverse()],
  ])('is the inner one on the face of a plate, gone round %s', (_, ids) => {
    const followed = edgeFollowed(run(ids, true), PLATE);
    expect(followed).toMatchObject({ side: 'inner', strays: [] });
    expect([...(followed?.held ?? [])].sort()).toEqual(['b', 'c', 'd']);
  });

  it('names the point that lies on the foot instead', () => {
    const points = { ...PLATE, d: seen(300, 300, 'followed') };
    expect(edgeFollowed(run(order, true), points)).toMatchObject({ side: 'inner', strays: ['d'] });
  });

  it('is the left or right one of a run that is not closed', () => {
    expect(edgeFollowed(run(['c', 'd', 'e'], false), PLATE)?.side).toBe('right');
    expect(edgeFollowed(run(['e', 'd', 'c'], false), PLATE)?.side).toBe('left');
  });

  it('is the outer one on the upper rim of a hole, whose lower rim shows inside', () => {
    const at = (angle: number) => ({ uPx: 300 + 80 * Math.cos(angle), vPx: 200 + 80 * Math.sin(angle) });
    const rim = (angle: number, shows: boolean): TracedPoint => {
      const p = at(angle);
      const beside = shows ? { uPx: p.uPx + 6, vPx: p.vPx + 9 } : null;
      return { picture: 'pic', ...p, sigmaPx: 0.1, cling: 'edge', beside };
    };
    const points = { p: rim(-2.4, true), q: rim(-0.3, false), s: rim(1.8, false) };
    const hole: Run = { ...run([], true), kind: 'circle', points: ['p', 'q', 's'] } as unknown as Run;
    expect(edgeFollowed(hole, points)).toEqual({ side: 'outer', held: ['p'], strays: [] });
  });

  it('is not told where no point had another edge beside it', () => {
    expect(edgeFollowed(run(['a', 'e'], false), PLATE)).toBeNull();
  });
});

describe('the next point of a run', () => {
  const [face, foot] = [
    { uPx: 200, vPx: 300 },
    { uPx: 200, vPx: 309 },
  ];

  it.each(['tail', 'head'] as const)('keeps to the edge that the run is on, growing at its %s', (end) => {
    const growing = end === 'tail' ? run(['c', 'd'], false) : run(['d', 'c'], false);
    expect(edgeKept(growing, PLATE, end, [face, foot])).toBe(0);
    expect(edgeKept(growing, PLATE, end, [foot, face])).toBe(1);
    const onFoot = { c: seen(500, 300, 'followed'), d: seen(300, 300, 'followed') };
    expect(edgeKept(growing, onFoot, end, [face, foot])).toBe(1);
  });

  it('knows its edge from a single point as soon as there is a direction', () => {
    expect(edgeKept(run(['d'], false), PLATE, 'tail', [foot, face])).toBe(1);
  });

  it('is the nearest one where nothing speaks for another', () => {
    expect(edgeKept(null, PLATE, 'tail', [foot, face])).toBe(0);
    expect(edgeKept(run(['e'], false), PLATE, 'tail', [foot, face])).toBe(0);
    expect(edgeKept(run(['d'], false), PLATE, 'tail', [foot])).toBe(0);
  });
});

describe('what ran beside a traced point', () => {
  it('is carried along when the picture is swapped', () => {
    const job = sampleJob();
    job.part.points.a.beside = { uPx: 1010, vPx: 1000 };
    reprojectPicture(job, job.pictures[0], [0.5, 0, 7, 0, 0.5, 0, 0, 0, 1]);
    expect(job.part.points.a.beside).toEqual({ uPx: 512, vPx: 500 });
    expect(checkJob(job).ok).toBe(true);
  });

  it('comes to documents of version 7 as nothing', () => {
    const old = structuredClone(sampleJob()) as unknown as { part: { points: Record<string, { beside?: null }> } };
    for (const point of Object.values(old.part.points)) delete point.beside;
    const upgraded = upgradeDocument({ ...old, version: 7 });
    expect(upgraded.ok && checkJob(upgraded.document)).toMatchObject({ ok: true, job: sampleJob() });
  });
});
