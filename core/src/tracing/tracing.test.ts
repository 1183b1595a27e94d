import { describe, expect, it } from 'vitest';
import type { Segment, Vec2 } from '../geometry';
import {
  aligned,
  broughtTogether,
  changed,
  copied,
  distributed,
  islandsOf,
  mapOf,
  nearEnds,
  snapTargets,
  trimmed,
  trimPlan,
} from '.';
import { drawnJob, run, square } from './drawn.test-data';

describe('closed paths as one piece of material', () => {
  it('are holes where they lie in an odd number of others', () => {
    const job = drawnJob(square(0, 0, 40), square(5, 5, 20), square(8, 8, 5), square(30, 5, 5), square(60, 0, 10));
    const { paths } = job;
    expect(paths.map((p) => islandsOf(paths).get(p.path.id))).toEqual([false, true, false, true, false]);
    job.draw(
      run([
        [80, 0],
        [90, 0],
      ]),
    );
    expect(islandsOf(job.paths).size).toBe(5);
  });
});

describe('ends that nearly meet', () => {
  it('are told in pairs, the narrowest gap first, each end once', () => {
    const { drawn } = drawnJob(
      run([
        [0, 0],
        [20, 0],
      ]),
      run([
        [20.4, 0],
        [40, 0],
      ]),
      run([
        [20.1, 0.2],
        [20, 30],
      ]),
    ).setting;
    const near = nearEnds(drawn, 1);
    expect(near).toHaveLength(1);
    expect(near[0]!.gapMm).toBeCloseTo(Math.hypot(0.1, 0.2), 9);
    expect(nearEnds(drawn, 0.1)).toEqual([]);
  });

  it('of one path are told once it can enclose something', () => {
    expect(
      nearEnds(
        drawnJob(
          run([
            [0, 0],
            [20, 0],
            [0, 0.3],
          ]),
        ).setting.drawn,
        1,
      ),
    ).toEqual([]);
    const three = drawnJob(
      run([
        [0, 0],
        [20, 0],
        [10, 10],
        [0, 0.3],
      ]),
    );
    expect(nearEnds(three.setting.drawn, 1)).toMatchObject([{ gapMm: expect.closeTo(0.3, 9) }]);
  });
});

describe('changes', () => {
  it('map places as they say', () => {
    expect(mapOf({ kind: 'turn', angle: Math.PI / 2, about: { x: 1, y: 0 } })({ x: 3, y: 0 })).toMatchObject({
      x: expect.closeTo(1, 12),
      y: expect.closeTo(2, 12),
    });
    expect(mapOf({ kind: 'scale', factor: 3, about: { x: 1, y: 1 } })({ x: 2, y: 1 })).toEqual({ x: 4, y: 1 });
    expect(mapOf({ kind: 'mirror', a: { x: 0, y: 0 }, b: { x: 0, y: 5 } })({ x: 2, y: 1 })).toEqual({ x: -2, y: 1 });
  });

  it('bring two halves together, and say what is left apart', () => {
    const how = broughtTogether(
      [
        { x: 0, y: 0 },
        { x: 10, y: 0 },
      ],
      [
        { x: 50, y: 0 },
        { x: 50, y: 10.4 },
      ],
    );
    expect(how?.leftMm).toBeCloseTo(0.2, 12);
    expect(how?.at({ x: 0, y: 0 })).toMatchObject({ x: expect.closeTo(50, 9), y: expect.closeTo(0.2, 9) });
    const same = { x: 1, y: 1 };
    expect(broughtTogether([same, same], [same, { x: 2, y: 2 }])).toBeNull();
  });
});

const ends = (form: { kind: string; segments?: readonly Segment[] }): Vec2[] =>
  (form.segments ?? []).map((s) => s.from);
const path = (id: string) => ({ kind: 'path' as const, path: id });

describe('what is chosen', () => {
  it('is moved, scaled about a place, and copied in a mirror, each as one change', () => {
    const job = drawnJob(square(0, 0, 10));
    const own = job.paths[0]!.path.id;
    job.apply(changed([path(own)], { kind: 'move', x: 3, y: -2 }, job.setting));
    expect(ends(job.forms[0]!)).toMatchObject([
      { x: expect.closeTo(3, 9), y: expect.closeTo(-2, 9) },
      { x: expect.closeTo(13, 9) },
      { y: expect.closeTo(8, 9) },
      {},
    ]);
    job.apply(changed([path(own)], { kind: 'scale', factor: 2, about: { x: 3, y: -2 } }, job.setting));
    expect(ends(job.forms[0]!)[2]).toMatchObject({ x: expect.closeTo(23, 9), y: expect.closeTo(18, 9) });
    const copy = copied([path(own)], { kind: 'mirror', a: { x: 0, y: 0 }, b: { x: 0, y: 1 } }, job.setting)!;
    job.apply(copy.action);
    expect(job.forms).toHaveLength(2);
    expect(Math.min(...ends(job.forms[1]!).map((p) => p.x))).toBeCloseTo(-23, 9);
    expect(copy.items).toEqual([path(job.paths[1]!.path.id)]);
  });

  it('lines up by a side or its middles, up being up', () => {
    const all = () => drawnJob(square(0, 0, 10), square(20, 5, 4), square(40, 30, 6));
    const top = all();
    top.apply(
      aligned(
        top.paths.map((p) => path(p.path.id)),
        'top',
        top.setting,
      ),
    );
    for (const form of top.forms) expect(Math.max(...ends(form).map((p) => p.y))).toBeCloseTo(36, 9);
    const bottom = all();
    bottom.apply(
      aligned(
        bottom.paths.map((p) => path(p.path.id)),
        'bottom',
        bottom.setting,
      ),
    );
    for (const form of bottom.forms) expect(Math.min(...ends(form).map((p) => p.y))).toBeCloseTo(0, 9);
  });

  it('is spaced evenly by its middles, the outer ones staying', () => {
    const job = drawnJob(square(0, 0, 10), square(12, 0, 4), square(40, 0, 6));
    job.apply(
      distributed(
        job.paths.map((p) => path(p.path.id)),
        'x',
        job.setting,
      ),
    );
    const middles = job.forms.map((form) => {
      const xs = ends(form).map((p) => p.x);
      return (Math.min(...xs) + Math.max(...xs)) / 2;
    });
    expect(middles[0]).toBeCloseTo(5, 9);
    expect(middles[1]).toBeCloseTo(24, 9);
    expect(middles[2]).toBeCloseTo(43, 9);
    expect(distributed([path(job.paths[0]!.path.id)], 'x', job.setting)).toBeNull();
  });
});

describe('a piece that is trimmed', () => {
  const cross = () =>
    drawnJob(
      run([
        [0, 0],
        [40, 0],
      ]),
      run([
        [10, -10],
        [10, 10],
      ]),
      run([
        [30, -10],
        [30, 10],
      ]),
    );

  it('goes between the two crossings that it is pointed at, and what is left stays', () => {
    const job = cross();
    const plan = trimPlan({ x: 20, y: 0.5 }, 2, job.setting);
    expect(plan).toMatchObject({ kind: 'trim' });
    const made = trimmed(plan!, job.setting)!;
    job.apply(made.action);
    const level = job.forms.filter((f) => f.kind === 'chain' && f.segments.every((s) => s.from.y === s.to.y));
    const spans = level.map((f) => (f.kind === 'chain' ? [f.segments[0]!.from.x, f.segments.at(-1)!.to.x] : []));
    expect(spans.sort((a, b) => a[0]! - b[0]!)).toEqual([
      [expect.closeTo(0, 6), expect.closeTo(10, 6)],
      [expect.closeTo(30, 6), expect.closeTo(40, 6)],
    ]);
  });

  it('is drawn on to what lies ahead where nothing crosses it, and left alone where nothing does', () => {
    const job = drawnJob(
      run([
        [0, 0],
        [20, 0],
      ]),
      run([
        [30, -10],
        [30, 10],
      ]),
    );
    const plan = trimPlan({ x: 18, y: 0 }, 2, job.setting);
    expect(plan).toMatchObject({ kind: 'extend', to: { x: expect.closeTo(30, 9), y: expect.closeTo(0, 9) } });
    job.apply(trimmed(plan!, job.setting)!.action);
    expect(job.forms[0]).toMatchObject({ segments: [{ to: { x: expect.closeTo(30, 6) } }] });
    const alone = drawnJob(
      run([
        [0, 0],
        [20, 0],
      ]),
    );
    const none = trimPlan({ x: 10, y: 0 }, 2, alone.setting);
    expect(none).toMatchObject({ kind: 'none' });
    expect(trimmed(none!, alone.setting)).toBeNull();
    expect(trimPlan({ x: 10, y: 9 }, 2, alone.setting)).toBeNull();
  });
});

describe('what a new point snaps to', () => {
  const at = (
    job: ReturnType<typeof drawnJob>,
    x: number,
    y: number,
    from: Vec2 | null = null,
    off: readonly never[] = [],
  ) =>
    snapTargets({ x, y }, 2, from, { ...job.setting, snapOff: off }).map((t) => ({
      ...t,
      place: t.place,
      name: t.name,
    }));

  it('are points that it shares, middles, crossings, feet and what lies in line, each by its name', () => {
    const job = drawnJob(
      run([
        [0, 0],
        [40, 0],
      ]),
      run([
        [10, -10],
        [10, 10],
      ]),
    );
    expect(at(job, 0.5, 0.5)[0]).toMatchObject({ name: 'point', place: { x: 0, y: 0 } });
    expect(at(job, 20.5, 0.5).map((t) => t.name)).toContain('middle of Path 1');
    const crossing = at(job, 10.5, 0.5).find((t) => t.name.startsWith('crossing'));
    expect(crossing?.place).toMatchObject({ x: expect.closeTo(10, 9), y: expect.closeTo(0, 9) });
    const foot = at(job, 25, 1, { x: 25, y: 20 }).find((t) => t.name.startsWith('square to'));
    expect(foot?.place).toMatchObject({ x: expect.closeTo(25, 9), y: expect.closeTo(0, 9) });
    const line = at(job, 45, 1).find((t) => t.name.startsWith('in line'));
    expect(line?.place).toMatchObject({ x: expect.closeTo(45, 9), y: expect.closeTo(0, 9) });
    // Drawn on, it is less well known than on the line.
    expect(line!.sigmaPx).toBeGreaterThan(0.1);
  });

  it('are not those of a kind that is switched off', () => {
    const job = drawnJob(
      run([
        [0, 0],
        [40, 0],
      ]),
    );
    const off = ['points', 'middles', 'paths'] as never[];
    expect(at(job, 0.5, 0.5, null, off)).toEqual([]);
    expect(at(job, 20.5, 0.5, null, off)).toEqual([]);
  });
});
