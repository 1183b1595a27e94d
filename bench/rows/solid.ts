import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readJobFile } from '../../core/src/format';
import { writeBody } from '../../core/src/format/body';
import { type Random, seededRandom } from '../../core/src/numeric';
import { planJob } from '../../core/src/script';
import { type BodyStep, frameOf, regionsOf } from '../../core/src/solid';
import {
  type BodyState,
  boxOfBody,
  createBuilder,
  figuresOf,
  type Kernel,
  meshOf,
  screenTolerance,
} from '../../core/src/solid/kernel';
import { circle, loop, rectangle } from '../../core/src/solid/shapes.test-data';

export const DEMO_JOBS = ['latch-plate', 'lamp-gasket', 'funnel-bracket', 'focus-knob'] as const;

/** What the body of a finished demo job is made of. */
export function demoSteps(name: string): readonly BodyStep[] {
  const opened = readJobFile(new Uint8Array(readFileSync(new URL(`../../demo/jobs/${name}.moth`, import.meta.url))));
  const planned = opened.ok ? planJob(opened.job) : null;
  if (!planned?.ok) throw new Error(`${name} has no body`);
  return planned.body.steps;
}

/** Time in which a body is there to be seen, from its plan, ms: the first time, and after each of its steps changed. */
export function timeBody(oc: Kernel, steps: readonly BodyStep[]): { first: number; changed: number[] } {
  const builder = createBuilder(oc);
  const shown = (own: readonly BodyStep[]): number => {
    const began = performance.now();
    const { state } = builder.build(own);
    if (!state) throw new Error('no body');
    const { min, max } = boxOfBody(oc, state.shape!);
    meshOf(oc, state, screenTolerance(Math.hypot(max.x - min.x, max.y - min.y, max.z - min.z)));
    return performance.now() - began;
  };
  const first = shown(steps);
  const changed = steps.map((_, k) => shown(steps.map((s, n) => (n === k ? altered(s) : s))));
  return { first, changed };
}

/** Time in which the figures of a body follow, ms. */
export function timeFigures(oc: Kernel, steps: readonly BodyStep[]): number {
  const { state } = createBuilder(oc).build(steps);
  const began = performance.now();
  figuresOf(oc, state!.shape!);
  return performance.now() - began;
}

/** A step with its figure a little larger. */
function altered(step: BodyStep): BodyStep {
  if (step.kind === 'extrude' && step.heights)
    return { ...step, heights: { ...step.heights, toMm: step.heights.toMm * 1.02 } };
  if (step.kind === 'edges') return { ...step, sizeMm: step.sizeMm * 0.98 };
  if (step.kind === 'revolve') return { ...step, angleRad: step.angleRad * 0.999 };
  if (step.kind === 'holes')
    return { ...step, holes: step.holes.map((h) => ({ ...h, diameterMm: h.diameterMm * 1.01 })) };
  return step;
}

interface Simulated {
  steps: BodyStep[];
  /** mm³. */
  exact: number;
}

/** Parts of random size whose volume a formula tells: plates with holes and broken edges, and turned parts. */
export function simulatedParts(count: number): Simulated[] {
  const random = seededRandom(2026);
  return Array.from({ length: count }, (_, k) => (k % 2 === 0 ? plateWith(random) : turnedOf(random)));
}

function plateWith(random: Random): Simulated {
  const [w, h, t] = [40 + 60 * random(), 30 + 40 * random(), 2 + 10 * random()];
  const count = 1 + Math.floor(3 * random());
  const step = w / (count + 1);
  const holes = Array.from({ length: count }, (_, k) => ({ x: (k + 1) * step, r: 1.5 + 0.1 * step * random() }));
  const chamfer = Math.min(0.4 * t, 0.2 + random());
  const steps: BodyStep[] = [
    {
      kind: 'extrude',
      id: 'plate',
      does: 'add',
      frame: frameOf('top', 0),
      regions: regionsOf([
        loop('outer', rectangle(0, 0, w, h)),
        ...holes.map(({ x, r }, k) => loop(`hole${k}`, circle(x, h / 2, r))),
      ]),
      heights: { fromMm: 0, toMm: t },
      draftRad: 0,
      inside: null,
    },
    { kind: 'edges', id: 'edges', does: 'add', how: 'cut', sizeMm: chamfer, which: { kind: 'end' } },
  ];
  const area = w * h - holes.reduce((sum, { r }) => sum + Math.PI * r * r, 0);
  // A triangle along the rim, less what is counted twice in each corner.
  const rim = ((chamfer * chamfer) / 2) * 2 * (w + h) - (4 / 3) * chamfer ** 3;
  return { steps, exact: area * t - rim };
}

function turnedOf(random: Random): Simulated {
  const [long, radius, bore] = [10 + 50 * random(), 8 + 20 * random(), 2 + 4 * random()];
  const steps: BodyStep[] = [
    {
      kind: 'revolve',
      id: 'turned',
      does: 'add',
      frame: frameOf('top', 0),
      regions: regionsOf([loop('half', rectangle(0, bore, long, radius - bore))]),
      axis: { at: { x: 0, y: 0 }, along: { x: 1, y: 0 } },
      angleRad: 2 * Math.PI,
    },
    { kind: 'edges', id: 'edges', does: 'add', how: 'cut', sizeMm: 0.5, which: { kind: 'outer' } },
  ];
  // Four rims: rings of triangular section, whose middle lies a third of the way from the corner (Pappus).
  const ring = (r: number) => (0.25 / 2) * 2 * Math.PI * r;
  const broken = 2 * ring(radius - 0.5 / 3) + 2 * ring(bore + 0.5 / 3);
  return { steps, exact: Math.PI * (radius ** 2 - bore ** 2) * long - broken };
}

export const built = (oc: Kernel, steps: readonly BodyStep[]): BodyState => {
  const { state, faults } = createBuilder(oc).build(steps);
  if (!state || faults.length > 0) throw new Error(`not built: ${JSON.stringify(faults)}`);
  return state;
};

const OPTIONS = { title: 'bench', date: '2026-03-01', toleranceMm: 0.05 };
const folder = mkdtempSync(join(tmpdir(), 'bodies-'));

/** Volume and number of solids of a STEP file as another reader sees them; null where it is not on this machine. */
export function stepElsewhere(oc: Kernel, state: BodyState): { volume: number; solids: number } | null {
  const file = writeBody(oc, state, 'step', OPTIONS);
  if (!file.ok) throw new Error(file.reason);
  const path = join(folder, 'part.step');
  writeFileSync(path, file.bytes);
  const script = `
import gmsh
gmsh.initialize()
gmsh.option.setNumber("General.Terminal", 0)
found = gmsh.model.occ.importShapes(${JSON.stringify(path)})
gmsh.model.occ.synchronize()
print(len(found), sum(gmsh.model.occ.getMass(*f) for f in found))`;
  try {
    const [solids, volume] = execFileSync('/usr/bin/python3', ['-c', script], { encoding: 'utf8' }).trim().split(' ');
    return { volume: Number(volume), solids: Number(solids) };
  } catch {
    return null;
  }
}

/** Whether another program finds nothing to mend in an STL file; null where it is not on this machine. */
export function isClosedElsewhere(oc: Kernel, state: BodyState): boolean | null {
  const file = writeBody(oc, state, 'stl', OPTIONS);
  if (!file.ok) throw new Error(file.reason);
  const path = join(folder, 'part.stl');
  writeFileSync(path, file.bytes);
  try {
    const said = execFileSync('admesh', [path], { encoding: 'utf8' });
    return ['Total disconnected facets', 'Degenerate facets', 'Edges fixed', 'Facets removed', 'Facets reversed'].every(
      (what) => new RegExp(`${what}\\s*:\\s*0\\b`).test(said),
    );
  } catch {
    return null;
  }
}
