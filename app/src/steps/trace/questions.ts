import type { Picture } from '@steady-moth/core/job';
import { inkOf } from '../../board/inkOf';
import { pixels } from '../../compute';
import type { BoardFace } from '../../frames/boardMap';
import { useBench } from '../../session/benchStore';
import type { Questions } from '../../session/questions';
import type { TraceAnswer, TraceQuestion } from './tools/context';

/** What the tools of Trace ask of a picture. */
export const traceQuestions = (picture: Picture, face: BoardFace): Questions<TraceQuestion, TraceAnswer> => ({
  /** Snaps a drawn circle to the edge round it, unless nothing shall snap; as it was drawn where none is found. */
  circle: {
    says: () => 'Snapping the circle to its edge',
    async ask({ kind: _, ...question }, { signal }) {
      const { circle, ground } = question;
      const snapped = useBench.getState().freeHand
        ? null
        : await pixels.call((w) => w.snapCircle(picture.blob, face, circle, inkOf(picture), ground), signal);
      return { ...question, snapped };
    },
    otherwise: ({ kind: _, ...question }) => ({ ...question, snapped: null }),
  },
});
