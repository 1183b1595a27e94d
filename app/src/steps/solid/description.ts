import type { Id } from '@steady-moth/core/sketch';
import { useBodyFaults } from '../../session/bodyFaults';
import { GOOD, type StepDescription, type StepState } from '../../step/description';
import { SOLID_TOOLS } from './pockets';

const broken = (name: string): StepState => ({ bead: 'chipped', lacks: `“${name}” cannot be made` });

export const solidStep: StepDescription = {
  name: 'solid',
  title: 'Solid',
  lead: 'The part as a body, from the settled profile.',
  tools: SOLID_TOOLS,
  keys: [],
  /** Features, as far as the document tells: what they go by may be gone. */
  stateOf({ part: { features, sketches } }) {
    if (features.length === 0) return { bead: 'empty', lacks: 'No body yet; a flat part needs none' };
    const paths = new Set(Object.values(sketches).flatMap((s) => Object.keys(s.paths)));
    const isGone = (id: Id) => !paths.has(id);
    const first = features.find((f) => {
      if (f.kind === 'revolve') return isGone(f.path) || (f.axis !== null && isGone(f.axis));
      if (f.kind === 'dome') return f.bow === null && (isGone(f.path) || isGone(f.across));
      return 'paths' in f && (f.paths ?? []).some(isGone);
    });
    return first ? broken(first.name) : GOOD;
  },
  /** Whether they can be made, only the kernel knows. */
  useFound({ part }) {
    const { name, of } = useBodyFaults();
    return name !== null && of === part.features ? broken(name) : null;
  },
  load: async () => (await import('./useSolidStep')).useSolidStep,
};
