import { fixed, type LengthUnit } from '../units';

/** A length as sentences have it: hundredths of a millimetre, or thousandths of an inch. */
export const sayLength = (mm: number, unit: LengthUnit): string =>
  unit === 'in' ? `${fixed(mm / 25.4, 3)} in` : `${fixed(mm, 2)} mm`;
