import { type Id, type Part, pathsIn, type Sketch, scopeOf, sketchesOf } from '../sketch';
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
    | 'feature'
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

/** Features, as far as the document tells: what they go by may be gone. Whether they can be made, only the kernel knows. */
function solidState({ features, sketches }: Part): StepState {
  if (features.length === 0) return { bead: 'empty', reason: 'no-body' };
  const paths = new Set(Object.values(sketches).flatMap((s) => Object.keys(s.paths)));
  const isGone = (id: Id) => !paths.has(id);
  const broken = features.find((f) => {
    if (f.kind === 'revolve') return isGone(f.path) || (f.axis !== null && isGone(f.axis));
    if (f.kind === 'dome') return f.bow === null && (isGone(f.path) || isGone(f.across));
    return 'paths' in f && (f.paths ?? []).some(isGone);
  });
  return broken ? { bead: 'chipped', reason: 'feature', name: broken.name } : FULL;
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
    solid: solidState(part),
    handover:
      cut && known.length > 0
        ? open
          ? { bead: 'chipped', reason: 'open-path', name: open.name }
          : FULL
        : { bead: 'empty', reason: 'nothing-to-cut' },
  };
}
