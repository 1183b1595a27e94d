import { CAMERA_SIZE } from '../model/camera';
import { kindOf } from '../reference/kinds';
import { type PlaneId, type ReferenceId, TABLE } from '../reference/reference';
import type { CalibrationInput } from './calibrationInput';

/** Which parameter stands where: the camera's eight, the heights that are not known exactly, the references' own. */
export interface Unknowns {
  size: number;
  /** Where the camera's eight stand. */
  camera: number[];
  /** Index of a plane's height; planes known exactly have none. */
  heights: Record<PlaneId, number | undefined>;
  /** Index of the first of a reference's own unknowns. */
  own: Record<ReferenceId, number>;
  /** Height of a plane, estimated or fixed, mm. */
  heightOf(parameters: ArrayLike<number>, plane: PlaneId): number;
}

export function layOutUnknowns({ planes, references }: Pick<CalibrationInput, 'planes' | 'references'>): Unknowns {
  let size: number = CAMERA_SIZE;
  const heights: Unknowns['heights'] = {};
  const fixed: Record<PlaneId, number> = { [TABLE.id]: TABLE.heightMm };
  for (const plane of planes) {
    fixed[plane.id] = plane.heightMm;
    if (plane.plusMinusMm > 0) heights[plane.id] = size++;
  }
  const own: Unknowns['own'] = {};
  for (const y of references) {
    own[y.id] = size;
    size += kindOf(y).unknowns(y);
  }
  return {
    size,
    camera: Array.from({ length: CAMERA_SIZE }, (_, k) => k),
    heights,
    own,
    heightOf(parameters, plane) {
      const index = heights[plane];
      return index === undefined ? fixed[plane]! : parameters[index]!;
    },
  };
}
