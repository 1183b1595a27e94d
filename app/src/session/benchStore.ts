import type { DiscResult, GridResult, RulerResult, SheetResult } from '@steady-moth/core/find';
import type { PickRecord } from '@steady-moth/core/job';
import type { Item, SnapKind } from '@steady-moth/core/tracing';
import { create } from 'zustand';

import type { Framing } from '../frames/framed';
import type { View } from '../frames/view';

/** Tools, each in the step where it is used. None in hand means: take hold of what is there. */
export type Tool =
  | 'readings'
  | 'ruler'
  | 'disc'
  | 'sheet'
  | 'grid'
  | 'lines'
  | 'equal'
  | 'across'
  | 'turned'
  | 'common'
  | 'lay'
  | 'wanted'
  | 'direction'
  | 'zero'
  | 'spot'
  | 'line'
  | 'arc'
  | 'curve'
  | 'circle'
  | 'point'
  | 'measure'
  | 'shape'
  | 'trim'
  | 'choose'
  | 'guide'
  | 'worn'
  | 'dimension'
  | 'relate'
  | 'hold'
  | 'fit'
  | 'drag'
  | 'compare'
  | 'crop'
  | 'view'
  | 'background'
  | 'darkest'
  | 'lightest'
  | 'extrude'
  | 'revolve'
  | 'view-cut'
  | 'edges'
  | 'holes'
  | 'further'
  | 'section'
  | 'body-size'
  | 'body-check'
  | null;

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

/** What the shape tool draws: circles by places on their rim, a slot, a rectangle, a regular polygon. */
export type ShapeKind = 'rectangle' | 'slot' | 'polygon' | 'two-rim' | 'three-rim';

/** In what colour traces are drawn over a picture. */
export const TRACE_COLOURS = ['dark', 'light', 'blue'] as const;
export type TraceColour = (typeof TRACE_COLOURS)[number];

/** By what a construction line is drawn. */
export type GuideKind = 'through' | 'parallel' | 'middle';

/** A length that waits for its figure: both picks are made. */
export interface PendingLength {
  purpose: 'readings' | 'across' | 'spot' | 'wanted';
  from: PickRecord;
  to: PickRecord;
  /** The ruler that was found by one click, its strokes counted. */
  ruler?: FoundRuler;
}

export type FoundRuler = Extract<RulerResult, { ok: true }>;

/** A reference that was found by one click and waits to be told what it is. */
export type PendingFound =
  | { kind: 'disc'; found: Extract<DiscResult, { ok: true }> }
  | { kind: 'sheet'; found: Extract<SheetResult, { ok: true }> }
  | { kind: 'grid'; found: Extract<GridResult, { ok: true }> };

/** By what zero or the direction of X is picked: a place or a line; where edges cross; between two; holes. */
export type DatumBy = 'point' | 'crossing' | 'middle' | 'hole';

/** What is shown in a picture's place when it took another's. */
export type CompareMode = 'before' | 'difference' | null;

interface BenchStore {
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
  /** What is laid over the part in Size: as it was seen, or a variant by its name in the document. */
  laidOver: 'seen' | { variant: string | null } | null;
  step: ArrowStep;
  /** Nothing clings as long as this is held. */
  freeHand: boolean;
  /** How often the other of several edges close together was asked for, for the next press. */
  otherEdge: number;
  /** The next piece of a path leaves tangent to the one before it. */
  tangent: boolean;
  /** The curve tool draws through every place that is pressed. */
  curveThrough: boolean;
  shape: ShapeKind;
  /** Corners of a polygon. */
  corners: number;
  guide: GuideKind;
  /** Each press measures on from the one before. */
  chain: boolean;
  /** Whether a box chooses what it touches, or only what lies all within it. */
  boxTouches: boolean;
  /** Kinds that nothing snaps to for now. */
  snapOff: readonly SnapKind[];
  traceColour: TraceColour;
  /** The trace is out of the way, as long as a key is held. */
  seeThrough: boolean;
  pending: PendingLength | null;
  found: PendingFound | null;
  /** Something is being looked for about a click. */
  finding: boolean;
  /** Why it was not found. */
  findFault: string | null;
  datumBy: DatumBy;
  /** The first of two lengths across each other, once it is said. */
  acrossFirst: { from: PickRecord; to: PickRecord } | null;
  /** A common point that was picked in one picture and waits for its like in another. */
  common: { picture: string; pick: PickRecord } | null;
  /** The picture whose zero's place is pressed in another one. */
  laying: string | null;
  /** The picture that common points are picked in next; null for the next one of the job. */
  commonWith: string | null;
  view: View | null;
  framing: Framing | null;
  choosePicture(picture: string | null): void;
  chooseView(view: string | null): void;
  setCompare(compare: CompareMode): void;
  setDiffering(differing: number | null): void;
  take(tool: Tool): void;
  select(selection: Selection): void;
  lookAt(condition: string | null): void;
  layOver(what: BenchStore['laidOver']): void;
  setStep(step: ArrowStep): void;
  setFreeHand(freeHand: boolean): void;
  setOtherEdge(times: number): void;
  setTangent(tangent: boolean): void;
  setCurveThrough(through: boolean): void;
  setShape(shape: ShapeKind): void;
  setCorners(corners: number): void;
  setGuide(guide: GuideKind): void;
  setChain(chain: boolean): void;
  setBoxTouches(touches: boolean): void;
  setSnapOff(off: readonly SnapKind[]): void;
  setSeeThrough(through: boolean): void;
  setTraceColour(colour: TraceColour): void;
  setPending(pending: PendingLength | null): void;
  setFound(found: PendingFound | null): void;
  setFinding(finding: boolean, fault?: string | null): void;
  setDatumBy(by: DatumBy): void;
  setAcrossFirst(first: { from: PickRecord; to: PickRecord } | null): void;
  /** Goes to another picture with the tool still in hand, a common point begun or ended. */
  seekCommon(picture: string, begun: { picture: string; pick: PickRecord } | null): void;
  /** Goes to another picture, where the place of this one's zero is pressed; null comes back from it. */
  lay(laying: string, into: string): void;
  setCommonWith(picture: string | null): void;
  setView(view: View | null): void;
  setFraming(framing: BenchStore['framing']): void;
  clear(): void;
}

const NOTHING_WAITS = {
  otherEdge: 0,
  tangent: false,
  pending: null,
  found: null,
  finding: false,
  findFault: null,
  acrossFirst: null,
  common: null,
  laying: null,
} as const;

const COLOUR_KEY = 'steady-moth-trace-colour';

/** The colour that was chosen in this browser before. */
function keptColour(): TraceColour {
  try {
    const kept = localStorage.getItem(COLOUR_KEY);
    const colour = TRACE_COLOURS.find((c) => c === kept) ?? 'dark';
    document.documentElement.dataset.traceColour = colour;
    return colour;
  } catch {
    // No storage, or no page.
    return 'dark';
  }
}

function keepColour(colour: TraceColour): void {
  document.documentElement.dataset.traceColour = colour;
  try {
    localStorage.setItem(COLOUR_KEY, colour);
  } catch {
    // It is dark again the next time.
  }
}

/** What is in hand and in sight: of this tab only, never part of the document. */
export const useBench = create<BenchStore>((set) => ({
  tool: null,
  picture: null,
  pictureView: null,
  compare: null,
  differing: null,
  selection: null,
  condition: null,
  laidOver: null,
  step: ARROW_STEPS[2]!,
  freeHand: false,
  otherEdge: 0,
  tangent: false,
  curveThrough: false,
  shape: 'rectangle',
  corners: 6,
  guide: 'through',
  chain: false,
  boxTouches: false,
  snapOff: [],
  seeThrough: false,
  traceColour: keptColour(),
  pending: null,
  found: null,
  finding: false,
  findFault: null,
  datumBy: 'point',
  acrossFirst: null,
  common: null,
  laying: null,
  commonWith: null,
  view: null,
  framing: null,
  choosePicture: (picture) =>
    set({ picture, pictureView: null, compare: null, tool: null, selection: null, ...NOTHING_WAITS }),
  chooseView: (pictureView) => set({ pictureView }),
  setCompare: (compare) => set({ compare, differing: null }),
  setDiffering: (differing) => set({ differing }),
  take: (tool) =>
    set((s) => ({
      tool: s.tool === tool ? null : tool,
      selection: null,
      // A common point that was begun is given up where it was begun.
      ...(s.common && { picture: s.common.picture }),
      ...NOTHING_WAITS,
    })),
  select: (selection) => set({ selection, condition: null }),
  lookAt: (condition) => set({ condition, selection: null }),
  layOver: (laidOver) => set({ laidOver }),
  setStep: (step) => set({ step }),
  setFreeHand: (freeHand) => set({ freeHand }),
  setOtherEdge: (otherEdge) => set({ otherEdge }),
  setTangent: (tangent) => set({ tangent }),
  setCurveThrough: (curveThrough) => set({ curveThrough }),
  setShape: (shape) => set({ shape }),
  setCorners: (corners) => set({ corners }),
  setGuide: (guide) => set({ guide }),
  setChain: (chain) => set({ chain }),
  setBoxTouches: (boxTouches) => set({ boxTouches }),
  setSnapOff: (snapOff) => set({ snapOff }),
  setSeeThrough: (seeThrough) => set({ seeThrough }),
  setTraceColour(traceColour) {
    keepColour(traceColour);
    set({ traceColour });
  },
  setPending: (pending) => set({ pending }),
  setFound: (found) => set({ found }),
  setFinding: (finding, findFault = null) => set({ finding, findFault }),
  setDatumBy: (datumBy) => set({ datumBy }),
  setAcrossFirst: (acrossFirst) => set({ acrossFirst }),
  seekCommon: (picture, common) => set({ picture, pictureView: null, common, selection: null }),
  lay: (laying, into) =>
    set({ ...NOTHING_WAITS, picture: into, pictureView: null, selection: null, tool: 'lay', laying }),
  setCommonWith: (commonWith) => set({ commonWith }),
  setView: (view) => set({ view }),
  setFraming: (framing) => set({ framing }),
  clear: () => set({ tool: null, selection: null, condition: null, compare: null, ...NOTHING_WAITS }),
}));
