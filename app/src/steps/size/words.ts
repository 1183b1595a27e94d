import { type Constraint, type Dimension, isSigned } from '@steady-moth/core/sketch';

/** The small sign on the board: of ISO 1101 where it has one, else a word. */
export const SIGN: Record<Constraint['kind'], string> = {
  level: 'level',
  plumb: 'plumb',
  parallel: '∥',
  square: '⊥',
  tangent: 'tan',
  smooth: 'smooth',
  equal: '=',
  concentric: '◎',
  on: 'on',
  middle: 'mid',
  symmetric: '⌯',
  even: 'even',
  around: 'round',
  fixed: 'held',
};

/** Relations that hold several things alike, and share a letter. */
export const SHARED: ReadonlySet<Constraint['kind']> = new Set(['parallel', 'equal', 'concentric', 'even', 'around']);

const PREFIX: Partial<Record<Dimension['kind'], string>> = { diameter: 'Ø ', radius: 'R ', 'arc-length': '⌒ ' };

/** The sign before a figure (ISO 129-1); of a place from zero its axis. */
export const prefixOf = (dimension: Dimension): string =>
  dimension.kind === 'distance' && isSigned(dimension)
    ? `${dimension.along.toUpperCase()} `
    : (PREFIX[dimension.kind] ?? '');
