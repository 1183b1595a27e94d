import { lensOf } from '@steady-moth/core/job';
import { GOOD, type StepDescription } from '../../step/description';
import { knownPictures } from '../../step/progress';
import { TRUE_TOOLS } from './pockets';

export const trueStep: StepDescription = {
  name: 'true',
  title: 'True',
  lead: 'What size do you already know?',
  tools: TRUE_TOOLS,
  keys: [
    ['Arrow keys', 'move the chosen pick'],
    ['Delete', 'leave the chosen place out'],
  ],
  stateOf(job) {
    const known = knownPictures(job);
    if (known.length === 0) return { bead: 'empty', lacks: 'Nothing known in the picture yet' };
    const isTiltUnseen = known.every(({ kind, calibration: { references } }) => {
      const only = references.length === 1 ? references[0] : null;
      return lensOf(kind) === 'photo' && only?.kind === 'known-length' && !only.graduations;
    });
    if (!isTiltUnseen) return GOOD;
    return { bead: 'chipped', lacks: 'One known length does not see how the camera was tilted' };
  },
  load: async () => (await import('./useTrueStep')).useTrueStep,
};
