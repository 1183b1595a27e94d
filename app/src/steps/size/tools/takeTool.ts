import type { Vec2 } from '@steady-moth/core/geometry';
import { addDimensions, decideSize, type JobDocument, leadTo, moveLabel } from '@steady-moth/core/job';
import {
  type Dimension,
  type DimensionDrawing,
  decidedOf,
  dimensionsFor,
  drawDimensions,
  type Id,
  type Observation,
  observationIn,
  type Sketch,
} from '@steady-moth/core/sketch';
import type { LengthUnit } from '@steady-moth/core/units';
import type { BoardMapper } from '../../../frames/boardMap';
import { formulaSentence, type ReadFormula } from '../../../kit/FormulaField';
import type { Item, Selection } from '../../../session/benchStore';
import type { Outcome, Tool } from '../../../tool/tool';
import { toggled } from '../../trace/chosen';
import { hitTest } from '../../trace/hit';
import { ledWith } from '../../trace/led';
import { seenAt } from '../../trace/tools/context';
import type { Drawn } from '../../trace/useDrawn';
import type { SketchState } from '../sketchState';

/** How far a size's line stands off the part where nobody put it elsewhere, px of the screen. */
const GAP_PX = 30;
/** A figure on the board is so large, px of the screen: each of its signs, what is round them, and its height. */
const LABEL_PX = { sign: 8, round: 14, height: 24 } as const;
/** Signs of a figure that is measured, with its ±. */
const MEASURED_SIGNS = 15;

function labelWidth(dimension: Dimension): number {
  const signs = (decidedOf(dimension)?.text.length ?? MEASURED_SIGNS) + (dimension.kind === 'distance' ? 0 : 2);
  return signs * LABEL_PX.sign + LABEL_PX.round;
}

/** What the tool of Size looks at. */
export interface SizeContext {
  job: JobDocument;
  drawn: Drawn;
  mapper: BoardMapper;
  state: SketchState | null;
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
}

export const NO_SIZE_PREVIEW: SizePreview = { points: null, label: null };

export type SizeHeld = { kind: 'point'; id: Id } | { kind: 'label'; id: Id; from: Vec2 } | { kind: 'nothing' };

/** A figure that is looked at is asked for through the store: it is no thing of the trace. */
export type SizeEffect = { lookAt: Id };

interface State {
  held: SizeHeld | null;
}

type Made = Outcome<State, SizePreview, SizeHeld, never, SizeEffect>;

/** Sizes of a sketch as they are drawn, a dragged one where it is. */
export function drawnSizes(
  { sketch, place }: SketchState,
  scale: number,
  preview: SizePreview,
): { dimension: Dimension; drawing: DimensionDrawing }[] {
  const { label } = preview;
  const led = label && sketch.dimensions[label.id];
  const shown = led
    ? { ...sketch, dimensions: { ...sketch.dimensions, [led.id]: { ...led, label: label.shift } } }
    : sketch;
  return drawDimensions(shown, place, GAP_PX / scale);
}

/** Chooses what is related and sized, drags what is free, and figures to where they read well. */
export const takeTool: Tool<State, SizeContext, SizePreview, SizeHeld, never, never, SizeEffect> = {
  start: () => ({ held: null }),
  wish: () => null,
  awaits: (_, context) => awaited(context)?.label ?? null,
  reads: () => true,
  step(state, event, context): Made {
    switch (event.kind) {
      case 'press':
        return pressed(event, context);
      case 'move':
        return event.isHeld && state.held
          ? { state, preview: dragged(state.held, event.aim.board, seenAt(event.aim), context) }
          : { state };
      case 'let-go':
        return { state: { held: null } };
      case 'drop':
        if (!event.isMoved) return { state, preview: NO_SIZE_PREVIEW };
        return { state, ...dropped(event.held, event.aim.board, seenAt(event.aim), context) };
      case 'said':
        return { state, ...decided(event.text, context) };
      case 'cancel':
        return { state: { held: null }, preview: NO_SIZE_PREVIEW };
      default:
        return { state };
    }
  },
};

function pressed({ at, reach, shift }: { at: Vec2; reach: number; shift: boolean }, context: SizeContext): Made {
  const { drawn, state, scale, selection } = context;
  const up = { x: at.x, y: -at.y };
  const label =
    state &&
    drawnSizes(state, scale, NO_SIZE_PREVIEW).find(({ drawing, dimension }) => {
      const { x, y } = drawing.label;
      return Math.abs(x - up.x) * scale < labelWidth(dimension) / 2 && Math.abs(y - up.y) * scale < LABEL_PX.height / 2;
    });
  if (label) {
    const held: SizeHeld = { kind: 'label', id: label.dimension.id, from: up };
    return { state: { held }, held, effect: { lookAt: label.dimension.id } };
  }
  const found = hitTest(drawn, at, reach);
  if (!found) return { state: { held: null }, held: null, ...(shift ? {} : { select: null }) };
  const item: Item =
    found.kind === 'point'
      ? pointItem(state?.sketch, found)
      : found.kind === 'piece'
        ? { kind: 'piece', path: found.path, curve: found.curve }
        : { kind: 'path', path: found.path };
  const select = shift ? toggled(selection, item) : item;
  const id = item.kind === 'point' ? item.point : null;
  // A point is dragged by whoever goes on; anything else is only chosen.
  const held: SizeHeld = id !== null && !shift ? { kind: 'point', id } : { kind: 'nothing' };
  return { state: { held }, held, select };
}

/** A point that curves share; what only bends a curve stands for its curve. */
function pointItem(sketch: Sketch | undefined, { path, point }: { path: Id; point: Id }): Item {
  if (!sketch || Object.hasOwn(sketch.points, point)) return { kind: 'point', path, point };
  const curve = Object.values(sketch.curves).find((c) => c.evidence.some((e) => e.picks.includes(point)));
  if (!curve || curve.kind === 'circle') return { kind: 'path', path };
  return { kind: 'piece', path, curve: curve.id };
}

function shiftOf(id: Id, board: Vec2, { state, scale }: SizeContext): NonNullable<Dimension['label']> | null {
  const found = state && drawnSizes(state, scale, NO_SIZE_PREVIEW).find((d) => d.dimension.id === id);
  if (!found) return null;
  return { dxMm: board.x - found.drawing.anchor.x, dyMm: -board.y - found.drawing.anchor.y };
}

function dragged(held: SizeHeld, board: Vec2, at: Observation, context: SizeContext): SizePreview {
  if (held.kind === 'label') {
    const shift = shiftOf(held.id, board, context);
    return { points: null, label: shift && { id: held.id, shift } };
  }
  const before = held.kind === 'point' && context.state ? observationIn(context.state.sketch, held.id) : undefined;
  return before && held.kind === 'point'
    ? { points: { [held.id]: { ...at, sigmaPx: before.sigmaPx, plane: before.plane } }, label: null }
    : NO_SIZE_PREVIEW;
}

function dropped(held: SizeHeld, board: Vec2, at: Observation, context: SizeContext): Partial<Made> {
  const { state } = context;
  if (!state || held.kind === 'nothing') return { preview: NO_SIZE_PREVIEW };
  if (held.kind === 'label') {
    const shift = shiftOf(held.id, board, context);
    return { preview: NO_SIZE_PREVIEW, ...(shift && { action: moveLabel(state.sketch.id, held.id, shift) }) };
  }
  const before = observationIn(state.sketch, held.id);
  if (!before) return { preview: NO_SIZE_PREVIEW };
  const moves: Record<Id, Observation> = { [held.id]: { ...at, sigmaPx: before.sigmaPx, plane: before.plane } };
  return { preview: NO_SIZE_PREVIEW, action: leadTo(ledWith(moves, context)) };
}

/** What a figure typed now decides: the size that is looked at, or the first that what is chosen has. */
function awaited({ state, condition }: SizeContext): { label: string; dimension: Dimension; isNew: boolean } | null {
  if (!state) return null;
  const looked = condition === null ? undefined : state.sketch.dimensions[condition];
  if (looked) return { label: 'Decide this size', dimension: looked, isNew: false };
  const [first] = dimensionsFor(state.sketch, state.chosen, state.place, 'typed');
  return first ? { label: 'Decide the size of what is chosen', dimension: first, isNew: true } : null;
}

function decided(text: string, context: SizeContext): Partial<Made> {
  const found = awaited(context);
  if (!found || !context.state) return {};
  const read = context.read(text, context.unit);
  if (!read.ok) return { refused: formulaSentence(read.fault) };
  if (!(read.mm > 0)) return { refused: 'A size is above 0.' };
  const isAngle = found.dimension.kind === 'angle';
  const value = { text: text.trim(), unit: isAngle ? ('mm' as const) : context.unit };
  const { sketch } = context.state;
  if (!found.isNew) return { action: decideSize(sketch.id, found.dimension.id, value) };
  const origin = { kind: 'decided', value, why: '' } as const;
  return { action: addDimensions(sketch.id, [{ ...found.dimension, id: context.newId(), origin }]) };
}
