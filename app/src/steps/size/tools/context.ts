import type { Vec2 } from '@steady-moth/core/geometry';
import type { JobDocument } from '@steady-moth/core/job';
import {
  type Dimension,
  type DimensionDrawing,
  decidedOf,
  drawDimension,
  drawDimensions,
  type Id,
  type Observation,
  type Offer,
  type PictureMap,
  type Sketch,
} from '@steady-moth/core/sketch';
import { hitTest, type Item } from '@steady-moth/core/tracing';
import type { LengthUnit } from '@steady-moth/core/units';
import type { ReadFormula } from '../../../kit/FormulaField';
import type { Drawn } from '../../../part/useDrawn';
import type { Selection } from '../../../session/sessionStore';
import type { Outcome, Tool } from '../../../tool/tool';
import type { SketchState } from '../sketchState';

/** How far a size's line stands off the part where nobody put it elsewhere, px of the screen. */
const GAP_PX = 30;
/** A figure on the board is so large, px of the screen: each of its signs, what is round them, and its height. */
const LABEL_PX = { sign: 8, round: 14, height: 24 } as const;
/** Signs of a figure that is measured, with its ±. */
const MEASURED_SIGNS = 15;

/** What the tools of Size look at. */
export interface SizeContext {
  job: JobDocument;
  drawn: Drawn;
  mapper: PictureMap;
  state: SketchState | null;
  /** Relations that fit what is chosen, as far as they are worked out. */
  offers: readonly Offer[];
  selection: Selection;
  condition: Id | null;
  /** Screen pixels of a unit of the board. */
  scale: number;
  read: ReadFormula;
  unit: LengthUnit;
  newId(): Id;
}

export interface SizePreview {
  /** Points where they are being dragged. */
  points: Readonly<Record<Id, Observation>> | null;
  /** A figure where it is being dragged: by the name of its size. */
  label: { id: Id; shift: NonNullable<Dimension['label']> } | null;
  /** A size that is about to be put where the pointer is. */
  draft: Dimension | null;
}

export const NO_SIZE_PREVIEW: SizePreview = { points: null, label: null, draft: null };

export type SizeHeld =
  | { kind: 'point'; id: Id }
  /** Where each lay when it was taken hold of, and the pointer. */
  | { kind: 'points'; places: ReadonlyMap<Id, Vec2>; from: Vec2 }
  | { kind: 'label'; id: Id; from: Vec2 }
  | { kind: 'nothing' };

/** A figure that is looked at is asked for through the store: it is no thing of the trace. */
type SizeEffect = { lookAt: Id };

export interface SizeToolState {
  held: SizeHeld | null;
  /** The size that would be put now. */
  draft: Dimension | null;
}

export const AT_REST: SizeToolState = { held: null, draft: null };

export type SizeTool = Tool<SizeToolState, SizeContext, SizePreview, SizeHeld, never, never, SizeEffect>;
export type Made = Outcome<SizeToolState, SizePreview, SizeHeld, never, SizeEffect>;

/** The name of a size that is not in the sketch yet. */
export const DRAFT = 'draft';

/** Sizes of a sketch as they are drawn, a dragged one where it is, and one that is about to be put. */
export function drawnSizes(
  { sketch, place }: SketchState,
  scale: number,
  { label, draft }: SizePreview,
): { dimension: Dimension; drawing: DimensionDrawing }[] {
  const led = label && sketch.dimensions[label.id];
  const shown = led
    ? { ...sketch, dimensions: { ...sketch.dimensions, [led.id]: { ...led, label: label.shift } } }
    : sketch;
  const gap = GAP_PX / scale;
  const own = drawDimensions(shown, place, gap);
  const drawing = draft && drawDimension(sketch, draft, place, gap);
  return draft && drawing ? [...own, { dimension: draft, drawing }] : own;
}

/** The size whose figure lies at a place. */
export function figureAt(at: Vec2, { state, scale }: SizeContext): Dimension | null {
  if (!state) return null;
  const found = drawnSizes(state, scale, NO_SIZE_PREVIEW).find(({ drawing, dimension }) => {
    const { x, y } = drawing.label;
    return Math.abs(x - at.x) * scale < widthOf(dimension) / 2 && Math.abs(y - at.y) * scale < LABEL_PX.height / 2;
  });
  return found?.dimension ?? null;
}

function widthOf(dimension: Dimension): number {
  const signs = (decidedOf(dimension)?.text.length ?? MEASURED_SIGNS) + (dimension.kind === 'distance' ? 0 : 2);
  return signs * LABEL_PX.sign + LABEL_PX.round;
}

/** What of the part lies at a place. */
export function itemAt(at: Vec2, reach: number, { drawn, state }: SizeContext): Item | null {
  const found = hitTest(drawn, at, reach);
  if (!found) return null;
  if (found.kind === 'point') return pointItem(state?.sketch, found);
  if (found.kind === 'piece') return { kind: 'piece', path: found.path, curve: found.curve };
  return { kind: 'path', path: found.path };
}

/** A point that curves share; what only bends a curve stands for its curve. */
function pointItem(sketch: Sketch | undefined, { path, point }: { path: Id; point: Id }): Item {
  if (!sketch || Object.hasOwn(sketch.points, point)) return { kind: 'point', path, point };
  const curve = Object.values(sketch.curves).find((c) => c.evidence.some((e) => e.picks.includes(point)));
  if (!curve || curve.kind === 'circle') return { kind: 'path', path };
  return { kind: 'piece', path, curve: curve.id };
}
