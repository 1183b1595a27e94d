/** How a size shall go with another one. */
export interface Fit {
  by: 'clearance' | 'class';
  /** What goes with it as it was measured, with its ±; or the size whose class it is. A formula. */
  mate: string;
  /** Whether the size encloses its mate, or goes into it. */
  side: 'hole' | 'peg';
  clearance: string;
  /** Tolerance class of ISO 286. */
  grade: string;
}

/** Whatever is more than one figure or name stands in brackets. */
const bracketed = (text: string): string => (/^[\w.,]+$/.test(text) ? text : `(${text})`);

/**
 * The formula for it: a hole as large as its mate may be at most and larger by the clearance, a peg as small as it may be at
 * least. Null where something of it is missing.
 */
export function fitFormula({ by, mate, side, clearance, grade }: Fit): string | null {
  const [size, play, band] = [mate.trim(), clearance.trim(), grade.trim()];
  if (!size) return null;
  if (by === 'class') return band ? `${bracketed(size)} ${band}` : null;
  if (!play) return null;
  return side === 'hole' ? `most(${size}) + ${bracketed(play)}` : `least(${size}) - ${bracketed(play)}`;
}
