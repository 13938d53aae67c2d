import type { FunnelDetail, Problem, FunnelState as Standing } from '@ruta/core/checks';
import { stopsInOrder } from '@ruta/core/funnel';
import { desc, eq } from 'drizzle-orm';
import { openFunnel } from '../arms/armFunnel';
import { openArm, testsOf } from '../arms/openArm';
import { revisionOf } from '../base/revision';
import type { Services } from '../base/services';
import { unpublishedChanges } from '../funnel/service';
import { sharingOf } from '../funnel/sharedOffers';
import { type FunnelRow, type FunnelState, loadFunnel } from '../funnel/store';
import { publications } from '../funnel/tables';
import { problemsOf, productsOf } from './funnelChecks';

const SHOWN_PUBLICATIONS = 20;

/** What its dialogs change of a funnel, each as one state that another window can have changed meanwhile. */
export const settingsOf = ({ name, slug }: FunnelRow) => ({ name, slug });
export const lookOf = ({ brand, code }: FunnelRow) => ({ brand, code });

type Needs = Pick<Services, 'db'>;

/** What is wrong with a funnel or an arm of it, and what is not published yet. */
function standing(services: Needs, state: ReturnType<typeof openFunnel>, products = productsOf(services, state)): Standing {
  return {
    // An arm goes live with its test, not by publishing.
    changes: state.arm ? { stepIds: [], settings: false } : unpublishedChanges(state),
    problems: problemsOf(services, state, products),
    arm: openArm(services, state, products),
  };
}

/** @param id of a funnel, or of an arm of a test in it. @throws Refusal 404 if there is none */
export const funnelStanding = (services: Needs, id: string): Standing => standing(services, openFunnel(services.db, id));

/** A funnel or an arm of it, with all that is to be seen on its map but the addresses. @throws Refusal 404 if there is none */
export function funnelDetail(services: Needs, id: string): Omit<FunnelDetail, 'addresses'> {
  const { db } = services;
  const state = openFunnel(db, id);
  const { funnel, graph, published } = state;
  const products = productsOf(services, state);
  return {
    id,
    name: funnel.name,
    slug: funnel.slug,
    giftId: funnel.giftId,
    brand: funnel.brand,
    code: funnel.code,
    revision: funnel.revision,
    revisions: { settings: revisionOf(settingsOf(funnel)), look: revisionOf(lookOf(funnel)) },
    graph,
    stops: stopsInOrder(graph).map((step) => step.id),
    publishedAt: published?.at ?? null,
    archivedAt: funnel.archivedAt,
    offline: funnel.offline,
    version: published?.version ?? 0,
    ...standing(services, state, products),
    tests: testsOf(db, funnel.id),
    products,
    sharing: sharingOf(db, state),
    publications: db
      .select({ version: publications.version, at: publications.at })
      .from(publications)
      .where(eq(publications.funnelId, funnel.id))
      .orderBy(desc(publications.version))
      .limit(SHOWN_PUBLICATIONS)
      .all(),
  };
}

/** Stands for a funnel as it would go live. */
export const draftOf = ({ funnel, steps }: Pick<FunnelState, 'funnel' | 'steps'>): string =>
  revisionOf([funnel.revision, funnel.slug, steps.map(({ id, revision }) => [id, revision])]);

/** What keeps a funnel from going live, and of which state of it that is said. */
export function hindrances(services: Needs, id: string): { draft: string; blocking: Problem[] } {
  const state = loadFunnel(services.db, id);
  return { draft: draftOf(state), blocking: problemsOf(services, state).filter(({ severity }) => severity === 'blocking') };
}
