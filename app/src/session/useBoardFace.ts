import type { CalibrationFault } from '@steady-moth/core/calibration';
import { groupOf, type JobDocument, type Picture, type PictureGroup } from '@steady-moth/core/job';
import { skipToken, useQueries, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { calibrating } from '../compute';
import type { BoardFace } from '../frames/boardMap';
import { isKnown, mapKey, useGroup, WORKED_OUT } from './group';

/** The board's face: the picture as it is until something is known in it, true from then on. */
export function useBoardFace(
  job: JobDocument,
  picture: Picture | null,
): {
  face: BoardFace;
  fault: Exclude<SettledFace, { ok: true }> | null;
  settled: boolean;
  /** It is known how large it is, and its first map is still worked out: it is not true yet, and will be at once. */
  isComing: boolean;
  /** By how much what is shown is larger than what was pictured, where a length is wanted. */
  modelScale: number | null;
} {
  const group = useGroup(job, picture);
  const known = picture !== null && isKnown(picture, group);
  const query = useQuery<SettledFace>({
    ...(picture ? settling(picture, group) : { queryKey: ['settle', null], queryFn: skipToken }),
    enabled: known,
    // Until it is worked out anew, the picture lies as it last did: its own face, never another one's.
    placeholderData: () => (picture ? lastSettled.get(picture.id) : undefined),
  });
  const asItIs = usePictureFace(picture);
  if (!known || !query.data)
    return { face: asItIs, fault: null, settled: !known, isComing: known && !query.isError, modelScale: null };
  if (!query.data.ok) return { face: asItIs, fault: query.data, settled: true, isComing: false, modelScale: null };
  const { face, modelScale } = query.data;
  return { face, fault: null, settled: !query.isPlaceholderData, isComing: false, modelScale };
}

/** The picture as it is, turned as it shall be shown. */
export function usePictureFace(picture: Picture | null): BoardFace {
  const { turns = 0, flip = false } = picture?.preparation ?? {};
  const { widthPx = 1, heightPx = 1 } = picture?.facts ?? {};
  return useMemo(() => ({ kind: 'picture', turns, flip, widthPx, heightPx }), [turns, flip, widthPx, heightPx]);
}

type SettledFace =
  | { ok: true; face: Extract<BoardFace, { kind: 'true' }>; mmPerPx: number; modelScale: number | null }
  | { ok: false; reason: CalibrationFault; reference?: string };

/** What each picture was settled as last, by its name. */
const lastSettled = new Map<string, SettledFace>();

/** The face is made once with its map, so that everything derived from it can go by its identity. */
async function settle(picture: Picture, group: PictureGroup | null, signal: AbortSignal): Promise<SettledFace> {
  const found = await calibrating.call((w) => w.settle(picture, group), signal);
  const settled: SettledFace = found.ok
    ? {
        ok: true,
        face: { kind: 'true', map: found.map, heights: found.heights, turned: found.turned },
        mmPerPx: found.mmPerPx,
        modelScale: found.modelScale,
      }
    : found;
  lastSettled.set(picture.id, settled);
  return settled;
}

/** The query that settles a picture, alone or with those that it is joined with. */
const settling = (picture: Picture, group: PictureGroup | null) => ({
  queryKey: ['settle', mapKey(picture, group)],
  queryFn: ({ signal }: { signal: AbortSignal }) => settle(picture, group, signal),
  ...WORKED_OUT,
});

/** Millimetres of a pixel in the middle of the face, once something is known. */
export function useMmPerPx(job: JobDocument, picture: Picture): number | null {
  const group = useGroup(job, picture);
  const query = useQuery({ ...settling(picture, group), enabled: isKnown(picture, group) });
  return query.data?.ok ? query.data.mmPerPx : null;
}

/**
 * The face of every picture that can lie on the same board: of all that are true once the one worked on is; else of
 * that one alone.
 */
export function useBoardFaces(job: JobDocument, picture: Picture, face: BoardFace): ReadonlyMap<string, BoardFace> {
  const others = useOthers(job, picture, face);
  const found = useQueries({
    queries: others.map(({ other, group }) => settling(other, group)),
    // What comes out equal keeps its identity, so that nothing is derived from it anew.
    combine: (settled) =>
      settled.map(({ data }, k) => ({ id: others[k]?.other.id, face: data?.ok ? data.face : null })),
  });
  return useMemo(() => {
    const faces = new Map<string, BoardFace>([[picture.id, face]]);
    for (const { id, face: own } of found) if (id && own) faces.set(id, own);
    return faces;
  }, [picture.id, face, found]);
}

/** The other pictures that can lie on the same board. */
function useOthers({ pictures, joins, unit }: JobDocument, picture: Picture, face: BoardFace) {
  return useMemo(
    () =>
      (face.kind === 'true' ? pictures.filter((p) => p.id !== picture.id) : [])
        .map((other) => ({ other, group: groupOf({ pictures, joins, unit }, other.id, picture) }))
        .filter(({ other, group }) => isKnown(other, group)),
    [pictures, joins, unit, picture, face.kind],
  );
}

/** Whether every other picture's face is the one that its calibration says, and none is still worked out. */
export function useOthersSettled(job: JobDocument, picture: Picture, face: BoardFace): boolean {
  const others = useOthers(job, picture, face);
  return useQueries({
    queries: others.map(({ other, group }) => settling(other, group)),
    combine: (all) => all.every((q) => !q.isFetching && !q.isPlaceholderData),
  });
}
