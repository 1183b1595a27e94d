import { fewerTriangles, gapOf, looseEdges, type SurfaceMesh, type TriangleSet, together } from '../../solid';
import { type BodyState, type Kernel, surfaceMeshes, triangleCount, writeStep } from '../../solid/kernel';
import { CHECK_BAR_MM, type Machine, remarkOf } from '../profile';
import { writeStl } from '../stl';
import { write3mf } from '../threeMf';
import { stretchFor } from './prepare';

export const BODY_FORMATS = ['step', 'stl', '3mf'] as const;
export type BodyFormat = (typeof BODY_FORMATS)[number];

export interface BodyOptions {
  title: string;
  /** As it shall be read, for instance 2026-03-01. */
  date: string;
  /** Largest gap between triangles and surface that is asked for, mm; STEP has none. */
  toleranceMm: number;
  /** By how much it is written larger than it is; left out, not at all. */
  factor?: number;
  /** The machine whose steps these are (`stepsFor`): triangles are stretched for it, and the file says so; left out, none. */
  machine?: Machine | null;
}

/** Of triangles finer than this nothing is made: a file of a million of them helps nobody. */
export const FINEST_MM = 0.001;
export const COARSEST_MM = 1;
const MOST_TRIANGLES = 1_000_000;

export type BodyFile =
  | {
      ok: true;
      bytes: Uint8Array;
      triangles: number | null /** The largest gap there may be, from those that were found, mm. */;
      deviationMm: number | null;
    }
  | { ok: false; reason: 'tolerance' | 'too-many' | 'not-closed' | 'not-written' };

/** Writes a body as a file. What is told of triangles was counted and measured on those in the file. */
export function writeBody(oc: Kernel, state: BodyState, format: BodyFormat, options: BodyOptions): BodyFile {
  const { title, date, toleranceMm, factor = 1, machine = null } = options;
  if (format === 'step') {
    // Exact circles stay circles: what is stretched is triangles alone.
    const remark = machine ? remarkOf({ ...machine, barXMm: CHECK_BAR_MM, barYMm: CHECK_BAR_MM }) : '';
    const text = writeStep(oc, state.shape!, title, date, { factor, remark });
    if (text === null) return { ok: false, reason: 'not-written' };
    return { ok: true, bytes: new TextEncoder().encode(text), triangles: null, deviationMm: null };
  }
  if (!(toleranceMm >= FINEST_MM && toleranceMm <= COARSEST_MM)) return { ok: false, reason: 'tolerance' };
  if (wouldBeTooMany(oc, state, toleranceMm)) return { ok: false, reason: 'too-many' };
  // The kernel's own bound is a wish: what comes out is measured, and meshed finer until it keeps what was asked for.
  let linearMm = toleranceMm;
  let fine = meshed(oc, state, linearMm);
  let gapMm = largestGap(fine);
  for (let k = 0; k < MOST_TRIES && gapMm > FINE_SHARE * toleranceMm && countOf(fine) <= MOST_TRIANGLES; k++) {
    linearMm *= Math.min(0.8, (0.9 * FINE_SHARE * toleranceMm) / gapMm);
    fine = meshed(oc, state, linearMm);
    gapMm = largestGap(fine);
  }
  if (countOf(fine) > MOST_TRIANGLES) return { ok: false, reason: 'too-many' };
  // Between the places that are measured a surface bulges by a quarter of what the mesh through them is off, and coarser
  // triangles stray from it by up to a seventh more than at those places (measured on rings and bulges).
  const allowedMm = BETWEEN_PLACES * (toleranceMm - gapMm / 4);
  const isThinned = countOf(fine) <= MOST_THINNED;
  const thinned = fine.map((mesh) => (isThinned ? fewerTriangles(mesh, allowedMm) : { set: mesh, gapMm }));
  const sets = thinned.map((t) => t.set);
  const foundMm = Math.max(...thinned.map((t) => t.gapMm));
  const deviationMm = isThinned ? Math.max(foundMm, Math.min(toleranceMm, foundMm / BETWEEN_PLACES)) : foundMm;
  if (sets.some((set) => looseEdges(set) > 0)) return { ok: false, reason: 'not-closed' };
  const remark = machine ? remarkOf(machine) : '';
  const { x, y } = machine ? stretchFor(machine) : { x: 1, y: 1 };
  const grow = [factor * x, factor * y, factor] as const;
  if (grow.some((g) => g !== 1)) for (const set of sets) set.corners = set.corners.map((v, k) => v * grow[k % 3]!);
  const bytes = format === 'stl' ? writeStl(together(sets), title, remark) : write3mf(sets, title, date, remark);
  return { ok: true, bytes, triangles: countOf(sets), deviationMm };
}

/** Coarser meshes by which it is told how many triangles a finer one would have: each four times as fine as the one before. */
const STEPS = [256, 64, 16, 4] as const;
const COARSEST_TRIED_MM = 0.3;

/** Whether a mesh would have more triangles than are written, told from coarser ones: nobody waits for a million to be refused. */
function wouldBeTooMany(oc: Kernel, state: BodyState, toleranceMm: number): boolean {
  let before: number | null = null;
  for (const times of STEPS.filter((n) => n * toleranceMm <= COARSEST_TRIED_MM)) {
    const count = triangleCount(oc, state, { linearMm: times * toleranceMm, angularRad: ANGULAR_RAD });
    // Grown by the same share with each step that is left.
    const growth: number = before === null ? 1 : count / before;
    if (count * growth ** Math.round(Math.log(times) / Math.log(4)) > MOST_TRIANGLES) return true;
    // Even where both ways of a surface are round, a mesh four times as fine has four times as many.
    if (count * times < MOST_TRIANGLES) return false;
    before = count;
  }
  return false;
}

const MOST_TRIES = 4;
const BETWEEN_PLACES = 0.88;
/** The mesh to begin with keeps within this share of the tolerance: where it used all of it no corner could go. */
const FINE_SHARE = 0.75;
/** Of more nobody waits until they are fewer: 200,000 take 20 s. */
const MOST_THINNED = 300_000;

/** Small rounds are made of at least so many steps: one for each angle of this size. */
const ANGULAR_RAD = 0.35;

const meshed = (oc: Kernel, state: BodyState, linearMm: number) =>
  surfaceMeshes(oc, state, { linearMm, angularRad: ANGULAR_RAD });

const largestGap = (meshes: readonly SurfaceMesh[]): number => Math.max(...meshes.map(gapOf));
const countOf = (sets: readonly TriangleSet[]): number => sets.reduce((n, s) => n + s.triangles.length / 3, 0);
