import type { Vec2 } from '@steady-moth/core/geometry';
import type { Id } from '@steady-moth/core/sketch';
import { idsOf } from '@steady-moth/core/tracing';
import { itemAt } from './context';
import { handOf } from './hand';

/** Drags points, whole pieces and holes, as far as relations and sizes leave them free. */
export const dragTool = handOf(
  ({ at, reach }, context) => {
    const item = itemAt(at, reach, context);
    if (!item) return null;
    if (item.kind === 'point') return { held: { kind: 'point', id: item.point }, select: item };
    const places = new Map<Id, Vec2>();
    for (const id of idsOf([item], context.job.part)) {
      const own = context.drawn.placeOf(id);
      if (own) places.set(id, own);
    }
    return { held: { kind: 'points', places, from: at }, select: item };
  },
  { missed: () => ({ select: null }) },
);
