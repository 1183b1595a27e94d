import { weldedForm } from '../../geometry';
import { type JobDocument, viewOfPath } from '../../job';
import type { EvaluatedPath } from '../../sketch';
import type { FlatProfile } from './flatProfile';
import type { ProfileSize } from './sizesOf';

/** What is left open when a profile is handed over. */
export interface HandOver {
  /** As it shall be read, for instance 2026-03-01. */
  date: string;
  /** The check bar and the words below the part. */
  notes: boolean;
  /** With a view chosen only what was traced in it: views lie on planes of their own. */
  view: string | null;
  /** Sizes that a printed sheet shows; left out, none. */
  sizes?: readonly ProfileSize[];
}

/** The paths of a job, each where it truly lies, as they are written to files. Lines for reference stay with the job. */
export function profileOf(
  job: JobDocument,
  paths: readonly EvaluatedPath[],
  { date, notes, view, sizes }: HandOver,
): FlatProfile {
  const forms = paths.flatMap(({ path, form, made }) => {
    const wanted =
      form !== null && path.role !== 'reference' && (view === null || viewOfPath(job, path.id)?.id === view);
    // What is made of a path is handed over in its stead.
    const own = wanted ? (made ?? [form]) : [];
    return own.map((one) => ({ form: weldedForm(one), role: path.role, name: path.name, layer: path.layer }));
  });
  return { title: job.name, date, forms, unit: job.unit, notes, ...(sizes?.length ? { sizes } : {}) };
}
