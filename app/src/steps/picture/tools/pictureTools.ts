import {
  addView,
  type Clearing,
  changeView,
  clearBackground,
  cropPicture,
  type JobAction,
  MOST,
  type Picture,
  setTones,
  type Tones,
} from '@steady-moth/core/job';
import type { PictureMap } from '@steady-moth/core/sketch';
import type { Aim } from '../../../board/useAim';
import { wholeOf } from '../../../frames/boardMap';
import { type BoardPlace, onBoard } from '../../../frames/place';
import type { Tool as ToolName } from '../../../session/sessionStore';
import type { Outcome, Tool } from '../../../tool/tool';
import { boxOf, rectOf } from './boxes';
import { type CropBox, type CropRules, dragged, type Grip, gripAt, LEAST_SIDE } from './cropDrag';

/** How unlike a background may be at first, 0 to 1: its one colour, or its neighbour's. */
const FIRST_TOLERANCE: Record<Clearing['by'], number> = { colour: 0.12, region: 0.07 };
/** Darkest and lightest stay this far apart, of the whole scale. */
const LEAST_SPAN = 0.03;

/** What the tools of Picture look at. */
export interface PictureContext {
  picture: Picture;
  mapper: PictureMap;
  rules: CropRules;
  name: ToolName;
  /** What goes with a background that is pressed: all of its colour, or all that joins the place. */
  clearBy: Clearing['by'];
  newId(): string;
}

interface BoxHeld {
  grip: Grip;
  from: BoardPlace;
  box: CropBox;
  /** The view whose rectangle it is; null for the crop, and for a new view. */
  view: string | null;
}

/** The colour at a place of the picture, asked for and told. */
export interface ColourQuestion {
  kind: 'colour';
  uPx: number;
  vPx: number;
}
export type Colour = [number, number, number];

type PictureTool<State> = Tool<State, PictureContext, CropBox | null, BoxHeld, ColourQuestion, Colour | null, never>;
type Made<State> = Outcome<State, CropBox | null, BoxHeld, ColourQuestion, never>;

/** Nothing in hand. */
const lookTool: PictureTool<null> = {
  start: () => null,
  wish: () => null,
  snaps: () => false,
  step: (state) => ({ state }),
};

/** Crop and View: a box is dragged; of the crop its sides, its corners, its line of symmetry, or all of it. */
const boxTool: PictureTool<{ held: BoxHeld | null; to: BoardPlace | null }> = {
  start: () => ({ held: null, to: null }),
  wish: () => null,
  snaps: () => false,
  step(state, event, context) {
    switch (event.kind) {
      case 'press': {
        const at = onBoard(event.at);
        const held = heldAt(at, event.reach, context);
        return { state: { held, to: at }, held };
      }
      case 'move': {
        if (!event.isHeld || !state.held) return { state };
        const to = onBoard(event.aim.place);
        return { state: { ...state, to }, preview: movedBox(state.held, to, context) };
      }
      case 'let-go':
        return { state: { held: null, to: null } };
      case 'drop':
        return { state, preview: null, ...finished(event, context) };
      case 'cancel':
        return { state: { held: null, to: null }, preview: null };
      default:
        return { state };
    }
  },
};

function heldAt(at: BoardPlace, reach: number, { picture, mapper, rules, name }: PictureContext): BoxHeld {
  const { crop } = picture.preparation;
  const box = boxOf(crop ?? wholeOf(picture.facts), mapper);
  if (name === 'view') return viewHeldAt(at, reach, { picture, mapper, rules }) ?? { ...newAt(at), box };
  const grip: Grip = gripAt(box, at, reach, rules.symmetry);
  // With nothing cropped yet a press inside begins a new crop: all of the picture cannot be moved.
  return grip.kind === 'all' && crop === null ? { ...newAt(at), box } : { grip, from: at, box, view: null };
}

const newAt = (at: BoardPlace): Omit<BoxHeld, 'box'> => ({ grip: { kind: 'new', from: at }, from: at, view: null });

/** A side, a corner or the line of symmetry of a view that is there; inside it a press begins another one. */
function viewHeldAt(
  at: BoardPlace,
  reach: number,
  { picture, mapper, rules }: Pick<PictureContext, 'picture' | 'mapper' | 'rules'>,
): BoxHeld | null {
  for (const { id, crop } of picture.views) {
    const box = boxOf(crop, mapper);
    const grip = gripAt(box, at, reach, rules.symmetry);
    if (grip.kind === 'side' || grip.kind === 'line') return { grip, from: at, box, view: id };
  }
  return null;
}

/** A view has no shape of its own; it is symmetric about its own middle where that is asked for, once it is there. */
const movedBox = ({ grip, from, box }: BoxHeld, to: BoardPlace, { name, rules }: PictureContext): CropBox =>
  dragged(box, grip, from, to, name === 'crop' ? rules : { ...rules, aspect: null });

function finished(
  { held, isMoved, aim }: { held: BoxHeld; isMoved: boolean; aim: Pick<Aim, 'place'> },
  context: PictureContext,
): Pick<Made<unknown>, 'action'> {
  // A press without a move changes nothing.
  const rect = isMoved ? rectOf(movedBox(held, onBoard(aim.place), context), context.mapper) : null;
  if (!rect) return {};
  const { picture, name, newId } = context;
  if (name === 'crop') {
    const whole = rect.widthPx >= picture.facts.widthPx && rect.heightPx >= picture.facts.heightPx;
    return { action: cropPicture(picture.id, whole ? null : rect) };
  }
  if (Math.min(rect.widthPx, rect.heightPx) < LEAST_SIDE) return {};
  if (held.view !== null) return { action: changeView(picture.id, held.view, { crop: rect }) };
  const side = (['top', 'front', 'side'] as const)[Math.min(2, picture.views.length)]!;
  const called = { top: 'From the top', front: 'From the front', side: 'From the side' }[side];
  return { action: addView(picture.id, { id: newId(), name: called, side, offsetMm: 0, crop: rect }) };
}

/** Background, Darkest and Lightest: one press says by which colour, or from where. */
const colourTool: PictureTool<null> = {
  start: () => null,
  wish: () => 'edge',
  snaps: () => false,
  step(state, event, context) {
    if (event.kind === 'place') {
      const { uPx, vPx } = event.aim.picture;
      if (context.name === 'background' && context.clearBy === 'region')
        return { state, action: clearedFrom({ uPx, vPx }, context.picture) };
      return { state, ask: { kind: 'colour', uPx, vPx } };
    }
    if (event.kind !== 'answer' || !event.answer) return { state };
    const action = saidBy(event.answer, context);
    return { state, isDone: true, ...(action ? { action } : {}) };
  },
};

/** A further press takes what the first ones left, such as what shows through a hole; the tool stays in hand for it. */
function clearedFrom(place: { uPx: number; vPx: number }, { id, preparation: { clear } }: Picture): JobAction {
  const places = clear?.by === 'region' ? clear.places.slice(0, MOST.clearings - 1) : [];
  return clearBackground(id, { by: 'region', places: [...places, place], tolerance: toleranceAfter(clear, 'region') });
}

/** The tolerance that was set stays, unless it was set for the other way of clearing. */
const toleranceAfter = (clear: Clearing | null, by: Clearing['by']): number =>
  clear?.by === by ? clear.tolerance : FIRST_TOLERANCE[by];

function saidBy(colour: Colour, { picture, name }: PictureContext): JobAction | null {
  const { clear, tones } = picture.preparation;
  if (name === 'background')
    return clearBackground(picture.id, { by: 'colour', colour, tolerance: toleranceAfter(clear, 'colour') });
  return name === 'darkest' || name === 'lightest' ? setTones(picture.id, withEnd(tones, name, colour)) : null;
}

function withEnd(tones: Tones, end: 'darkest' | 'lightest', [r, g, b]: Colour): Tones {
  const level = (0.2126 * r + 0.7152 * g + 0.0722 * b) / 255;
  return end === 'darkest'
    ? { ...tones, dark: Math.min(level, tones.light - LEAST_SPAN) }
    : { ...tones, light: Math.max(level, tones.dark + LEAST_SPAN) };
}

/** Whatever is in hand: each tool keeps a state of its own kind, which nobody else looks into. */
type AnyPictureTool = PictureTool<unknown>;
const TOOLS: Partial<Record<NonNullable<ToolName>, AnyPictureTool>> = {
  crop: { ...boxTool } as AnyPictureTool,
  view: { ...boxTool } as AnyPictureTool,
  background: { ...colourTool } as AnyPictureTool,
  darkest: { ...colourTool } as AnyPictureTool,
  lightest: { ...colourTool } as AnyPictureTool,
};

export const pictureToolOf = (name: ToolName): AnyPictureTool => (name && TOOLS[name]) || (lookTool as AnyPictureTool);
