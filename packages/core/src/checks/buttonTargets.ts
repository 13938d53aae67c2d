import { allElements } from '../page';
import type { Check } from './check';

export const buttonTargets: Check = {
  check: 'button-targets',
  severity: 'blocking',
  find: ({ page, funnel }) =>
    allElements(page).flatMap((element) => {
      if (element.type !== 'button' || element.action.kind !== 'step') return [];
      const { stepId } = element.action;
      return funnel.graph.steps.some((step) => step.id === stepId) ? [] : ['A button leads to a stop that no longer exists.'];
    }),
};
