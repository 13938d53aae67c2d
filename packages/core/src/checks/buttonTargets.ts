import { type Action, actionsOf } from '../elements';
import { allElements } from '../page';
import type { Check } from './check';

const NAMES: Record<Action['kind'], string> = { step: 'stop', section: 'section', 'pop-up': 'pop-up', next: '', address: '', scroll: '' };

export const buttonTargets: Check = {
  check: 'button-targets',
  severity: 'blocking',
  find: ({ page, funnel }) => {
    const elements = allElements(page);
    return elements.flatMap(actionsOf).flatMap((action) => {
      const isThere =
        (action.kind !== 'step' || funnel.graph.steps.some((step) => step.id === action.stepId)) &&
        (action.kind !== 'section' || page.sections.some((section) => section.id === action.sectionId)) &&
        (action.kind !== 'pop-up' || page.popUps?.some((popUp) => popUp.id === action.popUpId));
      // A button that leads down to a form needs one below.
      if (action.kind === 'scroll' && !elements.some(({ type }) => type === action.target))
        return [`A button leads to ${action.target === 'form' ? 'a form' : 'the order form'}, but there is none on this page.`];
      return isThere ? [] : [`A button leads to a ${NAMES[action.kind]} that no longer exists.`];
    });
  },
};
