import type { Vec2 } from '@steady-moth/core/geometry';
import { leadTo, moveLabel } from '@steady-moth/core/job';
import { type Dimension, type Id, type Observation, observationIn } from '@steady-moth/core/sketch';
import { ledWith } from '@steady-moth/core/tracing';
import { drawnSizes, type Made, NO_SIZE_PREVIEW, type SizeContext, type SizeHeld, type SizePreview } from './context';

/** What is seen of something that is held while the pointer has gone to a place; `at`: what was seen there. */
export function dragged(held: SizeHeld, to: Vec2, at: Observation, context: SizeContext): SizePreview {
  if (held.kind === 'label') {
    const shift = shiftOf(held.id, to, context);
    return { ...NO_SIZE_PREVIEW, label: shift && { id: held.id, shift } };
  }
  const points = movesOf(held, to, at, context);
  return { ...NO_SIZE_PREVIEW, points };
}

/** What was held lands. */
export function dropped(held: SizeHeld, to: Vec2, at: Observation, context: SizeContext): Partial<Made> {
  const { state } = context;
  if (!state || held.kind === 'nothing') return { preview: NO_SIZE_PREVIEW };
  if (held.kind === 'label') {
    const shift = shiftOf(held.id, to, context);
    return { preview: NO_SIZE_PREVIEW, ...(shift && { action: moveLabel(state.sketch.id, held.id, shift) }) };
  }
  const moves = movesOf(held, to, at, context);
  return { preview: NO_SIZE_PREVIEW, ...(moves && { action: leadTo(ledWith(moves, context)) }) };
}

function movesOf(held: SizeHeld, to: Vec2, at: Observation, context: SizeContext): Record<Id, Observation> | null {
  const { state, mapper } = context;
  if (!state) return null;
  const seen = (id: Id) => observationIn(state.sketch, id);
  if (held.kind === 'point') {
    const before = seen(held.id);
    return before ? { [held.id]: { ...at, sigmaPx: before.sigmaPx, plane: before.plane } } : null;
  }
  if (held.kind !== 'points') return null;
  const moves: Record<Id, Observation> = {};
  for (const [id, own] of held.places) {
    const before = seen(id);
    const spot = mapper.toPicture({ x: own.x + to.x - held.from.x, y: own.y + to.y - held.from.y });
    if (before && spot) moves[id] = { ...before, ...spot, snappedTo: 'free', neighbouringEdge: null };
  }
  return Object.keys(moves).length > 0 ? moves : null;
}

function shiftOf(id: Id, to: Vec2, { state, scale }: SizeContext): NonNullable<Dimension['label']> | null {
  const found = state && drawnSizes(state, scale, NO_SIZE_PREVIEW).find((d) => d.dimension.id === id);
  if (!found) return null;
  return { dxMm: to.x - found.drawing.anchor.x, dyMm: to.y - found.drawing.anchor.y };
}
