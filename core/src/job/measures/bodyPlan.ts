import { type EvaluatedPart, type Placing, workedOut } from '../../sketch';
import { type BodyPlan, planBody } from '../../solid';
import type { JobDocument } from '../document/document';

/** What the body of a job is made of, in plain figures: of the variant that is shown. */
export function bodyPlanOf(
  { part, pictures }: Pick<JobDocument, 'part' | 'pictures'>,
  evaluated: Pick<EvaluatedPart, 'paths'>,
  placing: Placing,
): BodyPlan {
  const views = new Map(pictures.flatMap((p) => p.views.map((v) => [v.id, v] as const)));
  return planBody({
    part: workedOut(part),
    evaluated,
    placing,
    sideOf(sketch) {
      const view = views.get(part.sketches[sketch]?.frame.view ?? '');
      return { side: view?.side ?? 'top', offsetMm: view?.offsetMm ?? 0 };
    },
  });
}
