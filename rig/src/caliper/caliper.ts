/** A simulated digital caliper that types like a keyboard: what such a caliper sends when its button is pressed. */
export interface Caliper {
  /** σ of the touch, mm. */
  touchMm: number;
  /** Steps of its display, mm. */
  stepMm: number;
  unit: 'mm' | 'in';
}

export const WORKSHOP_CALIPER: Caliper = { touchMm: 0.01, stepMm: 0.01, unit: 'mm' };

/** Keys pressed for a length, one after the other, ended by Enter. `normal` draws the touch's scatter. */
export function keysOf(lengthMm: number, { touchMm, stepMm, unit }: Caliper, normal: () => number): string[] {
  const felt = lengthMm + touchMm * normal();
  const shown = Math.round(felt / stepMm) * stepMm;
  const text = unit === 'mm' ? shown.toFixed(2) : (shown / 25.4).toFixed(4);
  return [...text, 'Enter'];
}
