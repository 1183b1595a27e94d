import { type Finding, partFindings } from '../findings';
import { type FlatProfile, type HandOver, type Sheet, sheetOf } from '../format';
import { titleOf } from '../format/body/prepare';
import { handedOver, worthALook } from '../handover';
import type { JobDocument } from '../job';
import { createCalibrator, placingOf } from '../job/calibrated';
import { evaluatePart } from '../sketch';

export type MakeResult =
  | { ok: true; profile: FlatProfile; faults: Finding[]; worthALook: Finding[] }
  | { ok: false; reason: 'nothing-is-true' | 'nothing-is-traced' | 'no-such-view'; faults: Finding[] };

/**
 * What a job is handed over as, worked out from its document alone: each path where it truly lies, mm.
 *
 * In: a checked job, and what is left open when it is handed over. Out: the profile; what of it goes out otherwise than it
 * was said, or is left out; and what a cutter would stumble over.
 */
export function makeProfile(job: JobDocument, options: Omit<HandOver, 'sizes'> & { sizes: boolean }): MakeResult {
  if (options.view !== null && !job.pictures.some((p) => p.views.some((v) => v.id === options.view)))
    return { ok: false, reason: 'no-such-view', faults: [] };
  const placing = placingOf(job, createCalibrator());
  if (placing.size === 0) return { ok: false, reason: 'nothing-is-true', faults: [] };
  const evaluated = evaluatePart(job.part, placing, { truly: true, draft: null });
  const { profile, faults } = handedOver(job, evaluated, options);
  if (profile.forms.length === 0) return { ok: false, reason: 'nothing-is-traced', faults };
  return { ok: true, profile, faults, worthALook: worthALook(job, evaluated, options.view) };
}

/** All views of a job with their sizes, as one drawing sheet shows them. */
export function makeSheet(
  job: JobDocument,
  date: string,
):
  | { ok: true; sheet: Sheet; faults: Finding[] }
  | { ok: false; reason: 'nothing-is-true' | 'nothing-is-traced'; faults: Finding[] } {
  const placing = placingOf(job, createCalibrator());
  if (placing.size === 0) return { ok: false, reason: 'nothing-is-true', faults: [] };
  const evaluated = evaluatePart(job.part, placing, { truly: true, draft: null });
  const faults = partFindings(job, evaluated, null);
  const sheet = sheetOf(job, evaluated.paths, evaluated.settled, { title: titleOf(job), date });
  return sheet.views.length > 0 ? { ok: true, sheet, faults } : { ok: false, reason: 'nothing-is-traced', faults };
}
