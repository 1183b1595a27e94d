import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strFromU8, unzipSync } from 'fflate';
import { beforeAll, describe, expect, it } from 'vitest';
import { openKernel } from '../../../../scripts/openKernel';
import { writeBody } from '../../format/body';
import type { Form, Segment } from '../../geometry';
import { type BodyStep, frameOf, halfProfile, regionsOf } from '..';
import { loop, polygon, rectangle } from '../shapes.test-data';
import { createBuilder, figuresOf, type Kernel } from '.';

/** Another program that reads STEP, where the machine has it: Debian's python3-gmsh. */
const READER = `
import sys, json, gmsh
gmsh.initialize(); gmsh.option.setNumber('General.Terminal', 0)
out = []
for f in sys.argv[1:]:
    gmsh.clear(); gmsh.model.occ.importShapes(f); gmsh.model.occ.synchronize()
    m = gmsh.model.occ
    out.append([sum(m.getMass(3, t) for _, t in m.getEntities(3)), sum(m.getMass(2, t) for _, t in m.getEntities(2)), len(m.getEntities(3))])
print(json.dumps(out))
`;
const hasReader = ((): boolean => {
  try {
    execFileSync('/usr/bin/python3', ['-c', 'import gmsh'], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
})();

let oc: Kernel;
beforeAll(async () => {
  oc = await openKernel();
}, 60_000);

const line = (x0: number, y0: number, x1: number, y1: number): Segment => ({
  kind: 'line',
  from: { x: x0, y: y0 },
  to: { x: x1, y: y1 },
});
/** An arc about a place from one angle to another. */
const arc = (cx: number, cy: number, r: number, a: number, b: number): Segment => {
  const at = (t: number) => ({ x: cx + r * Math.cos(t), y: cy + r * Math.sin(t) });
  return { kind: 'arc', from: at(a), via: at((a + b) / 2), to: at(b) };
};
const turned = (segments: Segment[]): BodyStep => {
  const axis = { at: { x: 0, y: 0 }, along: { x: 1, y: 0 } };
  const half = halfProfile({ kind: 'chain', segments, closed: false }, axis);
  if (!half.ok) throw new Error(half.reason);
  const regions = regionsOf([loop('half', half.form)]);
  return { kind: 'revolve', id: 'turned', does: 'add', frame: frameOf('top', 0), regions, axis, angleRad: 2 * Math.PI };
};
const drawnOut = (...forms: Form[]): BodyStep => ({
  kind: 'extrude',
  id: 'plate',
  does: 'add',
  frame: frameOf('top', 0),
  regions: regionsOf(forms.map((f, k) => loop(`p${k}`, f))),
  heights: { fromMm: 0, toMm: 4 },
  draftRad: 0,
  inside: null,
});
const blob: Form = {
  kind: 'chain',
  closed: true,
  segments: [
    {
      kind: 'curve',
      from: { x: 0, y: 0 },
      handleFrom: { x: 10, y: -8 },
      handleTo: { x: 25, y: -6 },
      to: { x: 30, y: 4 },
    },
    arc(30, 14, 10, -Math.PI / 2, Math.PI / 2),
    line(30, 24, 0, 24),
    {
      kind: 'curve',
      from: { x: 0, y: 24 },
      handleFrom: { x: -9, y: 18 },
      handleTo: { x: -7, y: 5 },
      to: { x: 0, y: 0 },
    },
  ],
};

const low = Math.asin(-0.03 / 15);
const BODIES: Record<string, BodyStep> = {
  'a cap whose centre lies 0.03 mm off the axis': turned([
    line(0, 0, 0, 15.03),
    line(0, 15.03, 12, 15.03),
    arc(12, 0.03, 15, Math.PI / 2, low),
  ]),
  'a dome': turned([line(0, 0, 0, 15), arc(0, 0, 15, Math.PI / 2, 0)]),
  'a pointed cap': turned([line(0, 0, 0, 10), arc(0, -8, 18, Math.PI / 2, Math.asin(8 / 18))]),
  'a cap of a curve': turned([
    line(0, 0, 0, 12),
    {
      kind: 'curve',
      from: { x: 0, y: 12 },
      handleFrom: { x: 10, y: 14 },
      handleTo: { x: 20, y: 8 },
      to: { x: 22, y: 0 },
    },
  ]),
  'a crowned roller': turned([
    line(0, 0, 0, 9),
    arc(15, -40, Math.hypot(15, 49), Math.atan2(49, -15), Math.atan2(49, 15)),
    line(30, 9, 30, 0),
  ]),
  'a plate with curves': drawnOut(blob),
  'two squares that touch at a corner': drawnOut(rectangle(0, 0, 10, 10), rectangle(10, 10, 10, 10)),
};

describe('bodies read back by another program', () => {
  it.skipIf(!hasReader)('have the volume and the area that they were made with', () => {
    const folder = mkdtempSync(join(tmpdir(), 'moth-step-'));
    const made = Object.values(BODIES).map((step, k) => {
      const { state, faults } = createBuilder(oc).build([step]);
      expect(faults).toEqual([]);
      const file = writeBody(oc, state!, 'step', { title: 'part', date: '2026-01-01', toleranceMm: 0.05 });
      if (!file.ok) throw new Error(file.reason);
      const path = join(folder, `${k}.step`);
      writeFileSync(path, file.bytes);
      return { path, ...figuresOf(oc, state!.shape!) };
    });
    const script = join(folder, 'read.py');
    writeFileSync(script, READER);
    const read = JSON.parse(
      execFileSync('/usr/bin/python3', [script, ...made.map((m) => m.path)], { encoding: 'utf8' }),
    ) as [number, number, number][];
    read.forEach(([volume, area, solids], k) => {
      expect(volume / made[k]!.volumeMm3, Object.keys(BODIES)[k]).toBeCloseTo(1, 7);
      expect(area / made[k]!.areaMm2, Object.keys(BODIES)[k]).toBeCloseTo(1, 6);
      expect(solids).toBe(made[k]!.solids);
    });
  });

  it('a ball about the axis has the volume of its formula', () => {
    const { state } = createBuilder(oc).build([BODIES['a dome']!]);
    expect(figuresOf(oc, state!.shape!).volumeMm3).toBeCloseTo((2 / 3) * Math.PI * 15 ** 3, 6);
  });

  it('that touch at a corner are two in a 3MF, and every edge lies between two triangles', () => {
    const { state } = createBuilder(oc).build([BODIES['two squares that touch at a corner']!]);
    expect(figuresOf(oc, state!.shape!).solids).toBe(2);
    const file = writeBody(oc, state!, '3mf', { title: 'part', date: '2026-01-01', toleranceMm: 0.05 });
    if (!file.ok) throw new Error(file.reason);
    const model = strFromU8(unzipSync(file.bytes)['3D/3dmodel.model']!);
    const meshes = [...model.matchAll(/<mesh>([\s\S]*?)<\/mesh>/g)].map((m) => m[1]!);
    expect(meshes).toHaveLength(2);
    expect(model.match(/<component /g)).toHaveLength(2);
    for (const mesh of meshes) {
      const edges = new Map<string, number>();
      for (const t of mesh.matchAll(/<triangle v1="(\d+)" v2="(\d+)" v3="(\d+)"/g)) {
        const v = t.slice(1).map(Number);
        for (let k = 0; k < 3; k++) {
          const key = [v[k]!, v[(k + 1) % 3]!].sort((a, b) => a - b).join(' ');
          edges.set(key, (edges.get(key) ?? 0) + 1);
        }
      }
      expect([...edges.values()].every((n) => n === 2)).toBe(true);
    }
  });

  it('are none where a profile is pinched to nothing', () => {
    const pinched = polygon([0, 0], [10, 10], [20, 0], [20, 20], [10, 10], [0, 20]);
    expect(createBuilder(oc).build([drawnOut(pinched)]).faults).toHaveLength(1);
  });
});
