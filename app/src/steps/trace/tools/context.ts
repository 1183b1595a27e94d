import type { PicturePoint } from '@steady-moth/core/calibration';
import type { GroundOfRim, SnappedCircle } from '@steady-moth/core/edge';
import type { Circle, Form, Vec2 } from '@steady-moth/core/geometry';
import type { JobDocument, Picture } from '@steady-moth/core/job';
import {
  type Expression,
  type Id,
  type NewPick,
  type NewPoint,
  nearestOther,
  type Observation,
} from '@steady-moth/core/sketch';
import type { Aim } from '../../../board/useAim';
import type { BoardMapper } from '../../../frames/boardMap';
import type { GuideKind, Selection, ShapeKind, SnapKind } from '../../../session/benchStore';
import type { Reading } from '../../../session/readoutStore';
import type { Outcome, Tool } from '../../../tool/tool';
import type { Drawn } from '../useDrawn';

/** What the tools of Trace look at. */
export interface TraceContext {
  job: JobDocument;
  picture: Picture;
  drawn: Drawn;
  mapper: BoardMapper;
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

/** The path that is being drawn on, and at which end. */
export interface Growing {
  /** Null as long as only its first point is set: a path begins with its first piece. */
  path: Id | null;
  end: 'head' | 'tail';
  /** The first point of a path that is still to begin. */
  first: NewPoint | null;
  /** What the next piece goes through, where it shall be bent. */
  through: Aim | null;
  /** The direction that was typed for it: it ends on that ray. */
  way: TypedWay | null;
}

/** A direction as it was typed: against X, or against the piece before. */
export interface TypedWay {
  /** Against X, rad, y up. */
  angle: number;
  from: 'x' | 'before';
  /** As it was typed, in degrees. */
  value: Expression;
}

/** What is being done and is not yet a change. */
export interface TracePreview {
  /** Points and picks where they are being dragged. */
  points: Readonly<Record<string, Observation>> | null;
  /** A piece being bowed, through this place. */
  bow: { path: string; curve: string; kind: 'arc' | 'curve'; through: Vec2 } | null;
  /** A circle being drawn. */
  circle: Circle | null;
  /** What would come, or go. */
  forms: readonly Form[];
  /** Two corners of a box that chooses what lies in it. */
  box: { from: Vec2; to: Vec2 } | null;
  /** From and to of a measurement. */
  measure: { from: Aim; to: Aim | null; before: readonly Aim[] } | null;
  /** The path that is being drawn on. */
  growing: Growing | null;
}

export const NO_PREVIEW: TracePreview = {
  points: null,
  bow: null,
  circle: null,
  forms: [],
  box: null,
  measure: null,
  growing: null,
};

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
  circle: Circle;
  sigmaPx: number;
  /** Which side of its rim lies lower, as far as the paths round it tell. */
  ground: GroundOfRim;
}
export interface TraceAnswer extends TraceQuestion {
  snapped: SnappedCircle | null;
}

export type TraceTool<State> = Tool<State, TraceContext, TracePreview, TraceHeld, TraceQuestion, TraceAnswer, never>;
export type TraceOutcome<State> = Outcome<State, TracePreview, TraceHeld, TraceQuestion, never>;

/** What was seen where an aim is. */
export const seenAt = (aim: Aim): Observation => ({
  picture: aim.pictureId,
  uPx: aim.picture.uPx,
  vPx: aim.picture.vPx,
  sigmaPx: aim.sigmaPx,
  plane: 'face',
  snappedTo: aim.snappedTo,
  neighbouringEdge: aim.edges.length > 1 ? placeOnly(nearestOther(aim.edges, aim.edges[aim.edge]!)) : null,
});

const placeOnly = ({ uPx, vPx }: PicturePoint): PicturePoint => ({ uPx, vPx });

/** What says where a place of the part is seen. */
export type Seeing = Pick<TraceContext, 'mapper' | 'picture' | 'newId'>;

/** A place that was worked out, not picked: it carries the scatter given. Null beyond what the camera could see. */
export function derivedAt({ mapper, picture }: Seeing, place: Vec2, sigmaPx: number): Observation | null {
  const at = mapper.toPicture(place);
  return at && { picture: picture.id, ...at, sigmaPx, plane: 'face', snappedTo: 'free', neighbouringEdge: null };
}

/** As `derivedAt`, for a pick of its own. */
export function derivedPick(context: Seeing, place: Vec2, sigmaPx: number): NewPick | null {
  const at = derivedAt(context, place, sigmaPx);
  return at && { id: context.newId(), at };
}

/** Where each place of the part is seen, with a scatter of its own. */
export const seeingWith =
  (context: Seeing, sigmaPx: number) =>
  (place: Vec2): Observation | null =>
    derivedAt(context, place, sigmaPx);

/** How far and in which direction one place lies from another, for the readout. */
export function spanBetween(from: Vec2, to: Vec2): Partial<Reading> {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  return { lengthMm: Math.hypot(dx, dy), lengthPlusMinusMm: null, angle: Math.atan2(dy, dx) };
}
