import { isScaleKnown, type JobDocument, type Picture } from '@steady-moth/core/job';
import { type Path, pathsIn, type Sketch, sketchesOf } from '@steady-moth/core/sketch';

/* What several steps tell their state by. */

/** The pictures in which something is of known size. */
export const knownPictures = ({ pictures }: JobDocument): Picture[] => pictures.filter(isScaleKnown);

/** Paths of which a whole is made, open as they may be: by their mirror image, or by copies that meet. */
const madeWhole = ({ makers }: Sketch): Set<string> =>
  new Set(Object.values(makers).flatMap((m) => (m.kind === 'mirror' || m.kind === 'round' ? [m.path] : [])));

/** All paths; of those that are made whole it is told that they are closed. */
export const pathsAsMade = ({ part }: JobDocument): Path[] =>
  sketchesOf(part).flatMap((sketch) => {
    const made = madeWhole(sketch);
    return pathsIn(sketch).map((path) => (made.has(path.id) ? { ...path, closed: true } : path));
  });

/** The first path to be cut that is still open. */
export const openPath = (job: JobDocument): Path | undefined =>
  pathsAsMade(job).find((p) => !p.closed && p.role === 'cut');
