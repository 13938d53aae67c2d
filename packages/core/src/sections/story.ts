import { words } from '../elements';
import { headlinePart, one, type ReadySection, textPart } from './plan';

export const story: ReadySection = {
  purpose: 'words',
  name: 'Words',
  plan: () => ({
    name: 'Words',
    width: 'narrow',
    columns: one(headlinePart(2, 'medium', words('A headline')), textPart('body', words('A paragraph that tells the story.'))),
  }),
};
