import type { Outcome } from '@ruta/core/funnel';
import { type Arrival, leadsToOffers, nextStep, passBy } from '@ruta/core/funnel';
import { outsideAddress } from '../delivery/received';
import { gatherFacts } from '../facts/gather';
import { type LiveServices, stepPath } from '../funnel/live';
import { orderAddress } from '../orders/address';
import type { OrderRow } from '../orders/store';
import type { Tracked } from '../tracking/recorder';
import { recordRoutes } from '../tracking/routesTaken';
import { hasOffers } from './standing';

type Needs = Tracked & LiveServices;

/** Where the buyer of an order arrives after an answer at a step; undefined if the step is not live any more. */
export function nextOf(services: Needs, order: OrderRow, stepId: string, outcome: Outcome): Arrival | undefined {
  const live = services.live.step(stepId);
  if (!live) return undefined;
  const { graph } = live.publication.snapshot;
  const visitor = order.visitorId ? (services.recorder.visitor(order.visitorId) ?? null) : null;
  const facts = gatherFacts(services, { order, visitor });
  // A product may send its buyers elsewhere, once every offer of the funnel has been made.
  const afterwards = outsideAddress(services, order);
  return passBy(graph, nextStep(graph, stepId, { outcome, afterwards }, facts), facts, hasOffers(services, live, order, facts), afterwards);
}

/** The address at which the buyer of an order goes on after an answer at a step. Where nothing leads on, it is their order's own page. */
export function onward(services: Needs, order: OrderRow, stepId: string, outcome: Outcome): string {
  const arrival = nextOf(services, order, stepId, outcome);
  const next = arrival?.next;
  const live = services.live.step(stepId);
  const visitor = order.visitorId ? services.recorder.visitor(order.visitorId) : undefined;
  if (arrival && visitor) recordRoutes(services, order.mode, visitor, order.funnelId, arrival.routes);
  if (next?.kind === 'address') return next.url;
  if (next?.kind === 'step' && live) return `${stepPath({ publication: live.publication, step: next.step })}?order=${order.token}`;
  return outsideAddress(services, order) ?? orderAddress(services, order.token);
}

/** Whether a buyer who has just paid is about to be offered something, so that the order may still grow. */
export function awaitsOffer(services: Needs, order: OrderRow): boolean {
  const live = services.live.step(order.stepId);
  // Most funnels have no offers: nothing has to be known of the buyer to say so.
  if (!live || !leadsToOffers(live.publication.snapshot.graph, order.stepId)) return false;
  const next = nextOf(services, order, order.stepId, 'paid')?.next;
  return next?.kind === 'step' && next.step.kind === 'offer';
}
