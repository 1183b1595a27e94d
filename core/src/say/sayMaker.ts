import type { MakerReason } from '../sketch';

const MAKERS: Record<MakerReason, string> = {
  'too-large': 'There is no room for it: it is left out until it is smaller.',
  'some-too-large': 'Some corners have no room for it, and stay as they are.',
  'nothing-to-go-by': 'What it goes by is gone, or is no straight line, circle or corner. Choose another.',
  'no-length': 'What is typed here is no length.',
  'too-many': 'More than 2,000 forms would come of it: fewer copies do.',
  'no-number': 'There are two copies or more, 500 at most, and no more than 360 degrees.',
  'edges-do-not-meet': 'With these distances its pieces do not meet, or would cross: it is left out.',
  'only-curves-turn':
    'It is not smooth across its line: a line or an arc ends there askew. Make that piece a curve, and it turns.',
  'crosses-its-line': 'The half crosses the line it is mirrored in, so both halves overlap.',
};
/** Why something cannot be made of a path. */
export const makerSentence = (reason: MakerReason): string => MAKERS[reason];
