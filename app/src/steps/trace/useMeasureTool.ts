import type { Figure } from '@steady-moth/core/calibration';
import { type JobDocument, onPlane, type Picture } from '@steady-moth/core/job';
import type { Measurable } from '@steady-moth/core/job/calibrated';
import { useQueries } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { Aim } from '../../board/useAim';
import { figures } from '../../compute';
import { legsOf, type TracePreview } from '../../part/preview';
import { useReadout } from '../../session/readoutStore';
import { useMeasurable } from '../../session/useFigures';

/** The distances between measured places, each with its ± as soon as it is worked out. */
export function useMeasureTool(
  job: JobDocument,
  picture: Picture,
  isTrue: boolean,
  measure: TracePreview['measure'],
): readonly (Figure | null)[] {
  const legs = measure && isTrue ? legsOf(measure) : [];
  const through = useMeasurable(job, legs.length > 0 ? picture : null);
  const pick = (aim: Aim) => ({
    ...onPlane({ ...aim.picture, sigmaPx: aim.sigmaPx }, 'face'),
    picture: aim.pictureId,
  });
  const told = useQueries({
    queries: legs.map(([from, to]) => ({
      queryKey: ['distance', from.picture, to.picture, through?.calibration.parameters.join(' ')],
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        figures.call((w) => w.distance(through as Measurable, pick(from), pick(to)), signal),
      enabled: through !== null,
      gcTime: 10_000,
    })),
  });
  const all = told.map((t) => t.data ?? null);
  const last = measure?.to ? (all.at(-1) ?? null) : null;
  useEffect(() => {
    if (last) useReadout.getState().show({ lengthMm: last.value, lengthPlusMinusMm: last.plusMinus });
  }, [last]);
  return all;
}
