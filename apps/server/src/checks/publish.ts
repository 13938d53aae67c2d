import type { Problem } from '@ruta/core/checks';
import { followPublication } from '../arms/rounds';
import { Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { publishFunnel } from '../funnel/service';
import { type FunnelState, latestPublications, loadFunnel } from '../funnel/store';
import { publishSections } from '../page/ownSections';
import { draftOf, hindrances } from './detail';

type Needs = Pick<Services, 'db' | 'clock' | 'changes'>;

/** How often a funnel that somebody goes on changing is looked through anew. */
const TRIES = 5;

/**
 * Puts a funnel live as it stands. It is looked through in a thread of its own, and just what was looked through goes live.
 * @throws Refusal 409 naming each problem that stands in the way, or if it never rests
 */
export async function publish(services: Needs & Pick<Services, 'checking'>, funnelId: string, userId: string | null): Promise<number> {
  for (let tries = 1; tries <= TRIES; tries++) {
    const { draft, blocking } = await services.checking.ask<{ draft: string; blocking: Problem[] }>('hindrances', funnelId);
    const state = loadFunnel(services.db, funnelId);
    if (draftOf(state) === draft) return goLive(services, state, blocking, userId);
  }
  throw new Refusal(409, 'Somebody is still changing this funnel. Publish it once they are done.');
}

/** The same at once, where nobody else waits. */
export const publishHere = (services: Needs, funnelId: string, userId: string | null): number =>
  goLive(services, loadFunnel(services.db, funnelId), hindrances(services, funnelId).blocking, userId);

function goLive(services: Needs, state: FunnelState, blocking: readonly Problem[], userId: string | null): number {
  if (blocking.length > 0) {
    throw new Refusal(
      409,
      'This funnel cannot go live yet.',
      blocking.map((problem) => ({ path: problem.stepId ?? '', message: problem.message })),
    );
  }
  return publishFunnel(services, state, userId, (tx, snapshot) => {
    publishSections(tx, services, state.funnel.id, snapshot, userId);
    for (const publication of latestPublications(tx)) followPublication(services, tx, publication);
  });
}
