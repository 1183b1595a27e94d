import type { GroundOfRim } from '@steady-moth/core/edge';
import type { Circle } from '@steady-moth/core/geometry';
import { type JobAction, movePicks } from '@steady-moth/core/job';
import { observationIn, observedOf } from '@steady-moth/core/sketch';
import type { BoardFace } from '../../frames/boardMap';
import type { Setting } from './change';
import { snapped } from './snapped';
import { rimOf } from './tools/circle';
import type { DrawnPath } from './useDrawn';

/** Whether a circle was settled on an edge of the picture on the board, as wide as it was seen, and may be once more. */
export function maySettle({ sketch, path, form, made }: DrawnPath, { picture }: Pick<Setting, 'picture'>): boolean {
  if (form?.kind !== 'circle' || made || picture.kind === 'drawing') return false;
  const curve = path.uses[0]?.curve;
  const isTyped = Object.values(sketch.dimensions).some(
    ({ origin, refs }) => origin.kind === 'decided' && refs.some((r) => r.id === curve),
  );
  if (isTyped) return false;
  const seen = observedOf(sketch, path).map((id) => observationIn(sketch, id));
  const isOnEdge = (at: (typeof seen)[number]) =>
    at?.snappedTo === 'edge' && at.plane === 'face' && at.picture === picture.id;
  return seen.length === 3 && seen.every(isOnEdge);
}

/** A path's circle; null where it is none. */
export const circleOf = ({ form }: DrawnPath): Circle | null =>
  form?.kind === 'circle' ? { centre: form.centre, radius: form.radius } : null;

/**
 * Lets a circle settle on its edge once more, now that somebody says on which side of its rim the ground lies.
 * Out: the change, and the radius that comes of it in the board's unit; null where no round edge is found.
 */
export async function settledAgain(
  own: DrawnPath,
  ground: Exclude<GroundOfRim, null>,
  face: BoardFace,
  setting: Pick<Setting, 'picture' | 'mapper' | 'newId'>,
): Promise<{ action: JobAction; radius: number } | null> {
  const circle = circleOf(own);
  if (!circle) return null;
  const { snapped: found } = await snapped(setting.picture, face, { circle, sigmaPx: 0, ground });
  const rim = found && rimOf(found, 0, found, setting);
  const ids = observedOf(own.sketch, own.path);
  if (!found || !rim || rim.length !== ids.length) return null;
  const moves = Object.fromEntries(ids.map((id, k) => [id, rim[k]!.at]));
  const action = movePicks(`settle as a ${ground === 'inside' ? 'hole' : 'disc'}`, moves);
  return { action, radius: found.radius };
}
