import type { SnapKind } from '@steady-moth/core/tracing';
import { create } from 'zustand';
import { onLayDown } from '../../session/sessionStore';

/** What the shape tool draws: circles by places on their rim, a slot, a rectangle, a regular polygon. */
export type ShapeKind = 'rectangle' | 'slot' | 'polygon' | 'two-rim' | 'three-rim';

/** By what a construction line is drawn. */
export type GuideKind = 'through' | 'parallel' | 'middle';

/** How the tools of Trace are set: of this tab only, never part of the document. */
interface TraceStore {
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
  /** The trace is out of the way, as long as a key is held. */
  seeThrough: boolean;
  /** What came of settling, and of which paths; as long as they are chosen. */
  settled: { paths: string; says: string } | null;
  setTangent(tangent: boolean): void;
  setCurveThrough(through: boolean): void;
  setShape(shape: ShapeKind): void;
  setCorners(corners: number): void;
  setGuide(guide: GuideKind): void;
  setChain(chain: boolean): void;
  setBoxTouches(touches: boolean): void;
  setSnapOff(off: readonly SnapKind[]): void;
  setSeeThrough(through: boolean): void;
  setSettled(settled: TraceStore['settled']): void;
}

export const useTrace = create<TraceStore>((set) => ({
  tangent: false,
  curveThrough: false,
  shape: 'rectangle',
  corners: 6,
  guide: 'through',
  chain: false,
  boxTouches: false,
  snapOff: [],
  seeThrough: false,
  settled: null,
  setTangent: (tangent) => set({ tangent }),
  setCurveThrough: (curveThrough) => set({ curveThrough }),
  setShape: (shape) => set({ shape }),
  setCorners: (corners) => set({ corners }),
  setGuide: (guide) => set({ guide }),
  setChain: (chain) => set({ chain }),
  setBoxTouches: (boxTouches) => set({ boxTouches }),
  setSnapOff: (snapOff) => set({ snapOff }),
  setSeeThrough: (seeThrough) => set({ seeThrough }),
  setSettled: (settled) => set({ settled }),
}));

onLayDown(() => useTrace.setState({ tangent: false, settled: null }));
