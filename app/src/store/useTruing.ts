import { isScaleKnown, type JobDocument, type Picture, pointsOfRun, type Run } from '@steady-moth/core/job';
import { keepPreviousData, useQueries, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { BoardFace } from '../board/boardMap';
import { truing } from '../workers';

type Said = Pick<Picture, 'facts' | 'truing' | 'preparation' | 'kind'>;

/** What of a picture decides its map: spot checks and what was typed do not. */
function mapKey({ facts, truing: t, preparation, kind }: Said): unknown {
  return {
    turns: preparation.turns,
    flip: preparation.flip,
    facts,
    kind,
    believe: t.believeResolution,
    hold: t.hold,
    heights: t.heights,
    planes: t.planes,
    camera: t.camera,
    freeRatio: t.freeRatio,
    turned: t.turned,
    wanted: t.wanted,
    factor: t.factor,
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
  /** By how much what is shown is larger than what was pictured, where a length is wanted. */
  modelScale: number | null;
} {
  const known = picture !== null && isScaleKnown(picture);
  const query = useQuery({
    queryKey: ['settle', picture && mapKey(picture)],
    queryFn: ({ signal }) => settle(picture as Picture, signal),
    enabled: known,
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const asItIs = usePictureFace(picture);
  if (!known || !query.data) return { face: asItIs, fault: null, settled: !known, modelScale: null };
  if (!query.data.ok) return { face: asItIs, fault: query.data, settled: true, modelScale: null };
  const { face, modelScale } = query.data;
  return { face, fault: null, settled: !query.isPlaceholderData, modelScale };
}

/** The picture as it is, turned as it shall be shown. */
export function usePictureFace(picture: Picture | null): BoardFace {
  const { turns = 0, flip = false } = picture?.preparation ?? {};
  const { widthPx = 1, heightPx = 1 } = picture?.facts ?? {};
  return useMemo(() => ({ kind: 'picture', turns, flip, widthPx, heightPx }), [turns, flip, widthPx, heightPx]);
}

/** The face is made once with its map, so that everything derived from it can go by its identity. */
async function settle(picture: Picture, signal: AbortSignal) {
  const found = await truing.call((w) => w.settle(picture), signal);
  return found.ok
    ? {
        ok: true as const,
        face: { kind: 'true' as const, map: found.map, heights: found.heights, turned: found.turned },
        mmPerPx: found.mmPerPx,
        modelScale: found.modelScale,
      }
    : found;
}

/** Millimetres of a pixel in the middle of the face, once something is known. */
export function useMmPerPx(picture: Picture): number | null {
  const query = useQuery({
    queryKey: ['settle', mapKey(picture)],
    queryFn: ({ signal }) => settle(picture, signal),
    enabled: isScaleKnown(picture),
    gcTime: 10_000,
    staleTime: Number.POSITIVE_INFINITY,
  });
  return query.data?.ok ? query.data.mmPerPx : null;
}

/** Every ± and deviation: slower than the map, and shown when it is there. */
export function useCertainty(picture: Picture | null) {
  const known = picture !== null && isScaleKnown(picture);
  return useQuery({
    queryKey: ['certainty', picture && { ...(mapKey(picture) as object), spots: picture.truing.spotChecks }],
    queryFn: ({ signal }) => truing.call((w) => w.certainty(picture as Picture), signal),
    enabled: known,
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    staleTime: Number.POSITIVE_INFINITY,
  });
}

const trustKey = (picture: Picture) => [mapKey(picture), picture.truing.spotChecks];

/** The map of the ± and the deviations, once they are asked for. */
export function useTrust(picture: Picture, wanted: boolean) {
  return useQuery({
    queryKey: ['trust', ...trustKey(picture)],
    queryFn: ({ signal }) => truing.call((w) => w.trust(picture), signal),
    enabled: wanted && isScaleKnown(picture),
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** What would repair spot checks that do not fit. */
export function useRepairs(picture: Picture, wanted: boolean) {
  return useQuery({
    queryKey: ['repairs', ...trustKey(picture)],
    queryFn: ({ signal }) => truing.call((w) => w.repairs(picture), signal),
    enabled: wanted,
    gcTime: 10_000,
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/**
 * The face of every picture that can lie on the same board: of all that are true once the one worked on is; else of
 * that one alone.
 */
export function useBoardFaces(job: JobDocument, picture: Picture, face: BoardFace): ReadonlyMap<string, BoardFace> {
  const others = face.kind === 'true' ? job.pictures.filter((p) => p.id !== picture.id && isScaleKnown(p)) : [];
  const found = useQueries({
    queries: others.map((other) => ({
      queryKey: ['settle', mapKey(other)],
      queryFn: ({ signal }: { signal: AbortSignal }) => settle(other, signal),
      gcTime: 10_000,
      staleTime: Number.POSITIVE_INFINITY,
    })),
    // What comes out equal keeps its identity, so that nothing is derived from it anew.
    combine: (settled) => settled.map(({ data }, k) => ({ id: others[k]?.id, face: data?.ok ? data.face : null })),
  });
  return useMemo(() => {
    const faces = new Map<string, BoardFace>([[picture.id, face]]);
    for (const { id, face: own } of found) if (id && own) faces.set(id, own);
    return faces;
  }, [picture.id, face, found]);
}

/** The picture that all of a run's points lie on; null where they lie on several. */
function pictureOfRun(job: JobDocument, run: Run): Picture | null {
  const ids = new Set(pointsOfRun(run).map((id) => job.part.points[id]?.picture));
  return ids.size === 1 ? (job.pictures.find((p) => ids.has(p.id)) ?? null) : null;
}

/** Lengths, radii, angles and areas of a run, with their ±, through the picture that it was traced on. */
export function useRunMeasures(job: JobDocument, run: Run | null) {
  const picture = run && pictureOfRun(job, run);
  const known = picture !== null && isScaleKnown(picture);
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
