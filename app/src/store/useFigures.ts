import {
  groupOf,
  type JobDocument,
  type Picture,
  type PictureGroup,
  pointsOfRun,
  type Run,
} from '@steady-moth/core/job';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { truing } from '../workers';
import { isKnown, mapKey, ownKey, useGroup, WORKED_OUT } from './group';

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
    ...WORKED_OUT,
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
    ...WORKED_OUT,
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
    ...WORKED_OUT,
  });
}

/** What would repair spot checks that do not fit. */
export function useRepairs(picture: Picture, wanted: boolean) {
  return useQuery({
    queryKey: ['repairs', ownKey(picture), picture.truing.spotChecks],
    queryFn: ({ signal }) => truing.call((w) => w.repairs(picture), signal),
    enabled: wanted,
    ...WORKED_OUT,
  });
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
    ...WORKED_OUT,
  });
}
