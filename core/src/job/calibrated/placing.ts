import { axisFrom, lensOver, planeMapper } from '../../calibration';
import type { PicturePlacing, Placing } from '../../sketch';
import { TURNED } from '../../sketch';
import { isScaleKnown } from '../calibrationInput';
import type { JobDocument } from '../document/document';
import { groupOf } from '../joinedPictures';
import type { Calibrator, Settled } from './calibrator';

type Known = Pick<Extract<Settled, { ok: true }>, 'map' | 'heights' | 'turned'>;

/** Where the places of a picture lie in the part, mm, through what it was settled as. */
export function placingThrough({ map, heights, turned }: Known): PicturePlacing {
  const mappers = new Map([[map.heightMm, planeMapper(map)]]);
  const at = (heightMm: number) => {
    const mapper = mappers.get(heightMm) ?? planeMapper({ ...map, heightMm });
    mappers.set(heightMm, mapper);
    return mapper;
  };
  /** Undefined for a plane that is not there: what was traced on it has no place, rather than a wrong one. */
  const heightOf = (plane: string | null): number | undefined => {
    if (plane === null) return map.heightMm;
    if (plane === TURNED) return turned?.heightMm;
    return Object.hasOwn(heights, plane) ? heights[plane] : undefined;
  };
  const place: PicturePlacing['place'] = (point, plane) => {
    const heightMm = heightOf(plane);
    const found = heightMm === undefined ? null : at(heightMm).toPart(point);
    return found && { x: found.xMm, y: found.yMm };
  };
  return { isTrue: true, place, turned: turned && axisThrough(map, turned, place) };
}

function axisThrough(
  map: Known['map'],
  { silhouettes, heightMm }: NonNullable<Known['turned']>,
  place: PicturePlacing['place'],
): PicturePlacing['turned'] {
  const places = silhouettes.map((p) => place(p, TURNED));
  const flat = places.flatMap((p) => (p ? [p.x, p.y] : []));
  if (flat.length < 2 * silhouettes.length) return null;
  const lens = lensOver({ ...map, heightMm });
  return { axis: axisFrom(flat, 0, lens), lens };
}

/** Where the places of all pictures of a job lie that can be trued. */
export function placingOf(job: JobDocument, calibrator: Calibrator): Placing {
  return new Map(
    job.pictures.flatMap((picture): [string, PicturePlacing][] => {
      const group = groupOf(job, picture.id);
      if (!group && !isScaleKnown(picture)) return [];
      const settled = calibrator.settle(picture, group);
      return settled.ok ? [[picture.id, placingThrough(settled)]] : [];
    }),
  );
}
