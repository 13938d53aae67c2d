import { words } from '../elements';
import { headlinePart, part, type ReadySection, textPart } from './plan';

export const opening: ReadySection = {
  purpose: 'opening',
  name: 'Opening',
  plan: () => ({
    name: 'Opening',
    ground: 'dark',
    space: 'wide',
    columns: [
      {
        span: 7,
        parts: [headlinePart(2, 'large', words('Say what changes for your reader')), textPart('lead', words('One sentence on how.')), part('button')],
      },
      { span: 5, parts: [part('picture')] },
    ],
  }),
};
