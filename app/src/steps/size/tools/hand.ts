import type { Vec2 } from '@steady-moth/core/geometry';
import { seenAt } from '@steady-moth/core/tracing';
import { AT_REST, figureAt, type Made, NO_SIZE_PREVIEW, type SizeContext, type SizeTool } from './context';
import { awaited, decided } from './decide';
import { dragged, dropped } from './dragging';

/** A press on the board of Size, at a place of the part. */
interface Press {
  at: Vec2;
  reach: number;
  shift: boolean;
}

/** What a press comes to; null where nothing lies under it. */
type Pressed = (press: Press, context: SizeContext) => Omit<Made, 'state'> | null;

interface Own {
  /** A press with nothing under it, by pointer or by key: with a tool in hand only. */
  missed?(at: Vec2, context: SizeContext): Omit<Made, 'state'>;
  /** Goes first where it makes something of what happens. */
  step?(...happened: Parameters<SizeTool['step']>): Made | null;
  wish?: SizeTool['wish'];
}

/** How far round the cross that is led by keys a press takes hold of things, px of the screen. */
const REACH_PX = 12;

/**
 * A tool of Size by what it makes of a press. Figures on the board are taken hold of and what was taken hold of is dragged
 * alike with all of them; a figure typed decides.
 */
export function handOf(pressed: Pressed, own: Own = {}): SizeTool {
  const under: Pressed = (press, context) => {
    const figure = figureAt(press.at, context);
    if (!figure) return pressed(press, context);
    return { held: { kind: 'label', id: figure.id, from: press.at }, effect: { lookAt: figure.id } };
  };
  const step: SizeTool['step'] = (state, event, context) => {
    switch (event.kind) {
      case 'press': {
        const made = under(event, context);
        if (!made) return { state, held: null };
        return { held: null, preview: NO_SIZE_PREVIEW, ...made, state: { held: made.held ?? null, draft: null } };
      }
      case 'place': {
        const at = event.aim.place;
        const made = under({ at, reach: REACH_PX / context.scale, shift: false }, context) ?? own.missed?.(at, context);
        return { preview: NO_SIZE_PREVIEW, ...made, held: null, state: AT_REST };
      }
      case 'move':
        return event.isHeld && state.held
          ? { state, preview: dragged(state.held, event.aim.place, seenAt(event.aim), context) }
          : { state };
      case 'let-go':
        return { state: AT_REST };
      case 'drop':
        if (!event.isMoved) return { state, preview: NO_SIZE_PREVIEW };
        return { state, ...dropped(event.held, event.aim.place, seenAt(event.aim), context) };
      case 'said': {
        const made = decided(event.text, context, state.draft);
        return made.refused ? { state, ...made } : { state: AT_REST, preview: NO_SIZE_PREVIEW, ...made };
      }
      case 'cancel':
        return { state: AT_REST, preview: NO_SIZE_PREVIEW };
      default:
        return { state };
    }
  };
  return {
    start: () => AT_REST,
    wish: own.wish ?? (() => null),
    // What is sized and related lies on the part, not on the picture.
    snaps: () => own.wish === undefined,
    looks: own.wish === undefined,
    awaits: (_, context) => awaited(context)?.label ?? null,
    reads: () => true,
    step: (...happened) => own.step?.(...happened) ?? step(...happened),
  };
}
