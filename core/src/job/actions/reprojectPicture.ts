import type { PictureFacts, Resolution } from '../../calibration';
import { mapThrough } from '../../geometry';
import { allObservations, type PickRecord } from '../../sketch';
import type { JobDocument, Picture, Rect } from '../document/document';

/**
 * Carries everything that was said in a picture's pixels to other pixels: references, datum, spot checks, crop, views,
 * the places of a cleared background and traced points. `onto` is 3 × 3, row by row.
 */
export function reprojectPicture(job: JobDocument, picture: Picture, onto: readonly number[]): void {
  const { calibration, preparation } = picture;
  picture.calibration = carriedAll(calibration, onto);
  preparation.crop = preparation.crop && carriedRect(preparation.crop, onto);
  if (preparation.clear?.by === 'region')
    for (const place of preparation.clear.places) {
      const { x, y } = mapThrough(onto, place.uPx, place.vPx);
      Object.assign(place, { uPx: x, vPx: y });
    }
  for (const view of picture.views) view.crop = carriedRect(view.crop, onto);
  for (const join of job.joins)
    for (const seen of join.seen)
      if ('pick' in seen && seen.picture === picture.id) seen.pick = carried(seen.pick, onto);
  for (const seen of allObservations(job.part))
    if (seen.picture === picture.id) {
      const { neighbouringEdge: edge } = seen;
      const other = edge && mapThrough(onto, edge.uPx, edge.vPx);
      Object.assign(seen, carried(seen, onto), { neighbouringEdge: other && { uPx: other.x, vPx: other.y } });
    }
}

/** Pixels per mm along the rows and down them, of the new pixels; null where nothing was stated. */
export function reprojectedResolution(
  { resolution, widthPx, heightPx }: PictureFacts,
  onto: readonly number[],
): Resolution | null {
  if (!resolution) return null;
  const [u, v] = [widthPx / 2, heightPx / 2];
  const at = mapThrough(onto, u, v);
  const [right, below] = [mapThrough(onto, u + 1, v), mapThrough(onto, u, v + 1)];
  const across = Math.hypot(right.x - at.x, right.y - at.y) * resolution.perMmX;
  const down = Math.hypot(below.x - at.x, below.y - at.y) * resolution.perMmY;
  // Turned by a quarter, the old rows run down.
  const lies = Math.abs(right.x - at.x) >= Math.abs(right.y - at.y);
  return { ...resolution, perMmX: lies ? across : down, perMmY: lies ? down : across };
}

function carried<P extends PickRecord>(pick: P, onto: readonly number[]): P {
  const at = mapThrough(onto, pick.uPx, pick.vPx);
  const beside = mapThrough(onto, pick.uPx + 1, pick.vPx);
  const grow = Math.hypot(beside.x - at.x, beside.y - at.y);
  return { ...pick, uPx: at.x, vPx: at.y, sigmaPx: pick.sigmaPx * grow };
}

/**
 * Whatever is said, with every pick in it carried: a pick is told by its pixel and its scatter, wherever it stands. So a
 * new kind of reference needs nothing here.
 */
function carriedAll<T>(said: T, onto: readonly number[]): T {
  if (typeof said !== 'object' || said === null) return said;
  if (Array.isArray(said)) return said.map((one) => carriedAll(one, onto)) as T;
  if (isPick(said)) return carried(said, onto);
  return Object.fromEntries(Object.entries(said).map(([key, own]) => [key, carriedAll(own, onto)])) as T;
}

const isPick = (said: object): said is PickRecord => 'uPx' in said && 'vPx' in said && 'sigmaPx' in said;

/** The rectangle round the carried corners. */
function carriedRect({ leftPx, topPx, widthPx, heightPx }: Rect, onto: readonly number[]): Rect {
  const corners = [
    mapThrough(onto, leftPx, topPx),
    mapThrough(onto, leftPx + widthPx, topPx),
    mapThrough(onto, leftPx, topPx + heightPx),
    mapThrough(onto, leftPx + widthPx, topPx + heightPx),
  ];
  const left = Math.min(...corners.map((p) => p.x));
  const top = Math.min(...corners.map((p) => p.y));
  return {
    leftPx: left,
    topPx: top,
    widthPx: Math.max(...corners.map((p) => p.x)) - left,
    heightPx: Math.max(...corners.map((p) => p.y)) - top,
  };
}
