import { type JobDocument, sourceOfSize } from '@steady-moth/core/job';
import type { FaceName } from '@steady-moth/core/sketch';
import type { BodySize } from '@steady-moth/core/solid/kernel';
import { fixed, type LengthUnit, writeLength } from '@steady-moth/core/units';
import { useMemo } from 'react';
import { useBodySizeMeasure } from '../../session/useFigures';

/** The ± of a size: 0 where it follows from what was typed alone, null where nothing tells. mm. */
export function useSizePlusMinus(job: JobDocument, faces: readonly FaceName[] | null): number | null {
  const source = useMemo(() => (faces ? sourceOfSize(job.part, faces) : null), [job.part, faces]);
  const { data } = useBodySizeMeasure(job, source);
  return source?.kind === 'typed' ? 0 : (data?.plusMinus ?? null);
}

const WORDS: Record<BodySize['kind'], string> = {
  distance: '',
  diameter: 'Ø ',
  angle: '',
  length: 'length ',
  wall: 'wall ',
};

/** A size as it is written beside the body. */
export function sizeSentence({ kind, value }: BodySize, plusMinus: number | null, unit: LengthUnit): string {
  if (kind === 'angle') return `${fixed((value * 180) / Math.PI, 2)}°`;
  const written = writeLength(value, plusMinus || null, unit);
  const more = plusMinus === 0 ? ' as typed' : written.plusMinus === null ? '' : ` ± ${written.plusMinus}`;
  return `${WORDS[kind]}${written.value}${more}`;
}
