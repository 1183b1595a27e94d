import type { PictureFacts, Resolution } from '../calibration';
import { mapThrough } from '../geometry';
import { allObservations, type PickRecord } from '../sketch';
import type {
  AxisRecord,
  GraduationsRecord,
  JobDocument,
  Picture,
  Rect,
  ReferenceRecord,
  TurnedRecord,
  ZeroRecord,
} from './document';

/**
 * Carries everything that was said in a picture's pixels to other pixels: references, datum, spot checks, crop, views
 * and traced points. `onto` is 3 × 3, row by row.
 */
export function reprojectPicture(job: JobDocument, picture: Picture, onto: readonly number[]): void {
  const { calibration, preparation } = picture;
  calibration.references = calibration.references.map((y) => carriedReference(y, onto));
  for (const spot of calibration.spotChecks) Object.assign(spot, carriedSpan(spot, onto));
  const { turned } = calibration;
  if (turned) turned.silhouettes = carriedPairs(turned.silhouettes, onto);
  calibration.wanted = calibration.wanted && { ...calibration.wanted, ...carriedSpan(calibration.wanted, onto) };
  calibration.axis = calibration.axis && carriedAxis(calibration.axis, onto);
  calibration.zero = calibration.zero && carriedZero(calibration.zero, onto);
  preparation.crop = preparation.crop && carriedRect(preparation.crop, onto);
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

function carriedGraduations(
  { spacingMm, graduations, edge, far }: GraduationsRecord,
  onto: readonly number[],
): GraduationsRecord {
  const all = (picks: PickRecord[]) => carriedAll(picks, onto);
  const lines = graduations.map(({ n, places }) => ({ n, places: all(places) }));
  return { spacingMm, graduations: lines, edge: all(edge), far: all(far) };
}

function carriedAxis(axis: AxisRecord, onto: readonly number[]): AxisRecord {
  if ('from' in axis) return { ...axis, ...carriedSpan(axis, onto) };
  if ('holes' in axis) return { ...axis, holes: [carriedAll(axis.holes[0], onto), carriedAll(axis.holes[1], onto)] };
  if ('edges' in axis) return { ...axis, edges: carriedPairs(axis.edges, onto) };
  return axis;
}

function carriedZero(zero: ZeroRecord, onto: readonly number[]): ZeroRecord {
  if ('pick' in zero) return { ...zero, pick: carried(zero.pick, onto) };
  if ('crossing' in zero) return { ...zero, crossing: carriedAll(zero.crossing, onto) };
  if ('rim' in zero) return { ...zero, rim: carriedAll(zero.rim, onto) };
  return zero;
}

const carriedPairs = ([a, b]: TurnedRecord['silhouettes'], onto: readonly number[]): TurnedRecord['silhouettes'] => [
  [carried(a[0], onto), carried(a[1], onto)],
  [carried(b[0], onto), carried(b[1], onto)],
];

const carriedAll = (picks: readonly PickRecord[], onto: readonly number[]): PickRecord[] =>
  picks.map((pick) => carried(pick, onto));

const carriedSpan = (span: { from: PickRecord; to: PickRecord }, onto: readonly number[]) => ({
  from: carried(span.from, onto),
  to: carried(span.to, onto),
});

function carriedReference(y: ReferenceRecord, onto: readonly number[]): ReferenceRecord {
  switch (y.kind) {
    case 'known-length':
      return { ...y, ...carriedSpan(y, onto), graduations: y.graduations && carriedGraduations(y.graduations, onto) };
    case 'disc':
      return { ...y, rim: carriedAll(y.rim, onto) };
    case 'sheet':
      return { ...y, edges: y.edges.map((e) => carriedAll(e, onto)) as typeof y.edges };
    case 'grid':
      return { ...y, crossings: y.crossings.map((c) => ({ ...c, pick: carried(c.pick, onto) })) };
    case 'square-lines':
      return { ...y, lines: y.lines.map((l) => ({ ...l, ...carriedSpan(l, onto) })) };
    case 'equal-lengths':
      return { ...y, lengths: y.lengths.map((l) => carriedSpan(l, onto)) };
  }
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
