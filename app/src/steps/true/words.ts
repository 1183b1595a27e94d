import type { BowedEdge, RulerWidth } from '@steady-moth/core/calibration';
import type { PickRecord, SheetRecord } from '@steady-moth/core/job';
import type { Advice, Certainty, Contradiction, JoinAdvice } from '@steady-moth/core/job/calibrated';
import { unitSlip } from '@steady-moth/core/say';
import { fixed, type LengthUnit, writeLength } from '@steady-moth/core/units';

/** A figure and its ± never break across lines. */
const NBSP = '\u00a0';

/** How wide a ruler is by everything else that is known, or whether the measured width agrees. */
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
