import type { CalibrationFault } from '@steady-moth/core/calibration';
import { groupOf, type JobDocument, type Picture, type PictureGroup } from '@steady-moth/core/job';
import { skipToken, useQueries, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { calibrating } from '../compute';
import type { BoardFrame } from '../frames/boardMap';
import { isKnown, mapKey, useGroup, WORKED_OUT } from './group';

/** The board's frame: the picture as it is until something is known in it, true from then on. */
export function useBoardFrame(
  job: JobDocument,
  picture: Picture | null,
): {
  frame: BoardFrame;
  fault: Exclude<SettledFrame, { ok: true }> | null;
  settled: boolean;
  /** It is known how large it is, and its first map is still worked out: it is not true yet, and will be at once. */
  isComing: boolean;
  /** By how much what is shown is larger than what was pictured, where a length is wanted. */
  modelScale: number | null;
} {
  const group = useGroup(job, picture);
  const known = picture !== null && isKnown(picture, group);
  const query = useQuery<SettledFrame>({
    ...(picture ? settling(picture, group) : { queryKey: ['settle', null], queryFn: skipToken }),
    enabled: known,
    // Until it is worked out anew, the picture lies as it last did: its own frame, never another one's.
    placeholderData: () => (picture ? lastSettled.get(picture.id) : undefined),
  });
  const asItIs = usePictureFrame(picture);
  if (!known || !query.data)
    return { frame: asItIs, fault: null, settled: !known, isComing: known && !query.isError, modelScale: null };
  if (!query.data.ok) return { frame: asItIs, fault: query.data, settled: true, isComing: false, modelScale: null };
  const { frame, modelScale } = query.data;
  return { frame, fault: null, settled: !query.isPlaceholderData, isComing: false, modelScale };
}

/** The picture as it is, turned as it shall be shown. */
export function usePictureFrame(picture: Picture | null): BoardFrame {
  const { turns = 0, flip = false } = picture?.preparation ?? {};
  const { widthPx = 1, heightPx = 1 } = picture?.facts ?? {};
  return useMemo(() => ({ kind: 'picture', turns, flip, widthPx, heightPx }), [turns, flip, widthPx, heightPx]);
}

type SettledFrame =
  | { ok: true; frame: Extract<BoardFrame, { kind: 'true' }>; mmPerPx: number; modelScale: number | null }
  | { ok: false; reason: CalibrationFault; reference?: string };

/** What each picture was settled as last, by its name. */
const lastSettled = new Map<string, SettledFrame>();

/** The frame is made once with its map, so that everything derived from it can go by its identity. */
async function settle(picture: Picture, group: PictureGroup | null, signal: AbortSignal): Promise<SettledFrame> {
  const found = await calibrating.call((w) => w.settle(picture, group), signal);
  const settled: SettledFrame = found.ok
    ? {
        ok: true,
        frame: { kind: 'true', map: found.map, heights: found.heights, turned: found.turned },
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

/** Millimetres of a pixel in the middle of the frame, once something is known. */
export function useMmPerPx(job: JobDocument, picture: Picture): number | null {
  const group = useGroup(job, picture);
  const query = useQuery({ ...settling(picture, group), enabled: isKnown(picture, group) });
  return query.data?.ok ? query.data.mmPerPx : null;
}

/**
 * The frame of every picture that can lie on the same board: of all that are true once the one worked on is; else of
 * that one alone.
 */
export function useBoardFrames(job: JobDocument, picture: Picture, frame: BoardFrame): ReadonlyMap<string, BoardFrame> {
  const others = useOthers(job, picture, frame);
  const found = useQueries({
    queries: others.map(({ other, group }) => settling(other, group)),
    // What comes out equal keeps its identity, so that nothing is derived from it anew.
    combine: (settled) =>
      settled.map(({ data }, k) => ({ id: others[k]?.other.id, frame: data?.ok ? data.frame : null })),
  });
  return useMemo(() => {
    const frames = new Map<string, BoardFrame>([[picture.id, frame]]);
    for (const { id, frame: own } of found) if (id && own) frames.set(id, own);
    return frames;
  }, [picture.id, frame, found]);
}

/** The other pictures that can lie on the same board. */
function useOthers({ pictures, joins, unit }: JobDocument, picture: Picture, frame: BoardFrame) {
  return useMemo(
    () =>
      (frame.kind === 'true' ? pictures.filter((p) => p.id !== picture.id) : [])
        .map((other) => ({ other, group: groupOf({ pictures, joins, unit }, other.id, picture) }))
        .filter(({ other, group }) => isKnown(other, group)),
    [pictures, joins, unit, picture, frame.kind],
  );
}

/** Whether every other picture's frame is the one that its calibration says, and none is still worked out. */
export function useOthersSettled(job: JobDocument, picture: Picture, frame: BoardFrame): boolean {
  const others = useOthers(job, picture, frame);
  return useQueries({
    queries: others.map(({ other, group }) => settling(other, group)),
    combine: (all) => all.every((q) => !q.isFetching && !q.isPlaceholderData),
  });
}
