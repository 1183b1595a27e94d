import type { Picture } from '@steady-moth/core/job';
import { inkOf } from '../../board/inkOf';
import { pixels } from '../../compute';
import type { BoardFace } from '../../frames/boardMap';
import { useBench } from '../../session/benchStore';
import type { TraceAnswer, TraceQuestion } from './tools/context';

/** Snaps a drawn circle to the edge round it, unless nothing shall snap. */
export async function snapped(picture: Picture, face: BoardFace, question: TraceQuestion): Promise<TraceAnswer> {
  const found = useBench.getState().freeHand
    ? null
    : await pixels
        .call((w) => w.snapCircle(picture.blob, face, question.circle, inkOf(picture), question.ground))
        .catch(() => null);
  return { ...question, snapped: found };
}
