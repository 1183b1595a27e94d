import { GOOD, type StepDescription } from '../../step/description';
import { PICTURE_TOOLS } from './pockets';

export const pictureStep: StepDescription = {
  name: 'picture',
  title: 'Picture',
  lead: 'How it is shown; its pixels never change.',
  tools: PICTURE_TOOLS,
  keys: [],
  stateOf: ({ pictures }) => (pictures.length ? GOOD : { bead: 'empty', lacks: 'No picture yet' }),
  load: async () => (await import('./usePictureStep')).usePictureStep,
};
