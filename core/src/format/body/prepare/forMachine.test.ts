import { strFromU8, unzipSync } from 'fflate';
import { beforeAll, describe, expect, it } from 'vitest';
import { openKernel } from '../../../../../scripts/openKernel';
import { type BodyStep, frameOf, type HolesStep } from '../../../solid';
import { createBuilder, figuresOf, type Kernel } from '../../../solid/kernel';
import { circle, loop, plate, rectangle } from '../../../solid/shapes.test-data';
import type { Machine } from '../../profile';
import { writeBody } from '..';
import { stepsFor } from '.';

let oc: Kernel;
beforeAll(async () => {
  oc = await openKernel();
}, 60_000);

const machine = (change: Partial<Machine>): Machine => ({
  name: 'Printer',
  barXMm: 100,
  barYMm: 100,
  kerfMm: 0,
  holesMm: 0,
  date: '2026-02-01',
  ...change,
});
const volumeOf = (steps: readonly BodyStep[]): number => {
  const { state, faults } = createBuilder(oc).build(steps);
  expect(faults).toEqual([]);
  return figuresOf(oc, state!.shape!).volumeMm3;
};

describe('a body that is made up for a machine', () => {
  it('is larger outside and narrower in its openings by half a cut, its round holes wider by their allowance', () => {
    const { steps, lost } = stepsFor([plate()], machine({ kerfMm: 0.2, holesMm: 0.3 }));
    expect(lost).toBe(false);
    // The hole is 8 less the cut, more the allowance.
    const area = 40.2 * 20.2 - Math.PI * (4 - 0.1 + 0.15) ** 2;
    expect(volumeOf(steps)).toBeCloseTo(3 * area, 6);
  });

  it('cuts what is cut out the other way, and drills wider', () => {
    const slot: BodyStep = {
      ...plate(),
      id: 'slot',
      does: 'cut',
      regions: [{ outer: loop('slot', rectangle(20, 5, 10, 4)), holes: [] }],
      heights: null,
    };
    const drilled: HolesStep = {
      kind: 'holes',
      id: 'holes',
      does: 'cut',
      frame: frameOf('top', 0),
      holes: [{ path: 'other', centre: { x: 34, y: 14 }, diameterMm: 4 }],
      depthMm: null,
      from: 'end',
      head: { kind: 'none' },
    };
    const base = { ...plate(), regions: [{ outer: loop('outer', rectangle(0, 0, 40, 20)), holes: [] }] };
    const printer = machine({ kerfMm: -0.2, holesMm: 0.1 });
    const { steps } = stepsFor([base, slot, drilled], printer);
    const outer = 39.8 * 19.8;
    const opening = 10.2 * 4.2;
    expect(volumeOf(steps)).toBeCloseTo(3 * (outer - opening - Math.PI * 2.15 ** 2), 6);
  });

  it('leaves other sides alone, and tells where nothing is left of a profile', () => {
    const front = { ...plate(), frame: frameOf('front', 0) };
    expect(stepsFor([front], machine({ kerfMm: 1 })).steps).toEqual([front]);
    const thin = { ...plate(), regions: [{ outer: loop('thin', circle(0, 0, 0.4)), holes: [] }] };
    expect(stepsFor([thin], machine({ kerfMm: -1 })).lost).toBe(true);
  });

  it('is stretched in triangles alone, and each file says what was done', () => {
    const own = machine({ barXMm: 99.5, barYMm: 100.2, kerfMm: 0.1 });
    const { state } = createBuilder(oc).build(stepsFor([plate()], own).steps);
    const options = { title: 'Plate', date: '2026-03-01', toleranceMm: 0.05, machine: own };
    const text = (format: 'step' | 'stl' | '3mf') => {
      const file = writeBody(oc, state!, format, options);
      if (!file.ok) throw new Error(file.reason);
      return format === '3mf' ? strFromU8(unzipSync(file.bytes)['3D/3dmodel.model']!) : strFromU8(file.bytes, true);
    };
    const model = text('3mf');
    expect(model).toContain('<metadata name="Description">drawn for Printer (2026-02-01): X × 1.0050');
    const xs = [...model.matchAll(/<vertex x="([-\d.]+)" y="([-\d.]+)"/g)].map((m) => [Number(m[1]), Number(m[2])]);
    const width = Math.max(...xs.map((p) => p[0]!)) - Math.min(...xs.map((p) => p[0]!));
    const depth = Math.max(...xs.map((p) => p[1]!)) - Math.min(...xs.map((p) => p[1]!));
    expect(width).toBeCloseTo((40.1 * 100) / 99.5, 4);
    expect(depth).toBeCloseTo((20.1 * 100) / 100.2, 4);
    expect(text('stl').slice(0, 80)).toContain('Printer');
    // Exact surfaces are not stretched, and the file does not say so.
    expect(text('step')).toMatch(/FILE_DESCRIPTION\(\('Plate, true to size in mm; drawn for Printer [^']*1\.0000/);
  });
});
