import { scopeOf, sketchesOf } from '@steady-moth/core/sketch';
import { GOOD, type StepDescription } from '../../step/description';
import { SIZE_TOOLS } from './pockets';

export const sizeStep: StepDescription = {
  name: 'size',
  title: 'Size',
  lead: 'What is measured, and what you decide.',
  tools: SIZE_TOOLS,
  keys: [
    ['Enter', 'end what was begun'],
    ['Delete', 'take away the relation or size that is looked at'],
  ],
  /** Sizes that have a name, or were decided; and formulas that come to nothing. */
  stateOf({ part }) {
    const [fault] = scopeOf(part).faults.keys();
    const name = part.parameters.find((p) => p.id === fault)?.name;
    if (name !== undefined) return { bead: 'chipped', lacks: `The formula of ${name} comes to nothing` };
    const isDecided = sketchesOf(part).some(
      (s) => Object.keys(s.dimensions).length > 0 || Object.keys(s.makers).length > 0,
    );
    if (isDecided || part.parameters.length > 0) return GOOD;
    return { bead: 'empty', lacks: 'No size is decided yet' };
  },
  load: async () => (await import('./useSizeStep')).useSizeStep,
};
