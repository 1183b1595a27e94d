import { CALIPER, type RulerWidth, type Yardstick } from '../../calibration';

/** Rulers as if a caliper had found each as wide as all else makes it; null where none is left to be measured. */
export function withWidths(
  yardsticks: readonly Yardstick[],
  widths: Readonly<Record<string, RulerWidth>>,
): Yardstick[] | null {
  const wide = yardsticks.map((y): Yardstick => {
    const found = y.kind === 'known-length' && !y.width && widths[y.id]?.found;
    return found ? { ...y, width: { widthMm: found.value, plusMinusMm: CALIPER.plusMinusMm } } : y;
  });
  return wide.some((y, k) => y !== yardsticks[k]) ? wide : null;
}
