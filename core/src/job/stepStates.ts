import { type Part, pathsIn, type Sketch, scopeOf, sketchesOf } from '../sketch';
import { isScaleKnown } from './calibrationInput';
import { type JobDocument, lensOf } from './document';

export type StepName = 'picture' | 'true' | 'trace' | 'size' | 'solid' | 'handover';
export const STEPS: readonly StepName[] = ['picture', 'true', 'trace', 'size', 'solid', 'handover'];

/** How far a step has come: nothing yet, good, or something wants attention. */
export interface StepState {
  bead: 'empty' | 'full' | 'chipped';
  reason:
    | 'no-picture'
    | 'no-yardstick'
    | 'tilt-unseen'
    | 'no-path'
    | 'open-path'
    | 'nothing-to-cut'
    | 'nothing-decided'
    | 'formula'
    | 'no-body'
    | null;
  /** Which it is about, by its name. */
  name?: string;
}

const FULL: StepState = { bead: 'full', reason: null };

/** Paths of which a whole is made, open as they may be: by their mirror image, or by copies that meet. */
const madeWhole = ({ makers }: Sketch): Set<string> =>
  new Set(Object.values(makers).flatMap((m) => (m.kind === 'mirror' || m.kind === 'round' ? [m.path] : [])));

/** Sizes that have a name, or were decided; and formulas that come to nothing. */
function sizeState(part: Part): StepState {
  const [fault] = scopeOf(part).faults.keys();
  const name = part.parameters.find((p) => p.id === fault)?.name;
  if (name !== undefined) return { bead: 'chipped', reason: 'formula', name };
  const isDecided = sketchesOf(part).some(
    (s) => Object.keys(s.dimensions).length > 0 || Object.keys(s.makers).length > 0,
  );
  return isDecided || part.parameters.length > 0 ? FULL : { bead: 'empty', reason: 'nothing-decided' };
}

/** What the plumb line's beads and the rack show of a job. */
export function stepStates({ pictures, part }: JobDocument): Record<StepName, StepState> {
  const known = pictures.filter(isScaleKnown);
  const tiltUnseen = known.every(({ kind, calibration: { references } }) => {
    const only = references.length === 1 ? references[0] : null;
    return lensOf(kind) === 'photo' && only?.kind === 'known-length' && !only.graduations;
  });
  const paths = sketchesOf(part).flatMap((sketch) => {
    const made = madeWhole(sketch);
    return pathsIn(sketch).map((path) => (made.has(path.id) ? { ...path, closed: true } : path));
  });
  const open = paths.find((p) => !p.closed && p.role === 'cut');
  const cut = paths.some((p) => p.role === 'cut' && p.closed);
  return {
    picture: pictures.length ? FULL : { bead: 'empty', reason: 'no-picture' },
    true:
      known.length === 0
        ? { bead: 'empty', reason: 'no-yardstick' }
        : tiltUnseen
          ? { bead: 'chipped', reason: 'tilt-unseen' }
          : FULL,
    trace:
      paths.length === 0
        ? { bead: 'empty', reason: 'no-path' }
        : open
          ? { bead: 'chipped', reason: 'open-path', name: open.name }
          : FULL,
    size: sizeState(part),
    solid: part.features.length > 0 ? FULL : { bead: 'empty', reason: 'no-body' },
    handover:
      cut && known.length > 0
        ? open
          ? { bead: 'chipped', reason: 'open-path', name: open.name }
          : FULL
        : { bead: 'empty', reason: 'nothing-to-cut' },
  };
}
