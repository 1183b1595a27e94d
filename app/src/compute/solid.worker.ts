import {
  type BodyDrawing,
  type BodyFile,
  type BodyFormat,
  type BodyOptions,
  bodyDrawing,
  type NamedBody,
  writeBodies,
  writeBody,
} from '@steady-moth/core/format/body';
import type { FlatProfile } from '@steady-moth/core/format/profile';
import type { BodyMesh, BodyStep, Box, FeatureFault, FeatureNote } from '@steady-moth/core/solid';
import {
  type BodyFigures,
  type BodySize,
  type Builder,
  boxOfBody,
  createBuilder,
  figuresOf,
  type Kernel,
  meshOf,
  type SizeAsked,
  screenTolerance,
  sizeOf,
} from '@steady-moth/core/solid/kernel';
import * as Comlink from 'comlink';
import init from 'replicad-opencascadejs';
import wasmUrl from 'replicad-opencascadejs/wasm?url';
import { serve } from './serve';

/** A body as it is shown. */
export interface ShownBody {
  mesh: BodyMesh;
  box: Box;
}

let opened: Promise<{ oc: Kernel; builder: Builder }> | null = null;

/** The kernel is fetched and started with the first body, and never before. */
function open() {
  opened ??= init({ locateFile: () => wasmUrl, print() {}, printErr() {} }).then((oc) => ({
    oc,
    builder: createBuilder(oc),
  }));
  // What could not be fetched is asked for again the next time.
  opened.catch(() => {
    opened = null;
  });
  return opened;
}

const calls = {
  /** The body that steps make, and which of them could not be made. What was made last is kept, step by step. */
  async build(
    steps: readonly BodyStep[],
  ): Promise<{ body: ShownBody | null; faults: FeatureFault[]; notes: FeatureNote[] }> {
    const { oc, builder } = await open();
    const { state, faults, notes } = builder.build(steps);
    if (!state) return { body: null, faults, notes };
    const box = boxOfBody(oc, state.shape!);
    const { min, max } = box;
    const size = Math.hypot(max.x - min.x, max.y - min.y, max.z - min.z);
    const mesh = meshOf(oc, state, screenTolerance(size));
    const buffers = [mesh.positions, mesh.normals, mesh.triangles, ...mesh.edges.map((e) => e.line)].map(
      (a) => a.buffer,
    );
    return Comlink.transfer({ body: { mesh, box }, faults, notes }, buffers as ArrayBuffer[]);
  },

  /** What the body that steps make comes to: asked for once it is shown, since it may take longer than that. */
  async figures(steps: readonly BodyStep[]): Promise<BodyFigures | null> {
    const { oc, builder } = await open();
    const { state } = builder.build(steps);
    return state && figuresOf(oc, state.shape!);
  },

  /** A size of the body that steps make. */
  async size(steps: readonly BodyStep[], asked: SizeAsked): Promise<BodySize | null> {
    const { oc, builder } = await open();
    const { state } = builder.build(steps);
    return state && sizeOf(oc, state, asked);
  },

  /** The body that steps make, as a file. */
  async write(steps: readonly BodyStep[], format: BodyFormat, options: BodyOptions): Promise<BodyFile> {
    const { oc, builder } = await open();
    const { state } = builder.build(steps);
    return state ? writeBody(oc, state, format, options) : { ok: false, reason: 'not-written' };
  },

  /** A section of the body, or what is seen of it from a side, as a drawing; null where a section meets nothing. */
  async draw(
    steps: readonly BodyStep[],
    what: BodyDrawing,
    options: { title: string; date: string; unit: 'mm' | 'in' },
  ): Promise<FlatProfile | null> {
    const { oc, builder } = await open();
    const { state } = builder.build(steps);
    return state && bodyDrawing(oc, state, what, options);
  },

  /** Several bodies in one archive, each in every format; and those that could not be made. */
  async writeAll(bodies: readonly NamedBody[], options: Omit<BodyOptions, 'title'>) {
    const { oc, builder } = await open();
    return writeBodies(oc, builder, bodies, options);
  },
};

export type SolidCalls = typeof calls;

serve(calls);
