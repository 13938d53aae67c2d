import { placeholder } from '../elements';
import { headlinePart, type ReadySection, textPart } from './plan';

export const benefits: ReadySection = {
  purpose: 'benefits',
  name: 'Three reasons',
  plan: () => ({
    name: 'Three reasons',
    columns: ['First', 'Second', 'Third'].map((name) => ({
      span: 4,
      parts: [headlinePart(3, 'small', placeholder(`${name} reason`)), textPart('body', placeholder('Why it matters, in a sentence or two.'))],
    })),
  }),
};
