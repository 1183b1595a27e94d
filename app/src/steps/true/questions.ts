import { cameraConstantPx } from '@steady-moth/core/calibration';
import type { PickRecord, Picture } from '@steady-moth/core/job';
import { pixels } from '../../compute';
import type { FoundKind } from '../../compute/pixels.worker';
import type { QuestionKind, Questions } from '../../session/questions';
import { findSentence } from '../../session/sentences';
import type { TrueAnswer, TrueQuestion } from './tools/context';
import { useTrue } from './trueStore';

/** What the tools of True ask of a picture. Why nothing was found is said on the slip. */
export const trueQuestions = (picture: Picture): Questions<TrueQuestion, TrueAnswer> => ({
  ruler: aboutClick(picture, 'Looking for the ruler'),
  disc: aboutClick(picture, 'Looking for the coin'),
  sheet: aboutClick(picture, 'Looking for the sheet'),
  grid: aboutClick(picture, 'Looking for the grid'),
  holes: {
    says: () => 'Looking for the hole',
    waits: true,
    async ask({ clicks }, { signal }) {
      useTrue.getState().setFindFault(null);
      const rims: PickRecord[][] = [];
      for (const click of clicks) {
        const found = await pixels.call((w) => w.findHole(picture.blob, click), signal);
        if (!found.ok) {
          tellFault('disc', found.reason, signal);
          return { kind: 'holes', clicks, rims: null };
        }
        // A centre needs no more places than these.
        rims.push(found.rim.filter((_, k) => k % Math.ceil(found.rim.length / MOST_RIM) === 0));
      }
      return { kind: 'holes', clicks, rims };
    },
  },
});

const MOST_RIM = 32;

/** A yardstick about a click. */
const aboutClick = (
  { blob, facts }: Picture,
  says: string,
): QuestionKind<Extract<TrueQuestion, { kind: FoundKind }>, TrueAnswer> => ({
  says: () => says,
  waits: true,
  async ask({ kind, click }, { signal }) {
    useTrue.getState().setFindFault(null);
    // What the file tells of the lens, so that a coin's tilt is judged by it.
    const hints = { cPx: cameraConstantPx(facts) };
    const answer = await pixels.call((w) => w.findReference(blob, kind, click, hints), signal);
    if (!answer.found.ok) tellFault(kind, answer.found.reason, signal);
    return { kind: 'reference', answer };
  },
});

function tellFault(kind: FoundKind, reason: string, { aborted }: AbortSignal): void {
  if (!aborted) useTrue.getState().setFindFault(findSentence(kind, reason));
}
