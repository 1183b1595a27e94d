import { CAMERA_SIZE } from './camera';

/**
 * Where a world point is pictured, with its derivatives.
 * All arrays are owned by the caller and only written to.
 */
export interface Projection {
  /** u, v in px. */
  picture: Float64Array;
  /** 2 × 8, by the camera's parameters, row by row. */
  byCamera: Float64Array;
  /** 2 × 3, by x, y, z, row by row. */
  byPoint: Float64Array;
}

export function newProjection(): Projection {
  return { picture: new Float64Array(2), byCamera: new Float64Array(2 * CAMERA_SIZE), byPoint: new Float64Array(6) };
}
