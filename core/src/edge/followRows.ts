import { medianOf } from '../numeric';
import type { BandKind } from './edgeModel';
import { fitParabola, type Parabola } from './fitCurve';
import { offsetOf, type Profile } from './profile';

/** A row whose centre lies further than this from its neighbours' curve follows something else, px. */
const STRAY_ROW_PX = 1.2;
export const FEWEST_ROWS = 5;

interface Followed {
  parabola: Parabola;
  /** Rows that lie on it. */
  rows: number[];
}

/** Centre of each row, and the curve through those that hang together with the middle one. */
export function followRows(profile: Profile, kind: BandKind): Followed | null {
  const centres = profile.rows.map((row) => rowCentre(profile, row, kind));
  let kept = centres
    .map((_, k) => k)
    .filter((k) => centres[k] !== null && Math.abs(centres[k] as number) <= profile.reachPx - 1);
  let parabola: Parabola | null = null;
  for (let round = 0; round < 4 && kept.length >= FEWEST_ROWS; round++) {
    parabola = fitParabola(
      kept.map((k) => profile.along[k]!),
      kept.map((k) => centres[k] as number),
    );
    const away = kept.map((k) => Math.abs((centres[k] as number) - (parabola as Parabola).at(profile.along[k]!)));
    const limit = Math.max(STRAY_ROW_PX / 2 ** round, 3 * 1.4826 * medianOf(away, 0));
    const next = kept.filter((_, n) => away[n]! <= limit);
    if (next.length === kept.length) break;
    kept = next;
  }
  return parabola && kept.length >= FEWEST_ROWS ? { parabola, rows: kept } : null;
}

/** Scale of the filter that finds one row's centre, in samples: about a pixel and a half. */
const ROW_FILTER = 6;

/** Where one row rises most (edge) or dips most (line): peak of the smoothed derivative, to a fraction by a parabola. */
function rowCentre(profile: Profile, row: Float64Array, kind: BandKind): number | null {
  const value = (k: number) => {
    let sum = 0;
    for (let n = 1; n <= ROW_FILTER; n++)
      sum += kind === 'edge' ? row[k + n]! - row[k - n]! : row[k + n]! + row[k - n]! - 2 * row[k]!;
    return kind === 'edge' ? sum : Math.abs(sum);
  };
  let best = -1;
  let most = 0;
  const middle = (profile.count - 1) / 2;
  let [before, here] = [0, value(ROW_FILTER)];
  for (let k = ROW_FILTER; k < profile.count - ROW_FILTER - 1; k++) {
    const after = value(k + 1);
    // Among the peaks, nearer the middle counts more, so that a second edge does not catch the row. The weight must
    // not move the peak itself: that would pull every centre inwards.
    const counted = here * (1 - 0.7 * (Math.abs(k - middle) / middle));
    if (here >= before && here >= after && counted > most) {
      most = counted;
      best = k;
    }
    [before, here] = [here, after];
  }
  if (best <= ROW_FILTER || best >= profile.count - ROW_FILTER - 1) return null;
  const [a, b, c] = [value(best - 1), value(best), value(best + 1)];
  const curvature = a - 2 * b + c;
  const fraction = curvature < 0 ? Math.max(-1, Math.min(1, (a - c) / (2 * curvature))) : 0;
  return offsetOf(profile, best + fraction);
}
