import { CAMERA_SIZE } from './camera';
import { RULER_UNKNOWNS } from './strokes';
import type { TruingInput } from './truingInput';
import { type PlaneId, TABLE, type YardstickId } from './yardstick';

/** Which parameter stands where: the camera's eight, then the heights that are not known exactly. */
export interface Unknowns {
  size: number;
  /** Index of a plane's height; planes known exactly have none. */
  heights: Record<PlaneId, number | undefined>;
  /** Index of the first of a ruler's own unknowns, for those whose strokes are observed. */
  rulers: Record<YardstickId, number | undefined>;
  /** Height of a plane, estimated or fixed, mm. */
  heightOf(parameters: ArrayLike<number>, plane: PlaneId): number;
}

export function layOutUnknowns({ planes, yardsticks }: Pick<TruingInput, 'planes' | 'yardsticks'>): Unknowns {
  let size: number = CAMERA_SIZE;
  const heights: Unknowns['heights'] = {};
  const fixed: Record<PlaneId, number> = { [TABLE.id]: TABLE.heightMm };
  for (const plane of planes) {
    fixed[plane.id] = plane.heightMm;
    if (plane.plusMinusMm > 0) heights[plane.id] = size++;
  }
  const rulers: Unknowns['rulers'] = {};
  for (const y of yardsticks) {
    if (!y.strokes) continue;
    rulers[y.id] = size;
    size += RULER_UNKNOWNS;
  }
  return {
    size,
    heights,
    rulers,
    heightOf(parameters, plane) {
      const index = heights[plane];
      return index === undefined ? fixed[plane] : parameters[index];
    },
  };
}
