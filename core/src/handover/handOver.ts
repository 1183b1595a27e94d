import { type FlatProfile, type HandOver, profileOf, sizesOf } from '../format/profile';
import { type JobDocument, viewOfPath } from '../job';
import { type CutPath, checkForms, type Finding } from '../proof';
import { faultSentence, findingSentence, parameterSentence, partFaultSentence, sayLength } from '../say';
import { type EvaluatedPart, type EvaluatedPath, findPath, type Id, type PartFault, scopeOf } from '../sketch';
import type { FeatureFault } from '../solid';

/** What goes out otherwise than it was said, or is left out: nobody should cut it without knowing. */
export type HandOverFault =
  | { kind: 'part'; fault: PartFault }
  | { kind: 'parameter'; parameter: Id }
  | { kind: 'size'; sketch: Id }
  | { kind: 'feature'; fault: FeatureFault };

/** A job as flat files have it, and what has to be said of it. */
export interface HandedOver {
  profile: FlatProfile;
  faults: HandOverFault[];
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
    faults: partFaults(job, evaluated, options.view),
  };
}

/** Faults of the part itself; with a view those of what was traced in it. */
export function partFaults(job: JobDocument, evaluated: Evaluated, view: Id | null): HandOverFault[] {
  const { part } = job;
  const isWanted = (path: Id) => view === null || viewOfPath(job, path)?.id === view;
  const isCut = (path: Id) => findPath(part, path)?.path.role !== 'reference';
  const faults: HandOverFault[] = [...scopeOf(part).faults.keys()].map((parameter) => ({
    kind: 'parameter',
    parameter,
  }));
  for (const fault of evaluated.faults)
    if (isWanted(fault.path) && (isCut(fault.path) || fault.reason.startsWith('sizes-')))
      faults.push({ kind: 'part', fault });
  for (const [sketch, { results }] of evaluated.settled) {
    if (view !== null && part.sketches[sketch]?.frame.view !== view) continue;
    if ([...results.values()].some((r) => r.lost.some((l) => l.reason === 'no-length')))
      faults.push({ kind: 'size', sketch });
  }
  return faults;
}

/** A fault as a sentence. */
export function handOverSentence(own: HandOverFault, job: Pick<JobDocument, 'part' | 'unit'>): string {
  switch (own.kind) {
    case 'part':
      return partFaultSentence(own.fault, job.part);
    case 'parameter':
      return parameterSentence(own.parameter, job.part);
    case 'size':
      return 'A size that was decided comes to no length, so it holds nothing.';
    case 'feature': {
      const name = job.part.features.find((f) => f.id === own.fault.feature)?.name ?? 'A feature';
      return `${name}: ${faultSentence(own.fault, job)}`;
    }
  }
}

/** Paths that are cut, each in its own plane, as they are looked through. */
export const cutPaths = (paths: readonly EvaluatedPath[]): CutPath[] =>
  paths
    .filter((d) => d.path.role === 'cut' && d.form)
    .map(({ sketch, path, form, made }) => ({ id: path.id, forms: made ?? (form ? [form] : []), plane: sketch.id }));

/** What is worth a look in what is cut, as sentences with the paths' names. */
export function findingSentences(job: JobDocument, evaluated: Evaluated, view: Id | null): string[] {
  const cut = cutPaths(evaluated.paths).filter((p) => view === null || viewOfPath(job, p.id)?.id === view);
  const nameOf = (id: Id | null) => (id === null ? null : `“${findPath(job.part, id)?.path.name ?? 'a path'}”`);
  const say = (mm: number) => sayLength(mm, job.unit);
  return checkForms(cut).map((f: Finding) => `${nameOf(f.path)} ${findingSentence(f, nameOf(f.other), say)}`);
}
