import type { Calibration } from '../estimate/calibrate';
import type { PlaneId } from '../reference/reference';
import { distance, figureOf } from './figure';

/** ± of 100 mm over a picture. */
export interface PlusMinusMap {
  /** Middles of the cells, px. */
  uPx: number[];
  vPx: number[];
  /** Row by row from above: the larger of ± along the rows and across, mm; null where the plane is not seen. */
  mm: (number | null)[][];
}

const PLUS_MINUS_MAP = { columns: 12, rows: 9 } as const;

/** How good 100 mm are anywhere on a plane, measured with clear picks. */
export function plusMinusMap(
  calibration: Calibration,
  plane: PlaneId,
  { widthPx, heightPx }: { widthPx: number; heightPx: number },
  { columns, rows }: { columns: number; rows: number } = PLUS_MINUS_MAP,
): PlusMinusMap {
  const uPx = Array.from({ length: columns }, (_, k) => ((k + 0.5) * widthPx) / columns);
  const vPx = Array.from({ length: rows }, (_, k) => ((k + 0.5) * heightPx) / rows);
  // Half a cell each way: near enough to the place for its own ±, far enough that the picks' scatter is small.
  const half = Math.min(widthPx / columns, heightPx / rows) / 2;
  const at = (u: number, v: number) => ({ uPx: u, vPx: v, sigmaPx: 0.02, plane });
  const hundred = (u: number, v: number, du: number, dv: number): number | null => {
    const found = figureOf(calibration, [at(u - du, v - dv), at(u + du, v + dv)], distance);
    return found && found.value > 0 && Number.isFinite(found.plusMinus) ? (100 * found.plusMinus) / found.value : null;
  };
  const mm = vPx.map((v) =>
    uPx.map((u) => {
      const both = [hundred(u, v, half, 0), hundred(u, v, 0, half)];
      return both.includes(null) ? null : Math.max(...(both as number[]));
    }),
  );
  return { uPx, vPx, mm };
}
