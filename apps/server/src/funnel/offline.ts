import type { OfflinePage } from '@ruta/core/funnel';
import { eq } from 'drizzle-orm';
import { Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { loadFunnel } from './store';
import { funnels } from './tables';

/**
 * Takes a published funnel offline: from this moment its visitors are shown the page that was chosen; orders, links to
 * them and figures stay. Or puts it online again as it was published. The caller announces it.
 * @param page null puts it online again
 * @throws Refusal 409 if it was never published, 422 if visitors would be led to the funnel itself
 */
export function setOffline({ db, clock }: Pick<Services, 'db' | 'clock'>, id: string, page: OfflinePage | null): void {
  const { published, graph } = loadFunnel(db, id);
  if (!published) throw new Refusal(409, 'This funnel is not published, so nobody sees it.');
  if (page?.kind === 'step' && graph.steps.some((step) => step.id === page.stepId)) {
    throw new Refusal(422, 'This page goes offline with the funnel.', [
      { path: 'page.stepId', message: 'Choose a page of another funnel: this one goes offline too.' },
    ]);
  }
  const now = clock.now();
  db.update(funnels)
    .set({ offline: page && { at: now, page }, updatedAt: now })
    .where(eq(funnels.id, id))
    .run();
}
