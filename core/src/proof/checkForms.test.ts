import { describe, expect, it } from 'vitest';
import { type Form, type Segment, vec } from '../geometry';
import { checkForms, MOST_FLAWS } from '.';

const lines = (at: readonly [number, number][], closed = true): Form => ({
  kind: 'chain',
  closed,
  segments: at.slice(0, closed ? undefined : -1).map(([x, y], k): Segment => {
    const [p, q] = at[(k + 1) % at.length]!;
    return { kind: 'line', from: vec(x, y), to: vec(p, q) };
  }),
});
const SQUARE: readonly [number, number][] = [
  [0, 0],
  [20, 0],
  [20, 20],
  [0, 20],
];
const check = (all: Record<string, Form>) =>
  checkForms(Object.entries(all).map(([id, form]) => ({ id, forms: [form] }))).map(
    ({ kind, path, other, at, size }) => ({
      kind,
      path,
      other,
      at: [Math.round(at.x * 1e3) / 1e3, Math.round(at.y * 1e3) / 1e3],
      size: size === null ? null : Math.round(size * 1e3) / 1e3,
    }),
  );

describe('what a cutter would stumble over', () => {
  it('is nothing in a sound profile with holes', () => {
    expect(check({ outer: lines(SQUARE), hole: { kind: 'circle', centre: vec(10, 10), radius: 4 } })).toEqual([]);
    const slot: Form = {
      kind: 'chain',
      closed: true,
      segments: [
        { kind: 'line', from: vec(0, 0), to: vec(10, 0) },
        { kind: 'arc', from: vec(10, 0), via: vec(12, 2), to: vec(10, 4) },
        { kind: 'line', from: vec(10, 4), to: vec(0, 4) },
        { kind: 'arc', from: vec(0, 4), via: vec(-2, 2), to: vec(0, 0) },
      ],
    };
    expect(check({ slot })).toEqual([]);
  });

  it('is an open end with its gap, a crossing with itself or another, each once and at its place', () => {
    expect(
      check({
        a: lines(
          [
            [0, 0],
            [9, 0],
            [9, 9],
            [0, 0.4],
          ],
          false,
        ),
      }),
    ).toEqual([{ kind: 'open', path: 'a', other: null, at: [0, 0.4], size: 0.4 }]);
    expect(
      check({
        eight: lines([
          [0, 0],
          [10, 10],
          [10, 0],
          [0, 10],
        ]),
      }),
    ).toEqual([{ kind: 'crosses-itself', path: 'eight', other: null, at: [5, 5], size: null }]);
    const over = check({ outer: lines(SQUARE), hole: { kind: 'circle', centre: vec(20, 10), radius: 3 } });
    expect(over.map((f) => [f.kind, f.path, f.other])).toEqual([
      ['crosses', 'outer', 'hole'],
      ['crosses', 'outer', 'hole'],
    ]);
    expect(over.map((f) => f.at[1]).sort()).toEqual([13, 7]);
  });

  it('is a piece drawn twice, told once for each piece and not as crossings', () => {
    const back = lines(
      [
        [20, 0],
        [0, 0],
      ],
      false,
    );
    const found = check({ outer: lines(SQUARE), back });
    expect(found.map((f) => f.kind).sort()).toEqual(['drawn-twice', 'open']);
    expect(found.find((f) => f.kind === 'drawn-twice')).toMatchObject({ path: 'outer', other: 'back', at: [10, 0] });
  });

  it('is a stray bit, and a kink where an arc looks meant to go on smoothly', () => {
    const stray = check({ a: lines([...SQUARE, [0, 19.96]]) });
    expect(stray).toEqual([{ kind: 'stray', path: 'a', other: null, at: [0, 19.98], size: 0.04 }]);
    const kinked: Form = {
      kind: 'chain',
      closed: true,
      segments: [
        { kind: 'line', from: vec(0, 0), to: vec(10, 0.6) },
        { kind: 'arc', from: vec(10, 0.6), via: vec(12, 2.6), to: vec(10, 4.6) },
        { kind: 'line', from: vec(10, 4.6), to: vec(0, 4.6) },
        { kind: 'line', from: vec(0, 4.6), to: vec(0, 0) },
      ],
    };
    expect(check({ kinked })).toEqual([
      { kind: 'kink', path: 'kinked', other: null, at: [10, 0.6], size: expect.closeTo(3.434, 2) },
    ]);
  });

  it('is not the short arc that leads an offset smoothly round a blunt corner', () => {
    // Two lines that meet at 178.4 degrees, 2 mm outside: the arc between them is 0.056 mm long.
    const turn = (1.6 * Math.PI) / 180;
    const at = (r: number, angle: number) => vec(10 + r * Math.sin(angle), -r * Math.cos(angle));
    const [from, via, to] = [at(2, 0), at(2, turn / 2), at(2, turn)];
    const far = vec(to.x + 8 * Math.cos(turn), to.y + 8 * Math.sin(turn));
    const offset: Form = {
      kind: 'chain',
      closed: true,
      segments: [
        { kind: 'line', from: vec(0, -2), to: from },
        { kind: 'arc', from, via, to },
        { kind: 'line', from: to, to: far },
        { kind: 'line', from: far, to: vec(18, 9) },
        { kind: 'line', from: vec(18, 9), to: vec(0, 9) },
        { kind: 'line', from: vec(0, 9), to: vec(0, -2) },
      ],
    };
    expect(check({ offset })).toEqual([]);
    // As short, and across the way: somebody pressed twice.
    const { segments } = offset;
    const across = { kind: 'arc' as const, from, via: vec(via.x, via.y - 0.03), to };
    expect(check({ offset: { ...offset, segments: [segments[0]!, across, ...segments.slice(2)] } })).toMatchObject([
      { kind: 'stray' },
    ]);
  });

  it('stays short where everything crosses everything', () => {
    const bar = (k: number): [string, Form] => {
      const at = 2 * (k >> 1);
      const along: [number, number][] = [
        [-1, at],
        [60, at],
        [60, at + 1],
        [-1, at + 1],
      ];
      return [`p${k}`, lines(k % 2 ? along : along.map(([x, y]) => [y, x]))];
    };
    const comb = Object.fromEntries(Array.from({ length: 60 }, (_, k) => bar(k)));
    expect(checkForms(Object.entries(comb).map(([id, form]) => ({ id, forms: [form] }))).length).toBe(MOST_FLAWS);
  });
});
