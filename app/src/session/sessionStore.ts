import type { Item } from '@steady-moth/core/tracing';
import { create } from 'zustand';

import type { Framing } from '../frames/framed';
import type { View } from '../frames/view';

/** The tool in hand, by its step's name for it. None means: take hold of what is there. */
export type Tool = string | null;

export type Selection =
  | Item
  | { kind: 'several'; items: readonly Item[] }
  | { kind: 'pick'; id: string; end: 'from' | 'to'; span?: number }
  | { kind: 'place'; reference: string; uPx: number; vPx: number }
  | null;

/** By how much an arrow key moves a point: tenths of a picture pixel, or millimetres. */
export type ArrowStep = { unit: 'px'; size: 0.1 } | { unit: 'mm'; size: 0.001 | 0.01 | 0.1 | 1 };
export const ARROW_STEPS: readonly ArrowStep[] = [
  { unit: 'px', size: 0.1 },
  { unit: 'mm', size: 0.001 },
  { unit: 'mm', size: 0.01 },
  { unit: 'mm', size: 0.1 },
  { unit: 'mm', size: 1 },
];

/** What is shown in a picture's place when it took another's. */
export type CompareMode = 'before' | 'difference' | null;

interface SessionStore {
  tool: Tool;
  /** The picture that is worked on; null for the job's first. */
  picture: string | null;
  /** The view of it that is worked on; null for all of it. */
  pictureView: string | null;
  compare: CompareMode;
  /** Share of the visible part that differs from what was before, while that is compared. */
  differing: number | null;
  selection: Selection;
  /** The relation or size that is looked at, by its name. */
  condition: string | null;
  step: ArrowStep;
  /** Nothing clings as long as this is held. */
  freeHand: boolean;
  /** How often the other of several edges close together was asked for, for the next press. */
  otherEdge: number;
  view: View | null;
  framing: Framing | null;
  choosePicture(picture: string | null): void;
  chooseView(view: string | null): void;
  setCompare(compare: CompareMode): void;
  setDiffering(differing: number | null): void;
  take(tool: Tool): void;
  select(selection: Selection): void;
  lookAt(condition: string | null): void;
  setStep(step: ArrowStep): void;
  setFreeHand(freeHand: boolean): void;
  setOtherEdge(times: number): void;
  setView(view: View | null): void;
  setFraming(framing: SessionStore['framing']): void;
  clear(): void;
}

type For = 'tool' | 'picture' | 'step';

/** What is laid down with a tool: each step's own, told by the step. */
const laidDown = new Set<(why: For) => void>();

/** Has a step lay down what it keeps beside the bench, whenever another tool, picture or step is taken. */
export function onLayDown(reset: (why: For) => void): void {
  laidDown.add(reset);
}

function layDown(why: For): { otherEdge: 0 } {
  for (const reset of laidDown) reset(why);
  return { otherEdge: 0 };
}

/** What is in hand and in sight: of this tab only, never part of the document. */
export const useSession = create<SessionStore>((set) => ({
  tool: null,
  picture: null,
  pictureView: null,
  compare: null,
  differing: null,
  selection: null,
  condition: null,
  step: ARROW_STEPS[2]!,
  freeHand: false,
  otherEdge: 0,
  view: null,
  framing: null,
  choosePicture: (picture) =>
    set({ picture, pictureView: null, compare: null, tool: null, selection: null, ...layDown('picture') }),
  chooseView: (pictureView) => set({ pictureView }),
  setCompare: (compare) => set({ compare, differing: null }),
  setDiffering: (differing) => set({ differing }),
  take: (tool) => set((s) => ({ tool: s.tool === tool ? null : tool, selection: null, ...layDown('tool') })),
  select: (selection) => set({ selection, condition: null }),
  lookAt: (condition) => set({ condition, selection: null }),
  setStep: (step) => set({ step }),
  setFreeHand: (freeHand) => set({ freeHand }),
  setOtherEdge: (otherEdge) => set({ otherEdge }),
  setView: (view) => set({ view }),
  setFraming: (framing) => set({ framing }),
  clear: () => set({ tool: null, selection: null, condition: null, compare: null, ...layDown('step') }),
}));
