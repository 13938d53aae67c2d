import type { Outcome } from '@ruta/core/funnel';
import { type Arrival, leadsToOffers, nextStep, passBy } from '@ruta/core/funnel';
import { releaseReceipt } from '../delivery/receipt';
import { outsideAddress } from '../delivery/received';
import { gatherFacts } from '../facts/gather';
import { buyerOf } from '../facts/who';
import { type LiveServices, stepPath } from '../funnel/live';
import { orderAddress } from '../orders/address';
import type { OrderRow } from '../orders/store';
import type { Tracked } from '../tracking/recorder';
import { recordRoutes } from '../tracking/routesTaken';
import { visitorOf } from '../tracking/visitorOf';
import { hasOffers } from './standing';

type Needs = Tracked & LiveServices;

/** Where the buyer of an order arrives after an answer at a step; undefined if the step is not live any more. */
export function nextOf(services: Needs, order: OrderRow, stepId: string, outcome: Outcome): Arrival | undefined {
  const live = services.live.step(stepId, buyerOf(services, order));
  if (!live) return undefined;
  const { graph } = live.publication.snapshot;
  const facts = gatherFacts(services, { order, visitor: visitorOf(services, order) });
  // A product may send its buyers elsewhere, once every offer of the funnel has been made.
  const afterwards = outsideAddress(services, order);
  return passBy(graph, nextStep(graph, stepId, { outcome, afterwards }, facts), facts, hasOffers(services, live, order, facts), afterwards);
}

/**
 * The address at which the buyer of an order goes on after an answer at a step; where nothing leads on, their order's own
 * page. Once no other offer follows, the receipt that waited for one is sent.
 */
export function onward(services: Needs, order: OrderRow, stepId: string, outcome: Outcome): string {
  const arrival = nextOf(services, order, stepId, outcome);
  const next = arrival?.next;
  const live = services.live.step(stepId, buyerOf(services, order));
  if (!leadsToOffer(next)) releaseReceipt(services, order.id);
  const visitor = visitorOf(services, order);
  if (arrival && visitor) recordRoutes(services, order.mode, visitor, order.funnelId, arrival.routes);
  if (next?.kind === 'address') return next.url;
  if (next?.kind === 'step' && live) return `${stepPath({ publication: live.publication, step: next.step })}?order=${order.token}`;
  return outsideAddress(services, order) ?? orderAddress(services, order.token);
}

/** Whether a buyer who has just paid is about to be offered something, so that the order may still grow. */
export function awaitsOffer(services: Needs, order: OrderRow): boolean {
  const live = services.live.step(order.stepId, buyerOf(services, order));
  // Most funnels have no offers: nothing has to be known of the buyer to say so.
  if (!live || !leadsToOffers(live.publication.snapshot.graph, order.stepId)) return false;
  return leadsToOffer(nextOf(services, order, order.stepId, 'paid')?.next);
}

const leadsToOffer = (next: Arrival['next'] | undefined): boolean => next?.kind === 'step' && next.step.kind === 'offer';
