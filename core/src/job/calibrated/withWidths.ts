import { CALIPER, type Reference, type RulerWidth } from '../../calibration';

/** Rulers as if a caliper had found each as wide as all else makes it; null where none is left to be measured. */
export function withWidths(
  references: readonly Reference[],
  widths: Readonly<Record<string, RulerWidth>>,
): Reference[] | null {
  const wide = references.map((y): Reference => {
    const found = y.kind === 'known-length' && !y.width && widths[y.id]?.found;
    return found ? { ...y, width: { widthMm: found.value, plusMinusMm: CALIPER.plusMinusMm } } : y;
  });
  return wide.some((y, k) => y !== references[k]) ? wide : null;
}
