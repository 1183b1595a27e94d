import type { Picture } from '@steady-moth/core/job';
import { pixels } from '../../compute';
import type { Questions } from '../../session/questions';
import type { Colour, ColourQuestion } from './tools/pictureTools';

/** What the tools of Picture ask of it. */
export const colourQuestions = ({ blob }: Picture): Questions<ColourQuestion, Colour | null> => ({
  colour: {
    says: () => 'Looking at the colour there',
    ask: (at, { signal }) => pixels.call((w) => w.colourAt(blob, at), signal),
  },
});
