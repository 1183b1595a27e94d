import type { GroundOfRim } from '@steady-moth/core/edge';
import { type JobAction, movePicks } from '@steady-moth/core/job';
import { observedOf } from '@steady-moth/core/sketch';
import { circleOf, rimOf, type Setting } from '@steady-moth/core/tracing';
import type { BoardFrame } from '../../frames/boardMap';
import type { DrawnPath } from '../../part/useDrawn';
import { askQuestion } from '../../session/questions';
import { traceQuestions } from './questions';

/**
 * Lets a circle settle on its edge once more, now that somebody says on which side of its rim the ground lies.
 * Out: the change, and the radius that comes of it in the board's unit; null where no round edge is found.
 */
export async function settledAgain(
  own: DrawnPath,
  ground: Exclude<GroundOfRim, null>,
  frame: BoardFrame,
  setting: Pick<Setting, 'picture' | 'mapper' | 'newId'>,
): Promise<{ action: JobAction; radius: number } | null> {
  const circle = circleOf(own);
  if (!circle) return null;
  const asked = await askQuestion(traceQuestions(setting.picture, frame).circle, {
    kind: 'circle',
    circle,
    sigmaPx: 0,
    ground,
  });
  const found = asked?.snapped ?? null;
  const rim = found && rimOf(found, 0, found, setting);
  const ids = observedOf(own.sketch, own.path);
  if (!found || !rim || rim.length !== ids.length) return null;
  const moves = Object.fromEntries(ids.map((id, k) => [id, rim[k]!.at]));
  const action = movePicks(`settle as a ${ground === 'inside' ? 'hole' : 'disc'}`, moves);
  return { action, radius: found.radius };
}
