import type { Agreement, BowedEdge, RulerWidth } from '@steady-moth/core/calibration';
import type { PickRecord, ReferenceRecord, SheetRecord } from '@steady-moth/core/job';
import type { Advice, Certainty, Contradiction, JoinAdvice } from '@steady-moth/core/job/calibrated';
import { fixed, type LengthUnit, writeLength } from '@steady-moth/core/units';

/** A figure and its ± never break across lines. */
const NBSP = '\u00a0';

/** What a kind of reference is called on the slip. */
export const REFERENCE_WORDS: Record<ReferenceRecord['kind'], string> = {
  'known-length': 'Known length',
  disc: 'Coin',
  sheet: 'Sheet',
  grid: 'Grid',
  'square-lines': 'Square lines',
  'equal-lengths': 'Equal lengths',
  'turned-diameter': 'Known diameter',
};

/** What a disagreement makes one ask of each kind. */
const ASKED: Record<ReferenceRecord['kind'], string> = {
  'known-length': 'is the figure right, and do both lie at the heights given?',
  disc: 'is it another coin, or does it lie at another height?',
  sheet: 'is it another sheet, or cut or curled?',
  grid: 'is its pitch right, and does it lie flat?',
  'square-lines': 'are they really square to each other?',
  'equal-lengths': 'are they really equal?',
  'turned-diameter': 'was it measured there, and does the axis lie at the height given?',
};

/** What the other references say of one, in words. */
export function agreementSentence(
  found: Agreement | null,
  unit: LengthUnit,
  kind: ReferenceRecord['kind'] = 'known-length',
  /** What it was held against. */
  by: 'the rest' | 'the stated scale' = 'the rest',
): string {
  if (!found) return '';
  const spread = writeLength(0, found.plusMinusMm, unit).plusMinus;
  const off = writeLength(found.deviationMm, found.plusMinusMm, unit).value;
  const sign = found.deviationMm > 0 ? '+' : '';
  const figures = `${sign}${off}${NBSP}±${NBSP}${spread}`;
  if (found.fits) return `agrees with ${by}: ${figures}`;
  if (kind === 'square-lines' || kind === 'equal-lengths')
    return `the rest finds them off by ${figures}: ${ASKED[kind]}`;
  const share = fixed(Math.abs(100 * found.deviationShare), 1);
  const wrongUnit = unitSlip(1 + found.deviationShare);
  const finds = by === 'the rest' ? 'the rest finds it' : 'by the stated scale it is';
  return `${finds} ${share} % ${found.deviationMm > 0 ? 'larger' : 'smaller'} (${figures}): ${wrongUnit || ASKED[kind]}`;
}

/** How wide a ruler is by all else, or whether that is what was measured. */
export function widthSentence(
  width: RulerWidth | null,
  isMeasured: boolean,
  unit: LengthUnit,
): { words: string; doubtful: boolean } {
  if (!width) return { words: '', doubtful: false };
  const { found, measured } = width;
  const { value, plusMinus } = writeLength(found.value, found.plusMinus, unit);
  const figures = `${value}${NBSP}±${NBSP}${plusMinus}${NBSP}${unit}`;
  if (!isMeasured || !measured) return { words: `The rest gives ${figures}.`, doubtful: false };
  if (measured.fits) return { words: `Agrees with all else, which makes it ${figures}.`, doubtful: false };
  const asked = unitSlip(1 + measured.deviationShare) || 'was it measured over both edges that are drawn?';
  const words = `The rest gives ${figures}: ${asked} So far off it counts for little.`;
  return { words, doubtful: true };
}

const JOIN_WHAT: Record<JoinAdvice['options'][number]['what'], (name: string) => string> = {
  point: () => 'one more common point, as far from the others as both pictures reach,',
  length: (name) => `a known length across ${name}`,
  width: () => 'measuring the width of each ruler, from one long edge to the other, with a caliper',
};

/** What would make joined pictures hold better, with the figures. */
export function joinAdviceSentence({ picture, options }: JoinAdvice, unit: LengthUnit, nameOf: NameOf): string {
  const say = (mm: number) => `±${NBSP}${writeLength(0, mm, unit).plusMinus}${NBSP}${unit}`;
  const parts = options.map((o) => `${JOIN_WHAT[o.what](nameOf(picture))} would bring that to ${say(o.wouldBeMm)}`);
  const said = parts.join('; ');
  return `${said.charAt(0).toUpperCase()}${said.slice(1)}.`;
}

type NameOf = (picture: string) => string;

/** Which edges of a sheet are not straight, named as they lie in the picture. */
export function curlSentence({ edges }: SheetRecord, bowed: readonly BowedEdge[], unit: LengthUnit): string {
  const mean = (picks: readonly PickRecord[]): [number, number] => [
    picks.reduce((sum, p) => sum + p.uPx, 0) / picks.length,
    picks.reduce((sum, p) => sum + p.vPx, 0) / picks.length,
  ];
  const [middleU, middleV] = mean(edges.flat());
  const parts = bowed.map(({ edge, outMm, plusMinusMm }) => {
    const [u, v] = mean(edges[edge]!);
    const upright = Math.abs(v - middleV) > Math.abs(u - middleU);
    const side = upright ? (v < middleV ? 'upper' : 'lower') : u < middleU ? 'left' : 'right';
    const { value, plusMinus } = writeLength(Math.abs(outMm), plusMinusMm, unit);
    return `${side} edge ${outMm > 0 ? 'bulges out' : 'is hollow'} by ${value}${NBSP}±${NBSP}${plusMinus}${NBSP}${unit}`;
  });
  if (parts.length === 0) return '';
  return `Its ${parts.join(', its ')}: is it curled? Press it flat and photograph it anew, or it will mislead here.`;
}

/** A length that is off by the inch was typed in the wrong unit. */
function unitSlip(foundOverKnown: number): string {
  if (Math.abs(foundOverKnown * 25.4 - 1) < 0.1) return 'as typed it is 25.4 times too large: is it in millimetres?';
  if (Math.abs(foundOverKnown / 25.4 - 1) < 0.1) return 'as typed it is 25.4 times too small: is it in inches?';
  return '';
}

/** A camera so near or so far that the only length known must be in the other unit; empty where it may be right. */
export function distanceDoubt(cameraHeightMm: number): string {
  if (cameraHeightMm < NEAREST_MM)
    return `With that length the lens would stand ${fixed(cameraHeightMm, 0)} mm above the table: is it in inches?`;
  if (cameraHeightMm > FURTHEST_MM)
    return `With that length the lens would stand ${fixed(cameraHeightMm / 1000, 1)} m above the table: is it in millimetres?`;
  return '';
}

/** No phone focuses nearer, and nobody photographs a part from further off, mm. */
const NEAREST_MM = 35;
const FURTHEST_MM = 4500;

/** What it means that known lengths contradict each other: no ± covers that. */
export function contradictionSentence({ share, scalesDiffer, statedAlone }: Contradiction): string {
  const by = `${fixed(100 * share, share < 0.01 ? 2 : share < 0.1 ? 1 : 0)} %`;
  if (statedAlone)
    return `What is known and the scale that the file states contradict each other by up to ${by}. Scanners state a scale, few keep it: ignore it if you are sure of what was typed.`;
  const explained =
    scalesDiffer === null
      ? 'Until that is settled no figure here is better than that: check what was typed, and where the picks lie.'
      : `They would fit if the scale along Y were ${fixed(100 * Math.abs(scalesDiffer), 1)} % ${scalesDiffer > 0 ? 'larger' : 'smaller'} than that along X, as copies and faxes have it.`;
  return `The known lengths contradict each other by up to ${by}. ${explained}`;
}

/** How good 100 mm are, and where the ± comes from when it is the tilt. */
export function verdictSentence({ hundred }: Certainty, unit: LengthUnit): string {
  if (!hundred) return 'The middle of the picture has no place on this plane: the camera would look past the horizon.';
  const per = unit === 'in' ? 4 / (100 / 25.4) : 1;
  const say = (mm: number) => `±${NBSP}${writeLength(0, mm * per, unit).plusMinus}${NBSP}${unit}`;
  const span = unit === 'in' ? '4 in' : '100 mm';
  const [x, y] = [say(hundred.alongX), say(hundred.alongY)];
  return x === y
    ? `${span} in the middle are good to ${x}.`
    : `${span} in the middle are good to ${x} along X and ${y} along Y.`;
}

const WHAT: Record<Advice['options'][number]['what'], string> = {
  across: 'a known length across this one, on the far side of the part',
  opposite: 'two known lengths, one across and one on the opposite side',
  'flat-on': 'knowing that the camera was held flat-on',
  width: 'measuring the width of the ruler, from one long edge to the other, with a caliper',
  measured: 'measuring the paper, or ten pitches of the grid, with a caliper',
  camera: 'checking the camera once with the printed grid',
};

/** Why the ± is large, and what would make it smaller, with the figures. */
export function adviceSentence(advice: Advice, unit: LengthUnit, seesTilt: boolean): string {
  const say = (mm: number) => `±${NBSP}${writeLength(0, mm, unit).plusMinus}${NBSP}${unit}`;
  const [best] = [...advice.options].sort((a, b) => a.wouldBeMm - b.wouldBeMm);
  const what = best ? `: ${WHAT[best.what]} would bring that to ${say(best.wouldBeMm)}` : '';
  const why = seesTilt ? '' : ', since these readings do not see how the camera was tilted';
  return `In the corners it is ${say(advice.nowMm)}${why}${what}.`;
}
