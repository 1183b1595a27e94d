import type { Vec2 } from '@steady-moth/core/geometry';
import { commonPicks, moveHeld, picksOf, placesOf } from '../picks';
import { NO_PREVIEW, recordOf, type TrueContext, type TrueHeld, type TrueOutcome, type TrueTool } from './context';

interface GrabState {
  held: TrueHeld | null;
}

/** No tool in hand: picks that are there are chosen, and dragged; places that were found are chosen. */
export const grabTool: TrueTool<GrabState> = {
  start: () => ({ held: null }),
  wish: () => null,
  step(state, event, context) {
    switch (event.kind) {
      case 'press':
        return pressed(event.at, event.reach, context);
      case 'move':
        return event.isHeld && state.held
          ? { state, preview: { ...NO_PREVIEW, draft: { ...state.held, pick: recordOf(event.aim) } } }
          : { state };
      case 'let-go':
        return { state: { held: null } };
      case 'drop':
        return {
          state,
          preview: NO_PREVIEW,
          // A press without a move only chooses: it must not set the pick anew.
          ...(event.isMoved ? { action: moveHeld(context.picture, event.held, recordOf(event.aim)) } : {}),
        };
      case 'cancel':
        return { state: { held: null }, preview: NO_PREVIEW };
      default:
        return { state };
    }
  },
};

function pressed(at: Vec2, reach: number, { job, picture, mapper }: TrueContext): TrueOutcome<GrabState> {
  let nearest = reach;
  let held: TrueHeld | null = null;
  for (const { id, end, span, pick } of [...picksOf(picture), ...commonPicks(job, picture)]) {
    const away = awayOf(mapper.toPlace(pick), at);
    if (away >= nearest) continue;
    nearest = away;
    held = { id, end, span };
  }
  if (held) return { state: { held }, held, select: { kind: 'pick', ...held } };
  return { state: { held: null }, held: null, select: placeNear(at, reach, { picture, mapper }) };
}

const awayOf = (place: Vec2 | null, at: Vec2): number =>
  place ? Math.hypot(place.x - at.x, place.y - at.y) : Number.POSITIVE_INFINITY;

/** The found place under the pointer, so that it can be left out. */
function placeNear(
  at: Vec2,
  reach: number,
  { picture, mapper }: Pick<TrueContext, 'picture' | 'mapper'>,
): TrueOutcome<GrabState>['select'] {
  let best: TrueOutcome<GrabState>['select'] = null;
  let nearest = reach;
  for (const { reference, place } of placesOf(picture)) {
    const away = awayOf(mapper.toPlace(place), at);
    if (away > nearest) continue;
    nearest = away;
    best = { kind: 'place', reference, uPx: place.uPx, vPx: place.vPx };
  }
  return best;
}
