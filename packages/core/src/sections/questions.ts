import { words } from '../elements';
import { headlinePart, one, part, type ReadySection } from './plan';

export const questions: ReadySection = {
  purpose: 'questions',
  name: 'Questions',
  plan: () => ({ name: 'Questions', width: 'narrow', columns: one(headlinePart(2, 'medium', words('Questions')), part('faq')) }),
};
