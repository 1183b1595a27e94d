import type { Id } from '../../sketch';
import type { BodyStep, FeatureFault, FeatureNote } from '../plan';
import { Arena, type Kernel, kernelWords } from './arena';
import { type BodyState, nothingYet } from './body';
import { work } from './combine';
import { dome } from './dome';
import { KernelFault } from './fault';
import { breakEdges, hollow, repeat } from './finish';
import { drill } from './holes';
import { extrude, revolve } from './sweep';
import { EXACT_MM, gapOf, isSound } from './tell';

interface BuiltBody {
  /** Null where no step made anything. */
  state: BodyState | null;
  faults: FeatureFault[];
  notes: FeatureNote[];
}

interface Kept {
  /** The step, and all before it, as text. */
  key: string;
  state: BodyState;
  fault: FeatureFault | null;
  note: FeatureNote | null;
  arena: Arena;
}

export interface Builder {
  /**
   * Works steps one after the other. Those that are the same as last time, from the first on, are not worked again. A step that
   * fails is told and left out, and the others go on from what there was.
   */
  build(steps: readonly BodyStep[]): BuiltBody;
}

export function createBuilder(oc: Kernel): Builder {
  let kept: Kept[] = [];
  const start = nothingYet(new Arena(oc));
  return {
    build(steps) {
      const keys = steps.map((step) => JSON.stringify(step));
      let same = 0;
      while (same < keys.length && kept[same]?.key === keys[same]) same++;
      for (const one of kept.slice(same)) one.arena.free();
      kept = kept.slice(0, same);
      for (let k = same; k < steps.length; k++) {
        const before = kept[k - 1]?.state ?? start;
        kept.push({ key: keys[k]!, ...worked(oc, steps[k]!, before) });
      }
      const last = kept[kept.length - 1]?.state ?? null;
      return {
        state: last?.shape ? last : null,
        faults: kept.flatMap(({ fault }) => (fault ? [fault] : [])),
        notes: kept.flatMap(({ note }) => (note ? [note] : [])),
      };
    },
  };
}

function worked(oc: Kernel, step: BodyStep, before: BodyState): Omit<Kept, 'key'> {
  const arena = new Arena(oc);
  try {
    const state = stepped(arena, step, before);
    if (!isSound(oc, state.shape!)) throw new KernelFault('failed', 'unsound');
    const gap = gapOf(oc, state.shape!);
    const gapBefore = before.shape ? gapOf(oc, before.shape) : 0;
    const note: FeatureNote | null =
      gap > EXACT_MM && gap > gapBefore ? { feature: step.id, kind: 'inexact', mm: gap } : null;
    return { state, fault: null, note, arena };
  } catch (error) {
    const fault = faultOf(oc, step.id, error);
    arena.free();
    return { state: before, fault, note: null, arena: new Arena(oc) };
  }
}

function stepped(arena: Arena, step: BodyStep, before: BodyState): BodyState {
  switch (step.kind) {
    case 'extrude':
      return work(arena, before, step.id, extrude(arena, step, before));
    case 'revolve':
      return work(arena, before, step.id, revolve(arena, step));
    case 'dome':
      return work(arena, before, step.id, dome(arena, step, before));
    case 'holes':
      return work(arena, before, step.id, drill(arena, step, before));
    case 'edges':
      return breakEdges(arena, step, before);
    case 'hollow':
      return hollow(arena, step, before);
    case 'repeat':
      return repeat(arena, step, before);
  }
}

function faultOf(oc: Kernel, feature: Id, error: unknown): FeatureFault {
  if (error instanceof KernelFault) return { feature, reason: error.reason, detail: error.detail };
  const words = kernelWords(oc, error);
  if (words === null) throw error;
  return { feature, reason: 'failed', detail: words };
}
