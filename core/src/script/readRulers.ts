import { findRuler } from '../find';
import type { Pixels } from '../raster';
import { type ReadText, type RulerFigures, readRulerFigures } from '../read';
import type { ScriptYardstick } from './request';

/** Whether the figures of a ruler would say how long it is: it is found by a click, and nobody said its length. */
export const asksForFigures = ({ kind, click, length }: ScriptYardstick): boolean =>
  kind === 'ruler' && click !== undefined && length === undefined;

/**
 * Yardsticks of a script in which rulers that are found by a click get what their printed figures say lies between their first and
 * their last stroke, as both readings: `0 to 15 cm`. Where figures contradict the strokes or each other, or leave their unit open,
 * nothing is said for them: the strokes decide, or refuse.
 */
export async function withRulersRead(
  yardsticks: readonly ScriptYardstick[],
  pixels: Pixels,
  read: ReadText,
): Promise<ScriptYardstick[]> {
  const all: ScriptYardstick[] = [];
  for (const y of yardsticks) {
    const found = asksForFigures(y) ? findRuler(pixels, { uPx: y.click![0], vPx: y.click![1] }) : null;
    const said = found?.ok ? await readRulerFigures(pixels, found, read) : null;
    all.push(said && !said.doubt && !said.orUnit ? { ...y, length: readingsText(said) } : y);
  }
  return all;
}

const readingsText = ({ first, last, unit }: RulerFigures): string => {
  const text = (reading: number) => String(Number(reading.toFixed(4)));
  return `${text(Math.min(first, last))} to ${text(Math.max(first, last))} ${unit}`;
};
