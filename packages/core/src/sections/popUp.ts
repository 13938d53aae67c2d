import { placeholder } from '../elements';
import { headlinePart, one, part, type SectionPlan, textPart } from './plan';

/** What a new pop-up shows. */
export const popUpSection = (): SectionPlan => ({
  name: 'In the pop-up',
  align: 'center',
  columns: one(headlinePart(2, 'medium', placeholder('Before you go')), textPart('body', placeholder('Say what they get for their address.')), part('form')),
});
