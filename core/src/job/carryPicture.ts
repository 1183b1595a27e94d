import { mapThrough } from '../geometry';
import type { PictureFacts, Resolution } from '../truing';
import type { AxisRecord, JobDocument, PickRecord, Picture, Rect, StrokesRecord, ZeroRecord } from './document';

/**
 * Carries everything that was said in a picture's pixels to other pixels: yardsticks, datum, spot checks, crop, views
 * and traced points. `onto` is 3 × 3, row by row.
 */
export function carryPicture(job: JobDocument, picture: Picture, onto: readonly number[]): void {
  const { truing, preparation } = picture;
  for (const length of [...truing.yardsticks, ...truing.spotChecks]) {
    length.from = carried(length.from, onto);
    length.to = carried(length.to, onto);
  }
  for (const y of truing.yardsticks) y.strokes = y.strokes && carriedStrokes(y.strokes, onto);
  truing.axis = truing.axis && carriedAxis(truing.axis, onto);
  truing.zero = truing.zero && carriedZero(truing.zero, onto);
  preparation.crop = preparation.crop && carriedRect(preparation.crop, onto);
  for (const view of picture.views) view.crop = carriedRect(view.crop, onto);
  for (const point of Object.values(job.part.points))
    if (point.picture === picture.id) Object.assign(point, carried(point, onto));
}

/** Pixels per mm along the rows and down them, of the new pixels; null where nothing was stated. */
export function carriedResolution(
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

function carriedStrokes({ spacingMm, strokes, edge }: StrokesRecord, onto: readonly number[]): StrokesRecord {
  const all = (picks: PickRecord[]) => picks.map((pick) => carried(pick, onto));
  return { spacingMm, strokes: strokes.map(({ n, places }) => ({ n, places: all(places) })), edge: all(edge) };
}

function carriedAxis(axis: AxisRecord, onto: readonly number[]): AxisRecord {
  return 'from' in axis ? { ...axis, from: carried(axis.from, onto), to: carried(axis.to, onto) } : axis;
}

function carriedZero(zero: ZeroRecord, onto: readonly number[]): ZeroRecord {
  return 'pick' in zero ? { ...zero, pick: carried(zero.pick, onto) } : zero;
}

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
