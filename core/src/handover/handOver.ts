import { type Finding, flawFindings, partFindings } from '../findings';
import { type FlatProfile, type HandOver, profileOf, sizesOf } from '../format/profile';
import { type JobDocument, viewOfPath } from '../job';
import { type CutPath, checkForms } from '../proof';
import type { EvaluatedPart, EvaluatedPath, Id } from '../sketch';

/** A job as flat files have it, and what has to be said of it. */
export interface HandedOver {
  profile: FlatProfile;
  /** What goes out otherwise than it was said, or is left out: nobody should cut it without knowing. */
  faults: Finding[];
}

/** As much of an evaluated part as is handed over. */
export type Evaluated = Pick<EvaluatedPart, 'paths' | 'settled' | 'faults'>;

/**
 * What a job is handed over as: the one way from an evaluated part to a file, of the screen and of scripts alike.
 *
 * In: the job; its part, evaluated truly through the calibration that holds; what is left open when it is handed over.
 * Out: the profile, mm, and every fault of what goes into it. Paths for reference go into no file, and nobody is told of
 * theirs unless something is made by them.
 */
export function handedOver(
  job: JobDocument,
  evaluated: Evaluated,
  options: Omit<HandOver, 'sizes'> & { sizes: boolean },
): HandedOver {
  const sizes = options.sizes ? sizesOf(job.part, evaluated.settled, job.unit, options.view) : [];
  return {
    profile: profileOf(job, evaluated.paths, { ...options, sizes }),
    faults: partFindings(job, evaluated, options.view),
  };
}

/** Paths that are cut, each in its own plane, as they are looked through. */
export const cutPaths = (paths: readonly EvaluatedPath[]): CutPath[] =>
  paths
    .filter((d) => d.path.role === 'cut' && d.form)
    .map(({ sketch, path, form, made }) => ({ id: path.id, forms: made ?? (form ? [form] : []), plane: sketch.id }));

/** What is worth a look in what is cut. */
export function worthALook(job: JobDocument, evaluated: Evaluated, view: Id | null): Finding[] {
  const cut = cutPaths(evaluated.paths).filter((p) => view === null || viewOfPath(job, p.id)?.id === view);
  return flawFindings(checkForms(cut), job, null);
}
