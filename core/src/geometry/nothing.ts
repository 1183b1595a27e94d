/*
 * What is too small to be anything. Sums of doubles over a part of some metres are uncertain by about 1e-12 mm, and nobody makes
 * a thousandth of a millimetre: what lies between is noise of computing.
 */

/** A piece that is shorter is none, mm. */
export const NO_LENGTH_MM = 1e-9;
/** Handles that are shorter say no way, mm. */
export const NO_HANDLE_MM = 1e-12;
/** A share of a piece that is smaller is none. */
export const NO_SHARE = 1e-9;
/** A turn that is smaller is none, rad. */
export const NO_TURN_RAD = 1e-9;
/** Sine of the angle between two ways below which where they cross cannot be worked out. */
export const NO_CROSSING_SINE = 1e-12;
/** Squares that differ by a smaller share of the larger one are the same: what touches is not missed for rounding. */
export const SAME_SQUARE_SHARE = 1e-9;
/** Figures of a matrix that differ by a smaller share come of rounding in the file: a circle stays a circle under it. */
export const ROUND_SHARE = 1e-6;
