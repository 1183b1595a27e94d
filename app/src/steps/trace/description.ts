import { GOOD, type StepDescription } from '../../step/description';
import { openPath, pathsAsMade } from '../../step/progress';
import { TRACE_TOOLS } from './pockets';

export const traceStep: StepDescription = {
  name: 'trace',
  title: 'Trace',
  lead: 'Trace what will be cut or marked.',
  tools: TRACE_TOOLS,
  keys: [
    ['D', 'go on straight, or tangent, while a path is drawn'],
    ['S', 'settle what is chosen on its edge'],
    ['V held', 'look through the trace'],
    ['Enter', 'end the path'],
    ['Arrow keys', 'move what is chosen, or bow the chosen piece'],
    ['Delete', 'take away what is chosen'],
    ['Ctrl A · C · X · V', 'choose all · copy · cut · paste'],
  ],
  stateOf(job) {
    if (pathsAsMade(job).length === 0) return { bead: 'empty', lacks: 'Nothing traced yet' };
    const open = openPath(job);
    return open ? { bead: 'chipped', lacks: `“${open.name}” is still open` } : GOOD;
  },
  load: async () => (await import('./useTraceStep')).useTraceStep,
};
