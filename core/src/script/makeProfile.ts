import { type FlatProfile, type HandOver, profileOf, type Sheet, sheetOf, sizesOf } from '../format';
import { titleOf } from '../format/body/prepare';
import type { JobDocument } from '../job';
import { createCalibrator, placingOf } from '../job/calibrated';
import { evaluatePart } from '../sketch';

export type MakeResult =
  | { ok: true; profile: FlatProfile; leftOut: string[] }
  | { ok: false; reason: 'nothing-is-true' | 'nothing-is-traced' | 'no-such-view' };

/**
 * What a job is handed over as, worked out from its document alone: each path where it truly lies, mm.
 *
 * In: a checked job, and what is left open when it is handed over. Out: the profile, and the names of paths that have no
 * place (traced on a picture that is not true, beyond the horizon) and are left out.
 */
export function makeProfile(job: JobDocument, options: Omit<HandOver, 'sizes'> & { sizes: boolean }): MakeResult {
  if (options.view !== null && !job.pictures.some((p) => p.views.some((v) => v.id === options.view)))
    return { ok: false, reason: 'no-such-view' };
  const placing = placingOf(job, createCalibrator());
  if (placing.size === 0) return { ok: false, reason: 'nothing-is-true' };
  const { paths, settled } = evaluatePart(job.part, placing, { truly: true, draft: null });
  const sizes = options.sizes ? sizesOf(job.part, settled, job.unit, options.view) : [];
  const profile = profileOf(job, paths, { ...options, sizes });
  if (profile.forms.length === 0) return { ok: false, reason: 'nothing-is-traced' };
  return { ok: true, profile, leftOut: paths.flatMap((p) => (p.form ? [] : [p.path.name])) };
}

/** All views of a job with their sizes, as one drawing sheet shows them. */
export function makeSheet(
  job: JobDocument,
  date: string,
): { ok: true; sheet: Sheet } | { ok: false; reason: 'nothing-is-true' | 'nothing-is-traced' } {
  const placing = placingOf(job, createCalibrator());
  if (placing.size === 0) return { ok: false, reason: 'nothing-is-true' };
  const { paths, settled } = evaluatePart(job.part, placing, { truly: true, draft: null });
  const sheet = sheetOf(job, paths, settled, { title: titleOf(job), date });
  return sheet.views.length > 0 ? { ok: true, sheet } : { ok: false, reason: 'nothing-is-traced' };
}
