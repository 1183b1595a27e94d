import { type Ellipse, fitEllipse } from '../../fit';
import type { Vec2 } from '../../geometry';

/** An edge that may be of the ellipse sought: where it is, and how much its voice counts, 0 to 1. */
interface Voice extends Vec2 {
  weight: number;
}

export interface EllipseSearch {
  /** By direction: of each the loudest voice near an ellipse counts alone. */
  directions: readonly (readonly Voice[])[];
  /** A voice counts within so far of the ellipse, px. */
  nearPx: number;
  /** Whether a voice counts the less the further off it lies, or fully all through. */
  fades: boolean;
  trials: number;
  /** Draws one of the places that an ellipse is laid through. */
  draw(): Vec2;
  /** Whether an ellipse is of the kind sought at all. */
  accepts(ellipse: Ellipse): boolean;
  /** Of two ellipses as well seen, which is meant: what the voices for one are multiplied by. */
  factor?(ellipse: Ellipse): number;
  /** What has to be bettered. */
  from?: Ellipse;
}

/** Places that a trial's ellipse is laid through: the fewest that the fit takes. */
const FEW = 6;

/**
 * The ellipse for which the most voices speak, of those through a few places drawn at random (RANSAC, Fischler & Bolles
 * 1981, voices weighed as in MLESAC, Torr & Zisserman 2000). Null where none is accepted. A trial is given up where all
 * the voices that are left would not carry it over the best: this changes nothing but what it costs.
 */
export function ellipseOfMost(search: EllipseSearch): Ellipse | null {
  const { trials, draw, accepts } = search;
  const poll = pollOf(search);
  let best = search.from ?? null;
  let most = best ? poll(best, 0) : 0;
  const few: Vec2[] = [];
  for (let trial = 0; trial < trials; trial++) {
    for (let k = 0; k < FEW; k++) few[k] = draw();
    const ellipse = fitEllipse(few);
    if (!ellipse || !accepts(ellipse)) continue;
    const merit = poll(ellipse, most);
    if (merit > most) {
      most = merit;
      best = ellipse;
    }
  }
  return best;
}

/** How much speaks for an ellipse, or something that is no more than `most` when it cannot be more than that. */
function pollOf({ directions, nearPx, fades, factor = () => 1 }: EllipseSearch) {
  const voices = directions.flat();
  const xs = Float64Array.from(voices, (v) => v.x);
  const ys = Float64Array.from(voices, (v) => v.y);
  const weights = Float64Array.from(voices, (v) => v.weight);
  const ends = new Int32Array(directions.length);
  // What is still to be had from a direction on.
  const left = new Float64Array(directions.length + 1);
  let end = 0;
  for (const [d, own] of directions.entries()) {
    end += own.length;
    ends[d] = end;
  }
  for (let d = directions.length - 1; d >= 0; d--)
    left[d] = left[d + 1]! + directions[d]!.reduce((loudest, v) => Math.max(loudest, v.weight), 0);
  return (ellipse: Ellipse, most: number): number => {
    const { x, y, a, b, turn } = ellipse;
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    const by = factor(ellipse);
    const wanted = most / by;
    let merit = 0;
    for (let d = 0, k = 0; d < ends.length; d++) {
      if (merit + left[d]! <= wanted) return most;
      let own = 0;
      for (; k < ends[d]!; k++) {
        // As `offEllipse`.
        const [dx, dy] = [xs[k]! - x, ys[k]! - y];
        const [u, v] = [(c * dx + s * dy) / a, (c * dy - s * dx) / b];
        const square = u * u + v * v;
        const slope = (u / a) * (u / a) + (v / b) * (v / b);
        const root = Math.sqrt(square);
        const off = slope > 0 ? ((root - 1) * root) / (Math.sqrt(slope) * nearPx) : -1;
        if (off <= -1 || off >= 1) continue;
        const voice = fades ? (1 - off * off) * weights[k]! : weights[k]!;
        if (voice > own) own = voice;
      }
      merit += own;
    }
    return merit * by;
  };
}
