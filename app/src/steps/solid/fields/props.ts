import type { JobDocument } from '@steady-moth/core/job';
import type { Feature } from '@steady-moth/core/sketch';
import type { Box } from '@steady-moth/core/solid';
import type { Ground } from '../newFeature';

export interface FieldsProps<F extends Feature = Feature> {
  job: JobDocument;
  feature: F;
  /** Not yet on the list: what is picked on the body goes into it. */
  isNew: boolean;
  /** Round the body as it is; null where there is none. */
  box: Box | null;
  onChange(feature: F): void;
}

export type Props<K extends Feature['kind']> = FieldsProps<Extract<Feature, { kind: K }>> & {
  grounds: readonly Ground[];
};
