import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Form, formArea } from './run';
import type { Segment } from './segment';
import { polygon, rectangle, slot } from './shapes';
import { findAxes, symmetricForms } from './symmetry';
import { mapForm, mirrorForm, mirrorPlace, turnForm } from './transform';
import { between, type Vec2, vec } from './vector';

/** An arrow that is its own image in the line x = 0 alone. */
const half: Vec2[] = [vec(0, 0), vec(12, 4), vec(9, 10), vec(20, 16), vec(6, 30), vec(0, 26)];
const arrow: Form = {
  kind: 'chain',
  closed: true,
  segments: [
    ...half,
    ...[...half]
      .reverse()
      .slice(1, -1)
      .map((p) => vec(-p.x, p.y)),
  ].map((from, k, all): Segment => ({ kind: 'line', from, to: all[(k + 1) % all.length]! })),
};
const away = (p: Vec2, a: Vec2, b: Vec2) =>
  Math.abs((b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x)) / between(a, b);

describe('the axis of a form', () => {
  it('is found wherever it lies', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 6.28, noNaN: true }), (angle) => {
        const pivot = vec(7, -3);
        const form = turnForm(arrow, pivot, angle);
        const [best] = findAxes([form]);
        expect(best!.largestMm).toBeLessThan(0.05);
        const [foot, tip] = [vec(0, 0), vec(0, 26)].map((p) => {
          const seg = turnForm({ kind: 'circle', centre: p, radius: 1 }, pivot, angle);
          return seg.kind === 'circle' ? seg.centre : p;
        }) as [Vec2, Vec2];
        expect(away(foot, best!.a, best!.b)).toBeLessThan(0.02);
        expect(away(tip, best!.a, best!.b)).toBeLessThan(0.02);
      }),
      { numRuns: 15 },
    );
  });

  it('is each of several, and says how unsymmetric a form is', () => {
    expect(findAxes([rectangle(vec(1, 2), 30, 20, 0.3)]).filter((s) => s.largestMm < 0.05)).toHaveLength(2);
    const lopsided: Form = {
      ...(arrow as Extract<Form, { kind: 'chain' }>),
      segments: (arrow as Extract<Form, { kind: 'chain' }>).segments.map((s) => {
        const moved = (p: Vec2) => (p.x === 20 ? vec(20.6, 16) : p);
        return { kind: 'line', from: moved(s.from), to: moved(s.to) };
      }),
    };
    const [best] = findAxes([lopsided]);
    expect(best!.largestMm).toBeGreaterThan(0.2);
    expect(best!.largestMm).toBeLessThan(0.8);
  });

  it('goes through the middle of a circle, in whatever direction', () => {
    const [best] = findAxes([{ kind: 'circle', centre: vec(4, 7), radius: 11 }]);
    expect(best!.largestMm).toBeLessThan(0.01);
    expect(away(vec(4, 7), best!.a, best!.b)).toBeLessThan(0.01);
  });

  it('is none of nothing', () => {
    expect(findAxes([])).toEqual([]);
  });
});

describe('making symmetric', () => {
  it('leaves a symmetric form as it is, and makes of any other one that is its own image', () => {
    const line = { a: vec(0, 0), b: vec(0, 1) };
    expect(formArea(symmetricForms([arrow], line)![0]!)).toBeCloseTo(formArea(arrow), 9);
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -0.4, max: 0.4, noNaN: true }), { minLength: 40, maxLength: 40 }),
        (noise) => {
          let k = 0;
          const known = new Map<string, Vec2>();
          const shaken = mapForm(arrow, (p) => {
            const key = `${p.x} ${p.y}`;
            const at = known.get(key) ?? vec(p.x + noise[k++ % 40]!, p.y + noise[k++ % 40]!);
            known.set(key, at);
            return at;
          });
          const [made] = symmetricForms([shaken], line)!;
          const image = mirrorForm(made!, line.a, line.b)!;
          const ends = (f: Form) => (f.kind === 'chain' ? f.segments.map((s) => s.from) : []);
          for (const p of ends(image)) expect(Math.min(...ends(made!).map((q) => between(p, q)))).toBeLessThan(1e-9);
          const segments = made!.kind === 'chain' ? made!.segments : [];
          for (const [n, s] of segments.entries()) expect(s.to).toEqual(segments[(n + 1) % segments.length]!.from);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('keeps arcs and curves of their kind, and matches circles', () => {
    const line = { a: vec(0.1, 0), b: vec(0.1, 1) };
    const holes: Form[] = [
      { kind: 'circle', centre: vec(-10, 0), radius: 3 },
      { kind: 'circle', centre: vec(10.4, 0), radius: 3.2 },
    ];
    const made = symmetricForms([slot(vec(-8, 5), vec(8.4, 5), 6)!, ...holes], line)!;
    expect(made[0]).toMatchObject({ segments: [{ kind: 'line' }, { kind: 'arc' }, { kind: 'line' }, { kind: 'arc' }] });
    const [p, q] = made.slice(1);
    if (p?.kind !== 'circle' || q?.kind !== 'circle') throw new Error('circles');
    expect(p.radius).toBeCloseTo(3.1, 12);
    expect(between(mirrorPlace(p.centre, line.a, line.b), q.centre)).toBeLessThan(1e-12);
  });

  it('lets the other half decide where one is worn', () => {
    const line = { a: vec(0, 0), b: vec(0, 1) };
    const shaken = mapForm(arrow, (p) => (p.x === 20 ? vec(17, 16) : p));
    const segments = shaken.kind === 'chain' ? shaken.segments : [];
    const worn = (_: number, k: number) => segments[k]!.from.x === 17 || segments[k]!.to.x === 17;
    expect(formArea(symmetricForms([shaken], line, worn)![0]!)).toBeCloseTo(formArea(arrow), 6);
  });

  it('is refused where a piece has no counterpart', () => {
    expect(symmetricForms([polygon(vec(30, 0), vec(40, 0), 5)], { a: vec(0, 0), b: vec(0, 1) })).toBeNull();
  });
});
