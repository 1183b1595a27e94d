import type { Figure } from '@steady-moth/core/calibration';
import { type JobDocument, onPlane, type Picture } from '@steady-moth/core/job';
import type { Measurable } from '@steady-moth/core/job/calibrated';
import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { figures } from '../../compute';
import { useReadout } from '../../session/readoutStore';
import { useMeasurable } from '../../session/useFigures';
import type { TracePreview } from './tools/context';

/** The distance between two measured places, with its ± as soon as it is worked out. */
export function useMeasureTool(
  job: JobDocument,
  picture: Picture,
  isTrue: boolean,
  measure: TracePreview['measure'],
): Figure | null {
  const from = measure?.from ?? null;
  const to = measure?.to ?? null;
  const through = useMeasurable(job, isTrue && to ? picture : null);
  const { data } = useQuery({
    queryKey: ['distance', from?.picture, to?.picture, through?.calibration.parameters.join(' ')],
    queryFn: ({ signal }) => {
      const pick = (aim: NonNullable<typeof from>) => ({
        ...onPlane({ ...aim.picture, sigmaPx: aim.sigmaPx }, 'face'),
        picture: aim.pictureId,
      });
      return figures.call((w) => w.distance(through as Measurable, pick(from as never), pick(to as never)), signal);
    },
    enabled: isTrue && from !== null && to !== null && through !== null,
    gcTime: 10_000,
  });
  const figure = to && data ? data : null;
  useEffect(() => {
    if (figure) useReadout.getState().show({ lengthMm: figure.value, lengthPlusMinusMm: figure.plusMinus });
  }, [figure]);
  return figure;
}
