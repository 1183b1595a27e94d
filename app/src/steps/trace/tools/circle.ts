import type { SnappedCircle } from '@steady-moth/core/edge';
import type { Circle, Vec2 } from '@steady-moth/core/geometry';
import { addCircle, addCircleAbout } from '@steady-moth/core/job';
import { type Expression, nextName } from '@steady-moth/core/sketch';
import { derivedAt, groundOf, rimOf, seenAt } from '@steady-moth/core/tracing';
import { inkOf } from '../../../board/inkOf';
import type { Aim } from '../../../board/useAim';
import { NO_PREVIEW, type TracePreview } from '../../../part/preview';
import type { TraceAnswer, TraceContext, TraceOutcome, TraceTool } from './context';
import { chosenSize, sized } from './grab';

export interface CircleState {
  /** The middle, set by a press or held; null before. */
  centre: Vec2 | null;
  /** What was seen where the middle was pressed. */
  at: Aim | null;
  /** Drawn, and on its way to the edge: it stays in sight meanwhile. */
  settling: Circle | null;
  /** The diameter, where it was typed before the middle was pressed. */
  size: { mm: number; value: Expression } | null;
}

/** A circle smaller than this on screen is a slip of the finger, px. */
const LEAST_CIRCLE_PX = 4;
/** A middle that was set by hand, px. */
const CENTRE_SIGMA_PX = 0.5;

/** Draws a circle from its middle to its rim, by a drag or by two presses, and lets it snap; or as wide as is typed. */
export const circleTool: TraceTool<CircleState> = {
  start: () => ({ centre: null, at: null, settling: null, size: null }),
  wish: (_, { picture }) => inkOf(picture),
  // Of one that is being drawn, or of the one that was drawn last.
  awaits: ({ centre }, context) =>
    !context.isTrue ? null : centre || isCircleChosen(context) ? 'Diameter of this circle' : 'Diameter of the next',
  step(state, event, context) {
    switch (event.kind) {
      case 'press': {
        // With the middle set by a press of its own, the next one sets the rim.
        const from = state.centre ?? event.at;
        return { state: { ...state, centre: from }, held: { kind: 'circle', from } };
      }
      case 'move': {
        if (!state.centre) return state.size ? { state, preview: asTyped(state.size.mm, event.aim) } : { state };
        const radius = Math.hypot(event.aim.place.x - state.centre.x, event.aim.place.y - state.centre.y);
        return {
          state,
          preview: { ...NO_PREVIEW, circle: { centre: state.centre, radius } },
          ...(context.isTrue ? { show: { lengthMm: radius * 2, lengthPlusMinusMm: null, angle: null } } : {}),
        };
      }
      case 'place':
        // By the keyboard: first the middle, then the rim.
        return state.centre
          ? finished(state, state.centre, event.aim, context)
          : begun({ ...state, centre: event.aim.place, at: event.aim }, context);
      case 'drop':
        if (event.held.kind !== 'circle') return { state };
        if (!event.isMoved && isNear(event.held.from, event.aim.place, context))
          return begun({ ...state, centre: event.held.from, at: event.aim }, context);
        return finished(state, event.held.from, event.aim, context);
      case 'typed':
        if (state.centre) return typed(state, event.value, context);
        return isCircleChosen(context)
          ? { state, ...sized(event.value, context) }
          : { state: { ...state, size: { mm: event.mm, value: event.value } } };
      case 'answer':
        return settled(state, event.answer, context);
      case 'finish':
      case 'cancel':
        return { state: { ...state, centre: null, at: null, size: null }, preview: NO_PREVIEW };
      default:
        return { state };
    }
  },
};

/** A circle as wide as was typed, about where the pointer is. */
const asTyped = (mm: number, { place }: Aim): TracePreview => ({
  ...NO_PREVIEW,
  circle: { centre: place, radius: mm / 2 },
});

/** The middle is set: with its size typed before, that is all. */
const begun = (state: CircleState, context: TraceContext): TraceOutcome<CircleState> =>
  state.size ? typed(state, state.size.value, context) : { state };

const isCircleChosen = (context: TraceContext): boolean => chosenSize(context)?.kind === 'diameter';

/** Let go where the middle is: that press set it. */
const isNear = (centre: Vec2, at: Vec2, { scale }: TraceContext): boolean =>
  Math.hypot(at.x - centre.x, at.y - centre.y) * scale < 2 * LEAST_CIRCLE_PX;

function finished(state: CircleState, centre: Vec2, aim: Aim, context: TraceContext): TraceOutcome<CircleState> {
  const circle = { centre, radius: Math.hypot(aim.place.x - centre.x, aim.place.y - centre.y) };
  const open = { centre: null, at: null, size: null };
  if (circle.radius * context.scale < LEAST_CIRCLE_PX) return { state: { ...state, ...open }, preview: NO_PREVIEW };
  return {
    state: { ...open, settling: circle },
    preview: { ...NO_PREVIEW, circle },
    ask: { kind: 'circle', circle, sigmaPx: aim.sigmaPx, ground: groundOf(circle, context.drawn.paths) },
  };
}

function settled(
  state: CircleState,
  { circle: drawn, sigmaPx, snapped }: TraceAnswer,
  context: TraceContext,
): TraceOutcome<CircleState> {
  // Another one may be under way already: what shows it stays.
  const isLast = state.settling === drawn && state.centre === null;
  const clear: { preview?: TracePreview } = isLast ? { preview: NO_PREVIEW } : {};
  const next = isLast ? { ...state, settling: null } : state;
  const rim = rimOf(snapped ?? drawn, sigmaPx, snapped, context);
  if (!rim) return { state: next, ...clear };
  const { newId, job, isFreeHand } = context;
  const path = { id: newId(), name: nextName(job.part, 'Hole'), role: 'cut' as const };
  return {
    state: next,
    ...clear,
    action: addCircle(path, { curve: newId(), centre: newId() }, rim),
    ...(state.centre === null ? { select: { kind: 'path' as const, path: path.id } } : {}),
    show: { snaps: snapped ? roundWords(snapped) : isFreeHand ? 'nothing: F is held' : 'nothing near' },
  };
}

function typed(
  state: CircleState,
  value: { text: string; unit: 'mm' | 'in' },
  context: TraceContext,
): TraceOutcome<CircleState> {
  const { centre, at } = state;
  const { newId, job } = context;
  const seen = at ? seenAt(at) : centre && derivedAt(context, centre, CENTRE_SIGMA_PX);
  if (!seen) return { state, refused: 'Press where the middle is first, then type the diameter.' };
  const path = { id: newId(), name: nextName(job.part, 'Hole'), role: 'cut' as const };
  return {
    state: { ...state, centre: null, at: null, size: null },
    preview: NO_PREVIEW,
    action: addCircleAbout(path, { curve: newId(), size: newId() }, { id: newId(), at: seen }, value),
    select: { kind: 'path', path: path.id },
  };
}

const roundWords = ({ used, beside }: SnappedCircle): string =>
  `round edge, ${used} of 48 places${beside.length ? '; another runs along it' : ''}`;
