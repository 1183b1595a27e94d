import { GOOD, type StepDescription } from '../../step/description';
import { knownPictures, openPath, pathsAsMade } from '../../step/progress';

export const handoverStep: StepDescription = {
  name: 'handover',
  title: 'Hand over',
  lead: 'The profile at true size.',
  tools: [],
  keys: [],
  stateOf(job) {
    const isCut = pathsAsMade(job).some((p) => p.role === 'cut' && p.closed);
    if (!isCut || knownPictures(job).length === 0) return { bead: 'empty', lacks: 'No closed path to hand over yet' };
    const open = openPath(job);
    return open ? { bead: 'chipped', lacks: `“${open.name}” is still open` } : GOOD;
  },
  load: async () => (await import('./useHandOverStep')).useHandOverStep,
};
