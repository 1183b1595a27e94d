import type { JobDocument, Picture, Run } from '@steady-moth/core/job';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { BoardFace } from '../board/boardMap';
import { truing } from '../workers';

type Said = Pick<Picture, 'facts' | 'truing' | 'preparation'>;

/** What of a picture decides its map: spot checks and what was typed do not. */
function mapKey({ facts, truing: t, preparation }: Said): unknown {
  return {
    turns: preparation.turns,
    facts,
    hold: t.hold,
    heights: t.heights,
    axis: t.axis,
    zero: t.zero,
    yardsticks: t.yardsticks.map(({ typed: _, ...y }) => y),
  };
}

/** The board's face: the picture as it is until something is known in it, true from then on. */
export function useBoardFace(picture: Picture | null): {
  face: BoardFace;
  fault: Exclude<Awaited<ReturnType<typeof settle>>, { ok: true }> | null;
  settled: boolean;
} {
  const known = picture !== null && picture.truing.yardsticks.length > 0;
  const query = useQuery({
    queryKey: ['settle', picture && mapKey(picture)],
    queryFn: ({ signal }) => settle(picture as Picture, signal),
    enabled: known,
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const asItIs = usePictureFace(picture);
  if (!known || !query.data) return { face: asItIs, fault: null, settled: !known };
  if (!query.data.ok) return { face: asItIs, fault: query.data, settled: true };
  return { face: query.data.face, fault: null, settled: !query.isPlaceholderData };
}

/** The picture as it is, turned as it shall be shown. */
export function usePictureFace(picture: Picture | null): BoardFace {
  const turns = picture?.preparation.turns ?? 0;
  const { widthPx = 1, heightPx = 1 } = picture?.facts ?? {};
  return useMemo(() => ({ kind: 'picture', turns, widthPx, heightPx }), [turns, widthPx, heightPx]);
}

/** The face is made once with its map, so that everything derived from it can go by its identity. */
async function settle(picture: Picture, signal: AbortSignal) {
  const found = await truing.call((w) => w.settle(picture), signal);
  return found.ok
    ? { ok: true as const, face: { kind: 'true' as const, map: found.map }, mmPerPx: found.mmPerPx }
    : found;
}

/** Millimetres of a pixel in the middle of the face, once something is known. */
export function useMmPerPx(picture: Picture): number | null {
  const query = useQuery({
    queryKey: ['settle', mapKey(picture)],
    queryFn: ({ signal }) => settle(picture, signal),
    enabled: picture.truing.yardsticks.length > 0,
    gcTime: 10_000,
    staleTime: Number.POSITIVE_INFINITY,
  });
  return query.data?.ok ? query.data.mmPerPx : null;
}

/** Every ± and deviation: slower than the map, and shown when it is there. */
export function useCertainty(picture: Picture | null) {
  const known = picture !== null && picture.truing.yardsticks.length > 0;
  return useQuery({
    queryKey: ['certainty', picture && { ...(mapKey(picture) as object), spots: picture.truing.spotChecks }],
    queryFn: ({ signal }) => truing.call((w) => w.certainty(picture as Picture), signal),
    enabled: known,
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** Lengths, radii, angles and areas of a run, with their ±. */
export function useRunMeasures(job: JobDocument, picture: Picture | null, run: Run | null) {
  const known = picture !== null && run !== null && picture.truing.yardsticks.length > 0;
  return useQuery({
    queryKey: ['measure', run, run && job.part.points, picture && mapKey(picture)],
    queryFn: ({ signal }) =>
      truing.call((w) => w.measureRun(picture as Picture, { part: job.part }, (run as Run).id), signal),
    enabled: known,
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    staleTime: Number.POSITIVE_INFINITY,
  });
}
