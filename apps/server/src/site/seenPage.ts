import { isConditional, shownPage } from '@ruta/core/page';
import { gatherFacts, type Known } from '../facts/gather';
import type { LiveServices, LiveStep } from '../funnel/live';

/** A published step with its page as one visitor sees it: what is not for them is not in it. */
export function seenBy(services: Pick<LiveServices, 'db' | 'clock'>, live: LiveStep, known: Known): LiveStep {
  return isConditional(live.page) ? { ...live, page: shownPage(live.page, gatherFacts(services, known)) } : live;
}
