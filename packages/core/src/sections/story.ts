import { placeholder } from '../elements';
import { headlinePart, one, type ReadySection, textPart } from './plan';

export const story: ReadySection = {
  purpose: 'words',
  name: 'Words',
  plan: () => ({
    name: 'Words',
    width: 'narrow',
    columns: one(headlinePart(2, 'medium', placeholder('A headline')), textPart('body', placeholder('A paragraph that tells the story.'))),
  }),
};
