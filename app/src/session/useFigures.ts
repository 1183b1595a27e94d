import {
  type CalibrationRecord,
  groupOf,
  type JobDocument,
  type MeasuredPieces,
  type Picture,
  type PictureGroup,
  type SizeSource,
} from '@steady-moth/core/job';
import type { Measurable } from '@steady-moth/core/job/calibrated';
import { type Path, picturesOfPath, type Sketch, workedOut } from '@steady-moth/core/sketch';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { calibrating, figures } from '../compute';
import type { SeenPlace } from '../compute/figures.worker';
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
    queryKey: ['certainty', picture && mapKey(picture, group), picture?.calibration.spotChecks],
    ...toldOf('certainty', picture, known, (signal) =>
      calibrating.call((w) => w.certainty(picture as Picture, group), signal),
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
      calibrating.call((w) => w.seams(picture, group as PictureGroup), signal),
    ),
    ...WORKED_OUT,
  });
}

/** The map of the ± and the deviations, once they are asked for. */
export function useTrust(job: JobDocument, picture: Picture, wanted: boolean) {
  const group = useGroup(job, picture);
  return useQuery({
    queryKey: ['trust', mapKey(picture, group)],
    queryFn: ({ signal }) => calibrating.call((w) => w.trust(picture, group), signal),
    enabled: wanted && isKnown(picture, group),
    placeholderData: keepPreviousData,
    ...WORKED_OUT,
  });
}

/** What would repair spot checks that do not fit. */
export function useExplanations(picture: Picture, wanted: boolean) {
  return useQuery({
    queryKey: ['explanations', ownKey(picture), picture.calibration.spotChecks],
    queryFn: ({ signal }) => calibrating.call((w) => w.explanations(picture), signal),
    enabled: wanted,
    ...WORKED_OUT,
  });
}

/** The picture that a path is measured by: the one that it lies on, or the first of joined ones; null of strangers. */
function pictureOfPath(job: JobDocument, sketch: Sketch, path: Path): Picture | null {
  const ids = picturesOfPath(sketch, path);
  const first = job.pictures.find((p) => ids.includes(p.id)) ?? null;
  if (ids.length === 1 || !first) return first;
  const joined = groupOf(job, first.id)?.pictures.map((p) => p.id) ?? [];
  return ids.every((id) => joined.includes(id)) ? first : null;
}

/** What a picture's things are measured through, once it is worked out. */
export function useMeasurable(job: JobDocument, picture: Picture | null): Measurable | null {
  const group = useGroup(job, picture);
  const known = picture !== null && isKnown(picture, group);
  const { data } = useQuery({
    queryKey: ['measurable', picture && mapKey(picture, group)],
    queryFn: ({ signal }) => calibrating.call((w) => w.whole(picture as Picture, group), signal),
    enabled: known,
    placeholderData: keepPreviousData,
    ...WORKED_OUT,
  });
  return known ? (data ?? null) : null;
}

/**
 * Lengths, radii, angles and areas of a path, with their ±, through the pictures that it was traced on; asked for when
 * it is shown, and anew only when something that it is made of, or its pictures' calibration, changed. `sketch` is what
 * it is made of alone; null asks for nothing.
 */
export function usePathMeasures(job: JobDocument, sketch: Sketch | null, path: Path, { from, to }: MeasuredPieces) {
  const picture = sketch && pictureOfPath(job, sketch, path);
  const through = useMeasurable(job, picture);
  // Of joined pictures the first one's record counts.
  const group = useGroup(job, picture);
  const said = group?.pictures[0]?.calibration ?? picture?.calibration;
  return useQuery({
    queryKey: ['measure', nameOf(path), nameOf(sketch), nameOf(through), from, to],
    queryFn: ({ signal }) =>
      figures.call(
        (w) => w.measurePath(through as Measurable, said as CalibrationRecord, sketch as Sketch, path, { from, to }),
        signal,
      ),
    enabled: through !== null && sketch !== null,
    placeholderData: keepPreviousData,
    ...WORKED_OUT,
  });
}

/** The picture that a sketch is measured by: the first that anything of it was seen on; null of one with nothing in it. */
function pictureOfSketch(job: JobDocument, sketch: Sketch): Picture | null {
  for (const at of [...Object.values(sketch.points).map((p) => p.at), ...Object.values(sketch.picks)]) {
    const picture = 'picture' in at ? job.pictures.find((p) => p.id === at.picture) : undefined;
    if (picture) return picture;
  }
  return null;
}

/** What a sketch is measured through, once it is worked out, and what was said of its picture. */
function useThrough(job: JobDocument, sketch: Sketch | null) {
  const picture = sketch && pictureOfSketch(job, sketch);
  const through = useMeasurable(job, picture);
  const group = useGroup(job, picture);
  return { through, said: group?.pictures[0]?.calibration ?? picture?.calibration };
}

/** All sizes of a sketch with their ±. */
export function useSizeMeasures(job: JobDocument, sketch: Sketch | null) {
  const { through, said } = useThrough(job, sketch);
  return useQuery({
    queryKey: ['sizes', nameOf(sketch), nameOf(through)],
    queryFn: ({ signal }) =>
      figures.call((w) => w.measureSizes(through as Measurable, said as CalibrationRecord, sketch as Sketch), signal),
    enabled: through !== null && sketch !== null && Object.keys(sketch.dimensions).length > 0,
    placeholderData: keepPreviousData,
    ...WORKED_OUT,
  });
}

/** A size of the body with its ±, by the pieces of the sketch that it comes from. */
export function useBodySizeMeasure(job: JobDocument, source: SizeSource | null) {
  const part = useMemo(() => workedOut(job.part), [job.part]);
  const sketch = source && source.kind !== 'typed' ? (part.sketches[source.sketch] ?? null) : null;
  const { through, said } = useThrough(job, sketch);
  return useQuery({
    queryKey: ['body-size-measure', nameOf(sketch), nameOf(through), source],
    queryFn: ({ signal }) =>
      figures.call(
        (w) => w.measureBodySize(through as Measurable, said as CalibrationRecord, part, source as SizeSource),
        signal,
      ),
    enabled: through !== null && sketch !== null,
    ...WORKED_OUT,
  });
}

/** What the form of a sketch seems to mean. */
export function useProposals(job: JobDocument, sketch: Sketch | null) {
  const { through, said } = useThrough(job, sketch);
  return useQuery({
    queryKey: ['proposals', nameOf(sketch), nameOf(through), job.unit],
    queryFn: ({ signal }) =>
      figures.call(
        (w) => w.propose(through as Measurable, said as CalibrationRecord, sketch as Sketch, job.unit),
        signal,
      ),
    enabled: through !== null && sketch !== null,
    placeholderData: keepPreviousData,
    ...WORKED_OUT,
  });
}

/** What is free, said twice or contradicts itself in a sketch. `places` tells where everything was seen. */
export function useSketchTold(sketch: Sketch | null, places: ReadonlyMap<string, SeenPlace> | null) {
  return useQuery({
    queryKey: ['told', nameOf(sketch), nameOf(places)],
    queryFn: ({ signal }) =>
      figures.call((w) => w.tellSketch(sketch as Sketch, places as ReadonlyMap<string, SeenPlace>), signal),
    enabled: sketch !== null && places !== null,
    placeholderData: keepPreviousData,
    ...WORKED_OUT,
  });
}

/** Relations that fit what is chosen, with what each would move. */
export function useOffers(
  sketch: Sketch | null,
  chosen: readonly string[],
  places: ReadonlyMap<string, SeenPlace> | null,
) {
  return useQuery({
    queryKey: ['offers', nameOf(sketch), nameOf(places), chosen],
    queryFn: ({ signal }) =>
      figures.call((w) => w.offer(sketch as Sketch, chosen, places as ReadonlyMap<string, SeenPlace>), signal),
    enabled: sketch !== null && places !== null && chosen.length > 0,
    ...WORKED_OUT,
  });
}

const names = new WeakMap<object, number>();
let named = 0;

/** A number for an object, always the same: to tell in a key whether it is still the same object. */
function nameOf(object: object | null): number | null {
  if (!object) return null;
  const known = names.get(object) ?? ++named;
  names.set(object, known);
  return known;
}
