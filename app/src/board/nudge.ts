import type { PicturePoint } from '@steady-moth/core/calibration';
import type { BoardMapper } from '../frames/boardMap';
import type { ArrowStep } from '../session/benchStore';

const WAYS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Where an arrow key puts a point: along the picture's rows by a step in px, along the board's axes by one in mm. */
export function nudged(mapper: BoardMapper, from: PicturePoint, step: ArrowStep, key: string): PicturePoint | null {
  const way = WAYS[key];
  if (!way) return null;
  if (step.unit === 'px') return { uPx: from.uPx + way[0] * step.size, vPx: from.vPx + way[1] * step.size };
  const place = mapper.toBoard(from);
  return place && mapper.toPicture({ x: place.x + way[0] * step.size, y: place.y + way[1] * step.size });
}
