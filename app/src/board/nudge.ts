import type { PicturePoint } from '@steady-moth/core/calibration';
import type { PictureMap } from '@steady-moth/core/sketch';
import { arrowWay } from '../frames/place';
import type { ArrowStep } from '../session/sessionStore';

/** Where an arrow key puts a point: along the picture's rows by a step in px, along the part's axes by one in mm. */
export function nudged(mapper: PictureMap, from: PicturePoint, step: ArrowStep, key: string): PicturePoint | null {
  const way = arrowWay(key);
  if (!way) return null;
  if (step.unit === 'px') return { uPx: from.uPx + way.x * step.size, vPx: from.vPx + way.y * step.size };
  const place = mapper.toPlace(from);
  // Up on screen is up on the part.
  return place && mapper.toPicture({ x: place.x + way.x * step.size, y: place.y - way.y * step.size });
}
