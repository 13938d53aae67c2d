import { type Graph, type Step, stepKindOf } from '@ruta/core/funnel';
import { bumpsOf, mainOffers } from '@ruta/core/offers';
import type { FunnelFigures } from '@ruta/core/reports';
import { formatAmount, formatCount, formatRate } from '../base/format';
import type { Lens } from './lenses';

/** What stands under a stop's name through a lens. */
export function captionsOf(step: Step, graph: Graph, figures: FunnelFigures | undefined, lens: Lens, currency: string): string[] {
  if (lens === 'build') return built(step, graph);
  if (!figures) return [];
  const row = figures.steps.find((candidate) => candidate.stepId === step.id);
  if (lens === 'traffic') {
    const came = row?.came ?? 0;
    const arrived = step.kind === 'thank-you' ? `${formatCount(came)} ${came === 1 ? 'person' : 'people'} arrived` : `${formatCount(came)} came`;
    return [arrived, `${formatRate(row?.rate ?? null)} ${stepKindOf(step.kind).goal.reached}`];
  }
  const money = (amount: number | null) => formatAmount(amount, currency);
  const revenue = figures.revenueByStep[step.id] ?? 0;
  const { sells } = stepKindOf(step.kind);
  const perVisitor = figures.visitors === 0 ? null : revenue / figures.visitors;
  if (sells === null) {
    return step.id === graph.entryId ? [`${money(figures.revenuePerVisitor)} a visitor`, `${money(figures.netRevenue)} in all`] : [];
  }
  const offered = figures.offers.filter((offer) => offer.stepId === step.id);
  const shown = offered.reduce((sum, offer) => sum + offer.shown, 0);
  const taken = offered.reduce((sum, offer) => sum + offer.taken, 0);
  const isCheckout = sells === 'order';
  return [
    `${money(revenue)}, ${money(perVisitor)} a visitor`,
    ...(isCheckout ? [`${money(figures.averageOrder)} an order`] : []),
    ...(shown > 0 ? [`${formatRate(taken / shown)} ${isCheckout ? 'took a bump' : 'take rate'}`] : []),
  ];
}

function built(step: Step, graph: Graph): string[] {
  const { name, sells } = stepKindOf(step.kind);
  const bumps = bumpsOf(step).length;
  const offers = mainOffers(step).length;
  const isReached = step.id === graph.entryId || graph.routes.some((route) => route.to === step.id);
  return [
    name,
    ...(isReached ? [] : ['Nobody is led here']),
    ...(sells === 'order' && bumps > 0 ? [`${bumps} ${bumps === 1 ? 'bump' : 'bumps'}`] : []),
    ...(sells === 'addition' && offers !== 1 ? [offers === 0 ? 'Nothing offered yet' : `${offers} offers`] : []),
  ];
}

/** What a funnel came to, with and without what is offered beside the payment and after it. */
export function moneySummary({ averageOrder, averageWithout, revenuePerVisitor, perVisitorWithout, byRole, orders }: FunnelFigures, currency: string): string {
  if (orders === 0) return 'Nothing was sold in this time.';
  const money = (amount: number | null) => formatAmount(amount, currency);
  const roles = (
    [
      ['bumps', byRole.bump],
      ['upsells', byRole.upsell],
      ['downsells', byRole.downsell],
    ] as const
  ).filter(([, amount]) => amount > 0);
  const beside = roles.map(([words, amount]) => `${words} ${money(amount)}`).join(', ');
  return [
    `${money(averageOrder)} an order, ${money(averageWithout)} without bumps and offers.`,
    `${money(revenuePerVisitor)} a visitor, ${money(perVisitorWithout)} without.`,
    `Main ${money(byRole.main)}${beside ? `, ${beside}` : ''}.`,
  ].join(' ');
}
