import { toggled } from '../../../part/chosen';
import { itemAt } from './context';
import { handOf } from './hand';

/** Without a tool in hand: chooses what is related and sized, drags points that are free, and figures to where they read well. */
export const takeTool = handOf(({ at, reach, shift }, context) => {
  const item = itemAt(at, reach, context);
  if (!item) return shift ? {} : { select: null };
  // A point is dragged by whoever goes on; anything else is only chosen.
  const isDragged = item.kind === 'point' && !shift;
  return {
    held: isDragged ? { kind: 'point', id: item.point } : { kind: 'nothing' },
    select: shift ? toggled(context.selection, item) : item,
  };
});
