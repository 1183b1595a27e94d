import type { JobDocument } from '../job';
import { faultSentence } from '../say';
import type { FeatureFault } from '../solid';
import type { Finding } from './finding';

/** Why features of a body cannot be made. */
export const featureFindings = (
  faults: readonly FeatureFault[],
  { part, unit }: Pick<JobDocument, 'part' | 'unit'>,
): Finding[] =>
  faults.map((fault) => ({
    key: `${fault.feature} ${fault.reason} ${fault.detail} ${fault.where?.path} ${fault.where?.at.x} ${fault.where?.at.y}`,
    subject: `${part.features.find((f) => f.id === fault.feature)?.name ?? 'A feature'}:`,
    says: faultSentence(fault, { part, unit }),
    where: { kind: 'feature', feature: fault.feature, place: fault.where ?? null },
    gravity: 'wrong',
    certainty: 'sure',
    repairs: [],
  }));
