/**
 * How a path with curves in it is written: its lines and arcs as they are with its curves as splines between them, all of it as
 * lines and arcs within a tolerance, or as one spline.
 */
export const DXF_CURVES = ['kept', 'arcs', 'one'] as const;
export type DxfCurves = (typeof DXF_CURVES)[number];

export interface DxfOptions {
  curves: DxfCurves;
  /** How far arcs may lie from the curves that they stand for, mm. */
  toleranceMm: number;
}

export const DXF_USUAL: DxfOptions = { curves: 'kept', toleranceMm: 0.01 };

/** Finer than that no machine moves, coarser is seen, mm. */
export const DXF_TOLERANCE = { least: 0.001, most: 1 } as const;
