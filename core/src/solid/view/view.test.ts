import { beforeAll, describe, expect, it } from 'vitest';
import { openKernel } from '../../../../scripts/openKernel';
import { bodyDrawing } from '../../format/body';
import { type Form, flattenForm, formsBounds } from '../../geometry';
import { type BodyStep, type ExtrudeStep, frameOf, regionsOf, VIEW_SIDES, type ViewSide } from '..';
import { createBuilder, type Kernel } from '../kernel';
import { circle, loop, plate, polygon, rectangle } from '../shapes.test-data';

let oc: Kernel;
beforeAll(async () => {
  oc = await openKernel();
}, 60_000);

const seen = (side: ViewSide, ...steps: BodyStep[]): Form[] => {
  const { state, faults } = createBuilder(oc).build(steps);
  expect(faults).toEqual([]);
  return bodyDrawing(oc, state!, { side }, { title: 'Part', date: '2026-03-01', unit: 'mm' })!.forms.map((f) => f.form);
};

const block = (id: string, form: Form, fromMm: number, toMm: number): ExtrudeStep => ({
  ...plate(),
  id,
  regions: regionsOf([loop(id, form)]),
  heights: { fromMm, toMm },
});
const turned = (form: Form): BodyStep => ({
  kind: 'revolve',
  id: 'turned',
  does: 'add',
  frame: frameOf('top', 0),
  regions: regionsOf([loop('half', form)]),
  axis: { at: { x: 0, y: 0 }, along: { x: 1, y: 0 } },
  angleRad: 2 * Math.PI,
});

const lengthOf = (forms: readonly Form[]): number =>
  forms.reduce((sum, form) => {
    if (form.kind === 'circle') return sum + 2 * Math.PI * form.radius;
    const points = flattenForm(form, 1e-5);
    const all = form.closed ? [...points, points[0]!] : points;
    return sum + all.slice(1).reduce((s, p, k) => s + Math.hypot(p.x - all[k]!.x, p.y - all[k]!.y), 0);
  }, 0);

describe('what is seen of a body from its sides', () => {
  it('shows a plate with a hole by its outline and a circle, exactly', () => {
    const top = seen('top', plate());
    expect(top).toHaveLength(2);
    expect(top).toContainEqual({ kind: 'circle', centre: { x: 10, y: 10 }, radius: 4 });
    const outline = top.find((f) => f.kind === 'chain');
    expect(outline).toMatchObject({ closed: true, segments: { length: 4 } });
    for (const side of ['front', 'back', 'left', 'right'] as const) {
      const forms = seen(side, plate());
      expect(forms).toHaveLength(1);
      expect(lengthOf(forms)).toBeCloseTo(2 * (3 + (side === 'front' || side === 'back' ? 40 : 20)), 9);
    }
  });

  it('mirrors what is seen from behind and from below', () => {
    const bounds = (side: ViewSide) => formsBounds(seen(side, plate()))!;
    expect(bounds('back')).toEqual({ min: { x: -40, y: 0 }, max: { x: 0, y: 3 } });
    expect(bounds('left')).toEqual({ min: { x: -20, y: 0 }, max: { x: 0, y: 3 } });
    expect(bounds('bottom')).toEqual({ min: { x: 0, y: -20 }, max: { x: 40, y: 0 } });
  });

  it('leaves out what stands behind something else', () => {
    const floor = block('floor', rectangle(0, 0, 20, 20), -1, 0);
    const near = block('near', rectangle(0, 0, 20, 10), 0, 10);
    const tower = block('tower', rectangle(5, 12, 5, 8), 0, 15);
    // From the front: the near block with the floor, in one plane; of the tower what rises above it.
    expect(lengthOf(seen('front', floor, near, tower))).toBeCloseTo(2 * (20 + 11) + 5 + 5 + 5, 6);
    // From behind: the outline but for what the tower covers of its top, the floor's edge beside the tower, and the tower,
    // whose back lies in one plane with the floor's.
    expect(lengthOf(seen('back', floor, near, tower))).toBeCloseTo(2 * (20 + 11) - 5 + (20 - 5) + 2 * 15 + 5, 6);
  });

  it('draws edges that were rounded by where they turn away', () => {
    const rounded = [
      plate(),
      { kind: 'edges', id: 'round', does: 'add', how: 'round', sizeMm: 1, which: { kind: 'outer' } },
    ] as BodyStep[];
    const [front, ...others] = seen('front', ...rounded);
    expect(others).toEqual([]);
    // The corners are seen as quarters of a circle, by chords.
    expect(lengthOf([front!])).toBeCloseTo(2 * (38 + 1) + 2 * Math.PI, 1);
    const { min, max } = formsBounds([front!])!;
    for (const off of [min.x, min.y, max.x - 40, max.y - 3]) expect(off).toBeCloseTo(0, 9);
  });

  it('draws where round bodies turn away: a cylinder and a cone exactly, a ball within the chords', () => {
    for (const side of ['top', 'front'] as const) {
      expect(lengthOf(seen(side, turned(rectangle(0, 0, 10, 5))))).toBeCloseTo(40, 4);
      const cone = seen(side, turned(polygon([0, 0], [12, 0], [0, 5])));
      expect(lengthOf(cone)).toBeCloseTo(10 + 2 * 13, 4);
    }
    const half: Form = {
      kind: 'chain',
      closed: true,
      segments: [
        { kind: 'arc', from: { x: -8, y: 0 }, via: { x: 0, y: 8 }, to: { x: 8, y: 0 } },
        { kind: 'line', from: { x: 8, y: 0 }, to: { x: -8, y: 0 } },
      ],
    };
    for (const side of VIEW_SIDES) {
      const ball = seen(side, turned(half));
      for (const form of ball)
        for (const p of flattenForm(form, 1e-4)) expect(Math.abs(Math.hypot(p.x, p.y) - 8)).toBeLessThan(0.01);
      expect(lengthOf(ball)).toBeCloseTo(16 * Math.PI, 0);
    }
  });

  it.each([0.1, 3, 17.3, 44.9, 62])(
    'keeps its lines whole where nothing lies along an axis, turned by %s°',
    (degrees) => {
      const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
      const at = (x: number, y: number) => [c * x - s * y, s * x + c * y] as const;
      const box = block('box', polygon(at(0, 0), at(30, 0), at(30, 18), at(0, 18)), 0, 7);
      const drilled = { ...box, regions: regionsOf([box.regions[0]!.outer, loop('hole', circle(...at(12, 9), 3))]) };
      const wide = 30 * c + 18 * s;
      expect(lengthOf(seen('front', drilled))).toBeCloseTo(2 * wide + 3 * 7, 4);
      expect(lengthOf(seen('right', drilled))).toBeCloseTo(2 * (30 * s + 18 * c) + 3 * 7, 4);
      expect(lengthOf(seen('top', drilled))).toBeCloseTo(96 + 6 * Math.PI, 4);
    },
  );
});
