import { holdOrLoose } from '@steady-moth/core/job';
import { chosenIn } from '../sketchState';
import { itemAt } from './context';
import { handOf } from './hand';

/** Holds what is pressed where it was measured, or lets it loose. */
export const holdTool = handOf(
  ({ at, reach }, context) => {
    const item = itemAt(at, reach, context);
    const sketch = context.state?.sketch;
    if (!item || !sketch) return null;
    const ids = chosenIn(sketch, item).filter((id) => !Object.hasOwn(sketch.paths, id));
    const action = ids.length > 0 ? holdOrLoose(sketch.id, ids, context.newId()) : null;
    return { held: { kind: 'nothing' }, select: item, ...(action && { action }) };
  },
  { missed: () => ({ select: null }) },
);
