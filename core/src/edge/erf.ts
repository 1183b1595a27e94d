/** Error function, absolute error below 1.5e-7 (Abramowitz & Stegun 7.1.26). */
export const erf = (z: number): number => erfFrom(z, Math.exp(-z * z));

/** The same where exp(−z²) is known already, which is most of its cost. */
export function erfFrom(z: number, bell: number): number {
  const t = 1 / (1 + 0.3275911 * Math.abs(z));
  const poly = ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t;
  const value = 1 - poly * bell;
  return z < 0 ? -value : value;
}
