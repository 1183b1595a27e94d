import type { Vec2 } from '@steady-moth/core/geometry';
import { addDimensions } from '@steady-moth/core/job';
import { type Dimension, dimensionMeant, dimensionsFor, type Id } from '@steady-moth/core/sketch';
import type { Item } from '@steady-moth/core/tracing';
import { chosenOf, itemsOf, toggled } from '../../../part/chosen';
import { chosenIn } from '../sketchState';
import { AT_REST, DRAFT, itemAt, type Made, NO_SIZE_PREVIEW, type SizeContext } from './context';
import { handOf } from './hand';

/** What is pressed is sized: one thing, or from one to another; the next press puts the figure where it is pressed. */
export const dimensionTool = handOf(
  ({ at, reach }, context) => {
    const item = itemAt(at, reach, context);
    return item && { held: { kind: 'nothing' }, select: withOne(item, context) };
  },
  {
    // The pointer is followed, though nothing snaps: the figure goes with it.
    wish: () => 'edge',
    missed(at, context) {
      const draft = draftAt(at, context);
      return draft ? put(draft, context) : { select: null };
    },
    step(state, event, context) {
      if (event.kind === 'move' && !event.isHeld) {
        const draft = draftAt(event.aim.place, context);
        return { state: { ...state, draft }, preview: { ...NO_SIZE_PREVIEW, draft } };
      }
      if (event.kind !== 'finish') return null;
      // Enter puts it where it stands by itself.
      const draft = state.draft ?? offered(context)[0];
      return draft ? { state: AT_REST, preview: NO_SIZE_PREVIEW, ...put({ ...draft, label: null }, context) } : null;
    },
  },
);

/** One more thing than is chosen, where both together have a size; else it alone. */
function withOne(item: Item, { selection, state }: SizeContext) {
  const before = itemsOf(selection);
  const both = before.length === 1 ? toggled(selection, item) : null;
  const ids = both && state ? chosenIn(state.sketch, both) : [];
  const hasSize = state && ids.length === 2 && dimensionsFor(state.sketch, ids, state.place, DRAFT).length > 0;
  return hasSize ? both : chosenOf([item]);
}

const offered = ({ state }: SizeContext): readonly Dimension[] =>
  state ? dimensionsFor(state.sketch, state.chosen, state.place, DRAFT) : [];

const draftAt = (at: Vec2, context: SizeContext): Dimension | null =>
  context.state && dimensionMeant(context.state.sketch, offered(context), context.state.place, at);

/** Put as it is measured, and looked at: a figure typed now decides it. */
function put(draft: Dimension, { state, newId }: SizeContext): Omit<Made, 'state'> {
  if (!state) return {};
  const id: Id = newId();
  return { action: addDimensions(state.sketch.id, [{ ...draft, id }]), effect: { lookAt: id } };
}
