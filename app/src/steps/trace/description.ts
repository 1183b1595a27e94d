import { GOOD, type StepDescription } from '../../step/description';
import { openPath, pathsAsMade } from '../../step/progress';

export const traceStep: StepDescription = {
  name: 'trace',
  title: 'Trace',
  stateOf(job) {
    if (pathsAsMade(job).length === 0) return { bead: 'empty', lacks: 'Nothing traced yet' };
    const open = openPath(job);
    return open ? { bead: 'chipped', lacks: `“${open.name}” is still open` } : GOOD;
  },
  load: async () => (await import('./TraceStep')).TraceStep,
};
