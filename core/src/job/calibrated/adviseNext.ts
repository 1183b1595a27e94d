import {
  CAMERA,
  type Calibration,
  type CalibrationInput,
  CHECKED_SIGMAS,
  calibrate,
  distance,
  figureOf,
  focusShift,
  mmPerPx,
  type PictureFacts,
  type PlaneMap,
  type PlanePick,
  type Reference,
  type RulerWidth,
  type SavedCamera,
} from '../../calibration';
import type { Picture, ReferenceRecord } from '../document/document';
import { recordKindOf } from '../reference';
import { withWidths } from './withWidths';

/** What to add so that the ± becomes smaller, each with the ± of 100 mm that it would bring. */
export interface Advice {
  nowMm: number;
  options: { what: 'across' | 'opposite' | 'flat-on' | 'width' | 'measured' | 'camera'; wouldBeMm: number }[];
}

/** Shares of the picture's size at which a further known length is tried out. */
const NEAR_RIM = 0.2;

/**
 * Tries what a further known length would do, by adding one that agrees with the present estimate, and tells what
 * helps. Null when nothing would make the ± of 100 mm a third smaller.
 */
export function adviseNext(
  said: Pick<Picture, 'facts' | 'calibration'>,
  input: CalibrationInput,
  calibration: Calibration,
  map: PlaneMap,
  widths: Readonly<Record<string, RulerWidth>>,
): Advice | null {
  const first = input.references[0];
  // A page is not tilted: what was said of its one or two scales is all that a further length could add.
  if (input.lens === 'page' || !first) return null;
  const nowMm = worstHundred(calibration, said, map);
  const { widthPx: w, heightPx: h } = said.facts;
  const box = boxOf(first);
  const flat = box.right - box.left > box.bottom - box.top;
  const [low, high] = [NEAR_RIM, 1 - NEAR_RIM];
  const nearTop = (box.top + box.bottom) / 2 < h / 2;
  const nearLeft = (box.left + box.right) / 2 < w / 2;
  const across: Span = flat
    ? [nearLeft ? high * w : low * w, low * h, nearLeft ? high * w : low * w, high * h]
    : [low * w, nearTop ? high * h : low * h, high * w, nearTop ? high * h : low * h];
  const far: Span = flat
    ? [low * w, nearTop ? high * h : low * h, high * w, nearTop ? high * h : low * h]
    : [nearLeft ? high * w : low * w, low * h, nearLeft ? high * w : low * w, high * h];
  const options: Advice['options'] = [];
  const consider = (what: Advice['options'][number]['what'], changed: CalibrationInput) => {
    const result = calibrate(changed, { draws: 150 });
    if (!result.ok) return;
    const wouldBeMm = worstHundred(result.calibration, said, map);
    if (wouldBeMm < nowMm * WORTH_IT) options.push({ what, wouldBeMm });
  };
  const plus = (...ends: Span[]): CalibrationInput => ({
    ...input,
    references: [...input.references, ...ends.flatMap((e, k) => virtual(calibration, e, k))],
  });
  consider('across', plus(across));
  if (options.length === 0 || options[0]!.wouldBeMm > nowMm / 4) consider('opposite', plus(across, far));
  if (input.hold === 'free') consider('flat-on', { ...input, hold: 'flat-on' });
  const wide = withWidths(input.references, widths);
  if (wide) consider('width', { ...input, references: wide });
  const measured = input.references.map((y) => {
    if (y.kind === 'sheet' && y.plusMinusMm >= UNMEASURED_MM) return { ...y, plusMinusMm: 0.1 };
    return y.kind === 'grid' && y.plusMinusShare === null ? { ...y, plusMinusShare: CHECKED_PITCH } : y;
  });
  if (measured.some((y, k) => y !== input.references[k])) consider('measured', { ...input, references: measured });
  if (!input.saved && calibration.draws === null)
    consider('camera', { ...input, saved: asChecked(calibration, said.facts) });
  // The most helpful first, and no more than a person reads.
  options.sort((p, q) => p.wouldBeMm - q.wouldBeMm);
  return options.length ? { nowMm, options: options.slice(0, MOST_OPTIONS) } : null;
}

const MOST_OPTIONS = 3;
/** Paper of which nobody measured the sides, mm. */
const UNMEASURED_MM = 0.5;
/** A pitch that was checked over ten of them, as a share. */
const CHECKED_PITCH = 5e-4;

/** The camera as it was found, known as well as a checked one is. */
function asChecked(calibration: Calibration, { focalMm }: PictureFacts): SavedCamera {
  const { parameters } = calibration;
  const mean = [CAMERA.lnC, CAMERA.cx, CAMERA.cy, CAMERA.k1, CAMERA.k2].map((k) => parameters[k]!);
  mean[0]! += focusShift(focalMm, parameters[CAMERA.lnD]!).shift;
  return { mean, covariance: Array.from({ length: 25 }, (_, n) => (n % 6 === 0 ? CHECKED_SIGMAS[n / 6]! ** 2 : 0)) };
}

/** What of the picture a reference's picks span, px. */
function boxOf(y: Reference): { left: number; right: number; top: number; bottom: number } {
  const record = { ...y, typed: '' } as ReferenceRecord;
  const kind = recordKindOf(record);
  const spans = kind.spans(record).flatMap(({ from, to }) => [from, to]);
  const picks = spans.length ? spans : kind.places(record);
  const [u, v] = [picks.map((p) => p.uPx), picks.map((p) => p.vPx)];
  return { left: Math.min(...u), right: Math.max(...u), top: Math.min(...v), bottom: Math.max(...v) };
}

/** Advice that does not bring the ± below this share of the present one is not worth a reading. */
const WORTH_IT = 0.67;

/** Two places of a picture: u, v and u, v, px. */
type Span = readonly [number, number, number, number];

function virtual(calibration: Calibration, [u0, v0, u1, v1]: Span, k: number): CalibrationInput['references'] {
  const pick = (uPx: number, vPx: number): PlanePick => ({ uPx, vPx, sigmaPx: 0.2, plane: 'face' });
  const found = figureOf(calibration, [pick(u0, v0), pick(u1, v1)], distance);
  if (!found) return [];
  return [
    {
      id: `tried${k}`,
      kind: 'known-length',
      plane: 'face',
      from: pick(u0, v0),
      to: pick(u1, v1),
      lengthMm: found.value,
      plusMinusMm: 0.05,
    },
  ];
}

/** ± of 100 mm along and across at five places of the picture: the worst of them. */
function worstHundred(calibration: Calibration, { facts }: Pick<Picture, 'facts'>, map: PlaneMap): number {
  const span = 25 / mmPerPx(map);
  let worst = 0;
  for (const [x, y] of [
    [0.5, 0.5],
    [0.25, 0.3],
    [0.75, 0.3],
    [0.25, 0.7],
    [0.75, 0.7],
  ] as const)
    for (const [du, dv] of [
      [span, 0],
      [0, span],
    ] as const) {
      const pick = (way: number): PlanePick => ({
        uPx: x * facts.widthPx + way * du,
        vPx: y * facts.heightPx + way * dv,
        sigmaPx: 0.1,
        plane: 'face',
      });
      const found = figureOf(calibration, [pick(-1), pick(1)], distance);
      if (found) worst = Math.max(worst, (100 * found.plusMinus) / found.value);
    }
  return worst;
}
