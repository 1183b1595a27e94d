import { type BandFit, type FittedStep, fitBand, SAMPLES_PER_PIXEL } from './fitBand';
import type { Parabola } from './fitCurve';
import type { Profile } from './profile';
import { LEAST_GAP_PX, type Step, stepsAlong } from './steps';

/** A step is looked for inside another where the misfit of one alone could move it by this, px. */
const SUSPECT_PX = 0.05;
/** Two steps are believed where they lower the misfit by at least this much more than noise would, in units of its variance. */
const BELIEVED = 60;
/** Neither of two steps in one may be weaker than this share of the other. */
const LEAST_HALF = 0.3;
/** Two steps in one must each be known to this share of their gap, σ. */
const SURE_SHARE = 1 / 6;
/** A lens in focus makes no step softer than this, σ px. */
export const SOFTEST_PX = 2.3;

/**
 * The edge along a curve, every other edge close beside it fitted along with it: those that the light shows apart, and
 * one that hides in it where two steps explain the light beyond doubt and one does not.
 *
 * In: rows chosen, the curve followed, how far beside it to look, px, the least rise that counts, the offset that was
 * pointed at, and whether to look for a hidden one, which costs three more fits; out: the fit, turned
 * to the step nearest to that offset.
 */
export function fitEdge(
  profile: Profile,
  chosen: readonly number[],
  reachPx: number,
  curve: Parabola,
  { leastRise, meantPx, splits }: { leastRise: number; meantPx: number; splits: boolean },
): BandFit | null {
  const near = stepsAlong(profile, chosen, curve.at, leastRise).filter(
    (s) => Math.abs(s.offsetPx) < reachPx + BESIDE_REACH_PX,
  );
  const plain = fitBand(profile, chosen, 'edge', reachPx, curve, near.length > 1 ? near : []);
  if (!plain) return null;
  const best =
    splits && plain.structurePx > SUSPECT_PX ? (split(profile, chosen, reachPx, curve, plain) ?? plain) : plain;
  return turnedTo(best, meantPx);
}

/** A step further off than the fit reaches still lifts its end by its blur, px. */
const BESIDE_REACH_PX = 2.5;

function split(
  profile: Profile,
  chosen: readonly number[],
  reachPx: number,
  curve: Parabola,
  plain: BandFit,
): BandFit | null {
  const at = plain.offset - curve.offset;
  const half = Math.max(LEAST_GAP_PX / 2, plain.blurPx);
  const others: Step[] = plain.beside.map((s) => ({ offsetPx: s.offset - curve.offset, rise: s.contrast }));
  const trials: Step[][] = [
    // One soft step that is two of one direction; or a step with a counter-step on either side.
    [step(at - half, plain.contrast / 2), step(at + half, plain.contrast / 2)],
    [step(at, plain.contrast), step(at + 2 * half, -plain.contrast / 2)],
    [step(at, plain.contrast), step(at - 2 * half, -plain.contrast / 2)],
  ];
  /** As `isBelieved` asks for: most trials are far from it, and need not be followed to their end. */
  const believedSquares = (samples: number): number =>
    (plain.squares * (samples / plain.samples)) / (1 + (BELIEVED * SAMPLES_PER_PIXEL) / samples);
  let best: BandFit | null = null;
  for (const trial of trials) {
    const fit = fitBand(profile, chosen, 'edge', reachPx, curve, [...trial, ...others], believedSquares);
    if (fit && isBelieved(fit, plain) && (!best || fit.squares / fit.samples < best.squares / best.samples)) best = fit;
  }
  return best;
}

const step = (offsetPx: number, rise: number): Step => ({ offsetPx, rise });

function isBelieved(fit: BandFit, plain: BandFit): boolean {
  const other = fit.beside[0]!;
  const gap = Math.abs(other.offset - fit.offset);
  const [weaker, stronger] = [fit.contrast, other.contrast].map(Math.abs).sort((a, b) => a - b) as [number, number];
  const variance = (fit.squares / fit.samples) * SAMPLES_PER_PIXEL;
  const gained = (plain.squares * (fit.samples / plain.samples) - fit.squares) / variance;
  return (
    gap >= LEAST_GAP_PX &&
    gained >= BELIEVED &&
    weaker >= LEAST_HALF * stronger &&
    Math.max(fit.blurPx, other.blurPx) <= SOFTEST_PX &&
    Math.max(fit.sigmaPx, other.sigmaPx) < gap * SURE_SHARE
  );
}

function turnedTo(fit: BandFit, meantPx: number): BandFit {
  const all: FittedStep[] = [fit, ...fit.beside];
  const own = all.reduce((a, b) => (Math.abs(b.offset - meantPx) < Math.abs(a.offset - meantPx) ? b : a));
  if (own === fit) return fit;
  const { offset, sigmaPx, blurPx, contrast } = own;
  const beside = all
    .filter((s) => s !== own)
    .map((s) => ({ offset: s.offset, sigmaPx: s.sigmaPx, blurPx: s.blurPx, contrast: s.contrast }));
  return { ...fit, offset, sigmaPx, blurPx, contrast, beside };
}
