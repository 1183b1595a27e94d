import type { Picture } from '@steady-moth/core/job';
import { inkOf } from '../../board/inkOf';
import { pixels } from '../../compute';
import type { BoardFrame } from '../../frames/boardMap';
import type { Questions } from '../../session/questions';
import { useSession } from '../../session/sessionStore';
import type { TraceAnswer, TraceQuestion } from './tools/context';

/** What the tools of Trace ask of a picture. */
export const traceQuestions = (picture: Picture, frame: BoardFrame): Questions<TraceQuestion, TraceAnswer> => ({
  /** Snaps a drawn circle to the edge round it, unless nothing shall snap; as it was drawn where none is found. */
  circle: {
    says: () => 'Snapping the circle to its edge',
    async ask({ kind: _, ...question }, { signal }) {
      const { circle, ground } = question;
      const snapped = useSession.getState().freeHand
        ? null
        : await pixels.call((w) => w.snapCircle(picture.blob, frame, circle, inkOf(picture), ground), signal);
      return { ...question, snapped };
    },
    otherwise: ({ kind: _, ...question }) => ({ ...question, snapped: null }),
  },
});
