import { placeholder } from '../elements';
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
        parts: [
          headlinePart(2, 'large', placeholder('Say what changes for your reader')),
          textPart('lead', placeholder('One sentence on how.')),
          part('button'),
        ],
      },
      { span: 5, parts: [part('picture')] },
    ],
  }),
};
