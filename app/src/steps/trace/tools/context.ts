import type { GroundOfRim, SnappedCircle } from '@steady-moth/core/edge';
import type { Circle, Vec2 } from '@steady-moth/core/geometry';
import type { JobDocument, Picture } from '@steady-moth/core/job';
import type { PictureMap } from '@steady-moth/core/sketch';
import type { SnapKind } from '@steady-moth/core/tracing';
import type { TracePreview } from '../../../part/preview';
import type { Drawn } from '../../../part/useDrawn';
import type { Selection } from '../../../session/sessionStore';
import type { Outcome, Tool } from '../../../tool/tool';
import type { GuideKind, ShapeKind } from '../traceStore';

/** What the tools of Trace look at. */
export interface TraceContext {
  job: JobDocument;
  picture: Picture;
  drawn: Drawn;
  mapper: PictureMap;
  /** While nothing is true the board is in pixels, and no length is shown or taken. */
  isTrue: boolean;
  /** Nothing snaps. */
  isFreeHand: boolean;
  selection: Selection;
  /** What the next piece is, or every piece is bowed into. */
  piece: 'line' | 'arc' | 'curve' | 'tangent' | 'spline';
  shape: ShapeKind;
  /** Corners of a polygon. */
  corners: number;
  guide: GuideKind;
  /** Each press measures on from the one before. */
  chain: boolean;
  /** Whether a box chooses what it touches. */
  boxTouches: boolean;
  snapOff: readonly SnapKind[];
  /** Screen pixels of a unit of the board. */
  scale: number;
  /** Where the pointer is seen from the last point, rad, y up; null where it is not known. */
  angle: number | null;
  newId(): string;
}

/** What is held while it is dragged. */
export type TraceHeld = (
  | { kind: 'points'; ids: readonly string[]; from: Vec2; label: string }
  | { kind: 'bow'; path: string; curve: string; bow: 'arc' | 'curve'; from: Vec2 }
  | { kind: 'circle'; from: Vec2 }
  | { kind: 'box'; from: Vec2; adds: boolean }
) & {
  /** What is chosen where it is let go without having been moved; left out, nothing else is. */
  chooses?: Selection;
};

/** To snap a circle to the edge round it. */
export interface TraceQuestion {
  kind: 'circle';
  circle: Circle;
  sigmaPx: number;
  /** Which side of its rim lies lower, as far as the paths round it tell. */
  ground: GroundOfRim;
}
export interface TraceAnswer extends Omit<TraceQuestion, 'kind'> {
  snapped: SnappedCircle | null;
}

export type TraceTool<State> = Tool<State, TraceContext, TracePreview, TraceHeld, TraceQuestion, TraceAnswer, never>;
export type TraceOutcome<State> = Outcome<State, TracePreview, TraceHeld, TraceQuestion, never>;
