import { type JobDocument, onPlane, type Picture } from '@steady-moth/core/job';
import type { Figure } from '@steady-moth/core/truing';
import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { mapKey, useGroup } from '../store/group';
import { useReadout } from '../store/readoutStore';
import { truing } from '../workers';
import type { TraceDraft } from './useTraceTool';

/** The distance between two measured places, with its ± as soon as it is worked out. */
export function useMeasureTool(
  job: JobDocument,
  picture: Picture,
  isTrue: boolean,
  measure: TraceDraft['measure'],
): Figure | null {
  const from = measure?.from ?? null;
  const to = measure?.to ?? null;
  const group = useGroup(job, picture);
  const { data } = useQuery({
    queryKey: ['distance', from?.picture, to?.picture, mapKey(picture, group)],
    queryFn: ({ signal }) => {
      const pick = (aim: NonNullable<typeof from>) => ({
        ...onPlane({ ...aim.picture, sigmaPx: aim.sigmaPx }, 'face'),
        picture: aim.pictureId,
      });
      return truing.call((w) => w.distance(picture, group, pick(from as never), pick(to as never)), signal);
    },
    enabled: isTrue && from !== null && to !== null,
    gcTime: 10_000,
  });
  const figure = to && data ? data : null;
  useEffect(() => {
    if (figure) useReadout.getState().show({ lengthMm: figure.value, lengthPlusMinusMm: figure.plusMinus });
  }, [figure]);
  return figure;
}
