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
 * least. `of`: what is decided is a radius, while its mate and the clearance are told across it. Null where something of it is
 * missing.
 */
export function fitFormula(
  { by, mate, side, clearance, grade }: Fit,
  of: 'across' | 'radius' = 'across',
): string | null {
  const [size, play, band] = [mate.trim(), clearance.trim(), grade.trim()];
  if (!size) return null;
  // What goes with a round is measured across it, and a radius is half of that.
  const halved = (across: string) => (of === 'radius' ? `(${across}) / 2` : across);
  if (by === 'class') return band ? halved(`${bracketed(size)} ${band}`) : null;
  if (!play) return null;
  return halved(side === 'hole' ? `most(${size}) + ${bracketed(play)}` : `least(${size}) - ${bracketed(play)}`);
}
