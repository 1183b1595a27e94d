import {
  groupOf,
  isScaleKnown,
  type JobDocument,
  type Picture,
  type PictureGroup,
  pointsOfRun,
  type Run,
  type SaidOfPicture,
} from '@steady-moth/core/job';
import type { TruingFault } from '@steady-moth/core/truing';
import { keepPreviousData, useQueries, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { type BoardFace, boardMapper } from '../board/boardMap';
import type { AimSource } from '../board/useAim';
import { truing } from '../workers';

/** Keys by the objects that they were made of: a ruler's strokes are many, and a key is asked for at every render. */
const keys = new WeakMap<object, string>();

function ownKey(said: SaidOfPicture): string {
  const known = keys.get(said);
  if (known !== undefined) return known;
  const key = digest(JSON.stringify(whatDecides(said)));
  keys.set(said, key);
  return key;
}

/** 64 bits of a text (FNV-1a, twice with other seeds): as good as the text to tell whether anything changed. */
function digest(text: string): string {
  let [a, b] = [0x811c9dc5, 0x9747b28c];
  for (let k = 0; k < text.length; k++) {
    const code = text.charCodeAt(k);
    a = Math.imul(a ^ code, 0x01000193);
    b = Math.imul(b ^ code, 0x85ebca6b);
  }
  return `${(a >>> 0).toString(36)}-${(b >>> 0).toString(36)}`;
}

/** What of a picture decides its map: spot checks and what was typed do not. */
function whatDecides({ facts, truing: t, preparation, kind }: SaidOfPicture): unknown {
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

/** What decides a picture's map: its own, or that of all that it is joined with. */
export const mapKey = (said: SaidOfPicture, group: PictureGroup | null): unknown =>
  group ? { of: said.id, joins: group.joins, pictures: group.pictures.map(ownKey) } : ownKey(said);

const isKnown = (picture: Picture, group: PictureGroup | null): boolean => group !== null || isScaleKnown(picture);

/** The pictures that one is joined with, made anew only when something is said of one of them. */
export function useGroup(job: JobDocument, picture: Picture | null): PictureGroup | null {
  const { pictures, joins, unit } = job;
  return useMemo(
    () => (picture && joins.length ? groupOf({ pictures, joins, unit }, picture.id, picture) : null),
    [pictures, joins, unit, picture],
  );
}

/** The board's face: the picture as it is until something is known in it, true from then on. */
export function useBoardFace(
  job: JobDocument,
  picture: Picture | null,
): {
  face: BoardFace;
  fault: Exclude<SettledFace, { ok: true }> | null;
  settled: boolean;
  /** By how much what is shown is larger than what was pictured, where a length is wanted. */
  modelScale: number | null;
} {
  const group = useGroup(job, picture);
  const known = picture !== null && isKnown(picture, group);
  const query = useQuery<SettledFace>({
    queryKey: ['settle', picture && mapKey(picture, group)],
    queryFn: ({ signal }) => settle(picture as Picture, group, signal),
    enabled: known,
    // Until it is worked out anew, the picture lies as it last did: its own face, never another one's.
    placeholderData: () => (picture ? lastSettled.get(picture.id) : undefined),
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

type SettledFace =
  | { ok: true; face: Extract<BoardFace, { kind: 'true' }>; mmPerPx: number; modelScale: number | null }
  | { ok: false; reason: TruingFault; yardstick?: string };

/** What each picture was settled as last, by its name. */
const lastSettled = new Map<string, SettledFace>();

/** The face is made once with its map, so that everything derived from it can go by its identity. */
async function settle(picture: Picture, group: PictureGroup | null, signal: AbortSignal): Promise<SettledFace> {
  const found = await truing.call((w) => w.settle(picture, group), signal);
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

/** Millimetres of a pixel in the middle of the face, once something is known. */
export function useMmPerPx(job: JobDocument, picture: Picture): number | null {
  const group = useGroup(job, picture);
  const query = useQuery({
    queryKey: ['settle', mapKey(picture, group)],
    queryFn: ({ signal }) => settle(picture, group, signal),
    enabled: isKnown(picture, group),
    gcTime: 10_000,
    staleTime: Number.POSITIVE_INFINITY,
  });
  return query.data?.ok ? query.data.mmPerPx : null;
}

/** What was told of each picture last, by what it is and the picture's name. */
const lastTold = new Map<string, unknown>();

/** Until it is worked out anew, what was told of this very picture last stays: the slip does not jump to and fro. */
function toldOf<Told>(
  what: string,
  picture: Picture | null,
  enabled: boolean,
  work: (signal: AbortSignal) => Promise<Told>,
) {
  const name = `${what} ${picture?.id}`;
  return {
    queryFn: async ({ signal }: { signal: AbortSignal }): Promise<Told> => {
      const told = await work(signal);
      lastTold.set(name, told);
      return told;
    },
    placeholderData: () => (enabled ? (lastTold.get(name) as Told | undefined) : undefined),
    enabled,
  };
}

/** Every ± and deviation: slower than the map, and shown when it is there. */
export function useCertainty(job: JobDocument, picture: Picture | null) {
  const group = useGroup(job, picture);
  const known = picture !== null && isKnown(picture, group);
  return useQuery({
    queryKey: ['certainty', picture && mapKey(picture, group), picture?.truing.spotChecks],
    ...toldOf('certainty', picture, known, (signal) =>
      truing.call((w) => w.certainty(picture as Picture, group), signal),
    ),
    gcTime: 10_000,
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** How well the pictures that one is joined with fit at their seams. */
export function useSeams(job: JobDocument, picture: Picture) {
  const group = useGroup(job, picture);
  return useQuery({
    queryKey: ['seams', mapKey(picture, group)],
    ...toldOf('seams', picture, group !== null, (signal) =>
      truing.call((w) => w.seams(picture, group as PictureGroup), signal),
    ),
    gcTime: 10_000,
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** The map of the ± and the deviations, once they are asked for. */
export function useTrust(job: JobDocument, picture: Picture, wanted: boolean) {
  const group = useGroup(job, picture);
  return useQuery({
    queryKey: ['trust', mapKey(picture, group)],
    queryFn: ({ signal }) => truing.call((w) => w.trust(picture, group), signal),
    enabled: wanted && isKnown(picture, group),
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** What would repair spot checks that do not fit. */
export function useRepairs(picture: Picture, wanted: boolean) {
  return useQuery({
    queryKey: ['repairs', ownKey(picture), picture.truing.spotChecks],
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
  const { pictures, joins, unit } = job;
  const others = useMemo(
    () =>
      (face.kind === 'true' ? pictures.filter((p) => p.id !== picture.id) : [])
        .map((other) => ({ other, group: groupOf({ pictures, joins, unit }, other.id, picture) }))
        .filter(({ other, group }) => isKnown(other, group)),
    [pictures, joins, unit, picture, face.kind],
  );
  const found = useQueries({
    queries: others.map(({ other, group }) => ({
      queryKey: ['settle', mapKey(other, group)],
      queryFn: ({ signal }: { signal: AbortSignal }) => settle(other, group, signal),
      gcTime: 10_000,
      staleTime: Number.POSITIVE_INFINITY,
    })),
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

/** The pictures joined with the one worked on, to be aimed at where they are shown on its board. */
export function useJoinedSources(
  job: JobDocument,
  picture: Picture,
  faces: ReadonlyMap<string, BoardFace>,
): AimSource[] {
  const group = useGroup(job, picture);
  return useMemo(
    () =>
      job.pictures.flatMap(({ id, blob, facts, shown }): AimSource[] => {
        const face = faces.get(id);
        const isJoined = id !== picture.id && group?.pictures.some((p) => p.id === id);
        if (!face || !isJoined || !shown) return [];
        return [{ id, blob, widthPx: facts.widthPx, heightPx: facts.heightPx, mapper: boardMapper(face) }];
      }),
    [job.pictures, picture.id, group, faces],
  );
}

/** The picture that a run is measured by: the one that it lies on, or the first of joined ones; null of strangers. */
function pictureOfRun(job: JobDocument, run: Run): Picture | null {
  const ids = new Set(pointsOfRun(run).map((id) => job.part.points[id]?.picture));
  const first = job.pictures.find((p) => ids.has(p.id)) ?? null;
  if (ids.size === 1 || !first) return first;
  const joined = groupOf(job, first.id)?.pictures.map((p) => p.id) ?? [];
  return [...ids].every((id) => joined.includes(id)) ? first : null;
}

/** Lengths, radii, angles and areas of a run, with their ±, through the pictures that it was traced on. */
export function useRunMeasures(job: JobDocument, run: Run | null) {
  const picture = run && pictureOfRun(job, run);
  const group = useGroup(job, picture);
  const known = picture !== null && isKnown(picture, group);
  return useQuery({
    queryKey: ['measure', run, run && job.part.points, picture && mapKey(picture, group)],
    queryFn: ({ signal }) =>
      truing.call((w) => w.measureRun(picture as Picture, group, job.part.points, run as Run), signal),
    enabled: known,
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    staleTime: Number.POSITIVE_INFINITY,
  });
}
