import { describe, expect, it } from 'vitest';
import { nearestOn } from './nearest';
import { reduced } from './reduce';
import { pointAt, type Segment, shapeOfArc } from './segment';
import { smoothJoint } from './smooth';
import { type Vec2, vec } from './vector';

const chain = (places: readonly Vec2[]): Segment[] =>
  places.slice(1).map((to, k) => ({ kind: 'line', from: places[k]!, to }));
const worst = (a: readonly Segment[], b: readonly Segment[]) =>
  Math.max(
    ...a.flatMap((s) =>
      Array.from({ length: 12 }, (_, k) => Math.min(...b.map((o) => nearestOn(o, pointAt(s, k / 11)).distance))),
    ),
  );

describe('a chain as fewer pieces', () => {
  it('is one line, or one arc, where it follows one', () => {
    const straight = chain(Array.from({ length: 30 }, (_, k) => vec(k, 0.01 * Math.sin(k))));
    expect(reduced(straight, false, 0.05).segments.map((s) => s.kind)).toEqual(['line']);
    const round = chain(Array.from({ length: 60 }, (_, k) => vec(20 * Math.cos(k * 0.04), 20 * Math.sin(k * 0.04))));
    const { segments, largestMm } = reduced(round, false, 0.02);
    expect(segments.map((s) => s.kind)).toEqual(['arc']);
    expect(segments[0]!.kind === 'arc' && shapeOfArc(segments[0]!)?.radius).toBeCloseTo(20, 1);
    expect(largestMm).toBeLessThanOrEqual(0.02);
  });

  it('stays within the tolerance, keeps corners and ends, and says how far it strays', () => {
    const wave = Array.from({ length: 200 }, (_, k) => vec(k / 4, 6 * Math.sin(k / 18) + 2 * Math.cos(k / 7)));
    const places = [...wave, vec(60, 30), vec(80, 30)];
    const before = chain(places);
    for (const tolerance of [0.02, 0.1, 0.4]) {
      const { segments, largestMm } = reduced(before, false, tolerance);
      expect(segments.length).toBeLessThan(60);
      expect(worst(before, segments)).toBeLessThan(tolerance * 1.5);
      expect(worst(segments, before)).toBeLessThan(tolerance * 1.5 + 0.03);
      expect(largestMm).toBeLessThan(tolerance * 1.5);
      expect(segments[0]!.from).toEqual(places[0]);
      expect(segments.at(-1)!.to).toEqual(vec(80, 30));
      expect(segments.some((s) => s.to.x === 60 && s.to.y === 30)).toBe(true);
      for (const [k, s] of segments.entries()) if (k > 0) expect(s.from).toEqual(segments[k - 1]!.to);
    }
    const counts = [0.02, 0.1, 0.4].map((t) => reduced(before, false, t).segments.length);
    expect(counts[0]!).toBeGreaterThan(counts[2]!);
  });

  it('is left as it is where it cannot be fewer', () => {
    const square = chain([vec(0, 0), vec(10, 0), vec(10, 10), vec(0, 10), vec(0, 0)]);
    expect(reduced(square, true, 0.1)).toEqual({ segments: square, largestMm: 0 });
  });
});

describe('a smooth joint', () => {
  const curve = (from: Vec2, handleFrom: Vec2, handleTo: Vec2, to: Vec2): Segment => ({
    kind: 'curve',
    from,
    handleFrom,
    handleTo,
    to,
  });
  const first = curve(vec(0, 0), vec(0, 5), vec(6, 11), vec(10, 10));
  const second = curve(vec(10, 10), vec(14, 10), vec(20, 5), vec(20, 0));

  it('turns both handles onto one line and keeps their length', () => {
    const made = smoothJoint(first, second, 'as it comes')!;
    if (made[0].kind !== 'curve' || made[1].kind !== 'curve') throw new Error('curves');
    const [p, q] = [made[0].handleTo, made[1].handleFrom];
    const cross = (10 - p.x) * (q.y - 10) - (10 - p.y) * (q.x - 10);
    expect(cross).toBeCloseTo(0, 9);
    expect(Math.hypot(10 - p.x, 10 - p.y)).toBeCloseTo(Math.hypot(4, 1), 9);
    expect(smoothJoint(first, second, 'level')![0]).toMatchObject({ handleTo: { y: expect.closeTo(10, 9) } });
    const along = smoothJoint(first, second, { along: vec(-1, -1) })![1];
    expect(along.kind === 'curve' && along.handleFrom.x - 10).toBeCloseTo(4 * Math.SQRT1_2, 9);
    expect(smoothJoint(first, second, 'plumb')![1]).toMatchObject({ handleFrom: { x: expect.closeTo(10, 9) } });
  });

  it('takes the way of a line, and is none between lines or against what is asked', () => {
    const line: Segment = { kind: 'line', from: vec(10, 10), to: vec(10, 0) };
    expect(smoothJoint(first, line, 'as it comes')![0]).toMatchObject({ handleTo: { x: expect.closeTo(10, 9) } });
    expect(smoothJoint(first, line, 'level')).toBeNull();
    expect(smoothJoint(line, line, 'as it comes')).toBeNull();
  });
});
