import { addConstraints } from '@steady-moth/core/job';
import { toggled } from '../../../part/chosen';
import { itemAt } from './context';
import { handOf } from './hand';

/** Each press chooses one more, or one less; Enter takes the first relation that is offered. */
export const relateTool = handOf(
  ({ at, reach }, context) => {
    const item = itemAt(at, reach, context);
    return item && { held: { kind: 'nothing' }, select: toggled(context.selection, item) };
  },
  {
    missed: () => ({ select: null }),
    step(state, event, { state: sketch, offers, newId }) {
      const first = event.kind === 'finish' ? offers.find((o) => o.trial.ok) : undefined;
      if (!first || !sketch) return null;
      const action = addConstraints(sketch.sketch.id, [{ ...first.constraint, id: newId() }]);
      return { state, action, select: null };
    },
  },
);
