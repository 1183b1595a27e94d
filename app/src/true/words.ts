import type { Agreement } from '@steady-moth/core/truing';
import { fixed, type LengthUnit, writeLength } from '@steady-moth/core/units';
import type { Advice } from '../workers/adviseNext';
import type { Certainty } from '../workers/truing.worker';

/** A figure and its ± never break across lines. */
const NBSP = '\u00a0';

/** What the other known lengths say of one, in words. */
export function agreementSentence(found: Agreement | null, unit: LengthUnit): string {
  if (!found) return '';
  const spread = writeLength(0, found.plusMinusMm, unit).plusMinus;
  const off = writeLength(found.deviationMm, found.plusMinusMm, unit).value;
  const sign = found.deviationMm > 0 ? '+' : '';
  if (found.fits) return `agrees with the rest: ${sign}${off}${NBSP}±${NBSP}${spread}`;
  const share = fixed(Math.abs(100 * found.deviationShare), 1);
  return `the rest finds it ${share} % ${found.deviationMm > 0 ? 'longer' : 'shorter'} (${sign}${off}${NBSP}±${NBSP}${spread}): is the figure right, and do both lie at the heights given?`;
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
    : `${span} in the middle are good to ${x} across and ${y} up.`;
}

const WHAT: Record<Advice['options'][number]['what'], string> = {
  across: 'a known length across this one, on the far side of the part',
  opposite: 'two known lengths, one across and one on the opposite side',
  'flat-on': 'knowing that the camera was held flat-on',
};

/** Why the ± is large, and what would make it smaller, with the figures. */
export function adviceSentence(advice: Advice, unit: LengthUnit, seesTilt: boolean): string {
  const say = (mm: number) => `±${NBSP}${writeLength(0, mm, unit).plusMinus}${NBSP}${unit}`;
  const options = advice.options.map((o) => `${WHAT[o.what]} would bring that to ${say(o.wouldBeMm)}`);
  const why = seesTilt ? '' : ', since these readings do not see how the camera was tilted';
  return `In the corners it is ${say(advice.nowMm)}${why}: ${options.join('; ')}.`;
}
