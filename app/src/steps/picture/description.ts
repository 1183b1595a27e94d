import { GOOD, type StepDescription } from '../../step/description';

export const pictureStep: StepDescription = {
  name: 'picture',
  title: 'Picture',
  stateOf: ({ pictures }) => (pictures.length ? GOOD : { bead: 'empty', lacks: 'No picture yet' }),
  load: async () => (await import('./PictureStep')).PictureStep,
};
