import type { Product } from '@ruta/core/catalog';
import type { Condition } from '@ruta/core/conditions';
import { type applyToGraph, connect, type Graph, insertAfter, type Outcome, type Step } from '@ruta/core/funnel';
import type { IdKind } from '@ruta/core/ids';
import { newOffer, type Offer, OfferSchema } from '@ruta/core/offers';
import type { TemplateName } from '@ruta/core/templates';
import type { z } from 'zod';
import type { Services } from '../apps/server/src/base/services';
import { findProduct } from '../apps/server/src/catalog/store';
import { publishHere } from '../apps/server/src/checks/publish';
import { changeMap } from '../apps/server/src/funnel/changeMap';
import { loadFunnel } from '../apps/server/src/funnel/store';
import { createFunnel } from '../apps/server/src/templates/createFunnel';
import type { SampleProduct } from './products';

type NewId = (kind: IdKind) => string;
type Products = Record<SampleProduct | 'kit', Product>;

const bought = (editionId: string): Condition => ({ fact: 'bought', what: { by: 'edition', editionId } });
const EU = 'AT BE BG HR CY CZ DE DK EE ES FI FR GR HU IE IT LT LU LV MT NL PL PT RO SE SI SK'.split(' ');

/** Draws and changes one funnel of the sample shop as its sellers would: from a template, then on the map. */
class Sketch {
  readonly id: string;
  constructor(
    private readonly services: Services,
    private readonly newId: NewId,
    input: { name: string; slug: string; template: TemplateName; productId: string; giftId?: string; extras?: Record<string, string> },
  ) {
    this.id = createFunnel(services, input);
  }

  get graph(): Graph {
    return loadFunnel(this.services.db, this.id).graph;
  }
  step(kind: Step['kind'], index = 0): Step {
    const step = this.graph.steps.filter((each) => each.kind === kind)[index];
    if (!step) throw new Error(`The sample funnel has no ${kind}.`);
    return step;
  }
  change(operations: Parameters<typeof applyToGraph>[1]): void {
    const { revision } = loadFunnel(this.services.db, this.id).funnel;
    changeMap(this.services, this.id, { revision, operations: [...operations] }, (id) => findProduct(this.services.db, id));
  }
  sell(step: Step, sells: Offer[], name = step.name): void {
    this.change([{ kind: 'changeStep', stepId: step.id, changes: { sells, name } }]);
  }
  offer(productId: string, changes: Partial<z.input<typeof OfferSchema>> = {}): Offer {
    return OfferSchema.parse({ ...newOffer(this.newId('offer'), productId), ...changes });
  }
  /** A further stop after another, for those for whom a condition holds. */
  detour(from: Step, outcome: Outcome, name: string, slug: string, offers: Offer[], condition: Condition): Step {
    const step: Step = { id: this.newId('step'), kind: 'offer', name, slug, sells: offers };
    this.change(insertAfter(this.graph, from.id, outcome, step, this.newId, condition).operations);
    return step;
  }
  lead(from: Step, outcome: Outcome, to: Step, condition?: Condition): void {
    this.change(connect(this.graph, from.id, outcome, to.id, this.newId, condition).operations);
  }
  publish = () => publishHere(this.services, this.id, null);
}

/** The four live funnels of the sample shop. @returns their ids */
export function drawFunnels(services: Services, products: Products, until: number, newId: NewId): Record<'gift' | 'intake' | 'club' | 'wheel', Sketch> {
  const { calendar, course, wheel, torch, sketching, club, plan, guide, kit } = products;
  const edition = (product: Product, index: number) => product.editions[index]?.id ?? null;
  const price = (product: Product, index: number) => product.editions[0]?.prices[index]?.id ?? null;

  const gift = new Sketch(services, newId, {
    name: 'Moon Month to First Light',
    slug: 'moon-month',
    template: 'gift-then-offer',
    productId: course.id,
    giftId: calendar.id,
    extras: { upsell: sketching.id, downsell: sketching.id },
  });
  gift.change([{ kind: 'changeStep', stepId: gift.step('sales').id, changes: { name: 'First Light story', slug: 'first-light' } }]);
  const order = gift.step('checkout');
  gift.sell(order, [
    ...order.sells,
    // Set for where the visitor said they live.
    ...(
      [
        ['North of 45°', '50° north', 0],
        ['25° to 45° north', '40° north', 1],
        ['South of 25°', '35° south', 2],
      ] as const
    ).map(([answer, latitude, index]) =>
      gift.offer(wheel.id, {
        place: 'bump',
        editionId: edition(wheel, index),
        condition: { fact: 'answer', question: 'Where do you live?', answer },
        discount: { kind: 'percent', percent: 20, base: 'regular' },
        words: {
          headline: `Add the Star Wheel, set for ${latitude}`,
          text: 'Turn it to the hour and hold it up. Printed on card that survives dew. Sent to you.',
          label: 'Yes, send me the wheel',
        },
        bump: { position: 'after-contact', layout: 'row', colours: 'accent' },
      }),
    ),
    gift.offer(torch.id, {
      place: 'bump',
      words: { headline: 'A red torch, so your eyes stay in the dark', text: '', label: 'Yes, the torch too' },
      bump: { position: 'before-pay', layout: 'compact', colours: 'tint' },
    }),
  ]);
  const full = gift.step('offer');
  gift.sell(full, [gift.offer(sketching.id, { editionId: edition(sketching, 0), words: { label: 'Yes, add the full set' } })], 'Sketching the Sky');
  const moonOnly = gift.step('offer', 1);
  gift.sell(moonOnly, [gift.offer(sketching.id, { editionId: edition(sketching, 1), words: { label: 'Yes, just the moon' } })], 'Moon only');
  gift.publish();

  const intake = new Sketch(services, newId, {
    name: 'First Light spring intake',
    slug: 'spring-intake',
    template: 'straight-sale',
    productId: course.id,
    extras: { upsell: kit.id },
  });
  const closing = { until: { kind: 'date' as const, at: until }, afterwards: 'gone' as const };
  for (const kind of ['sales', 'checkout'] as const) {
    const step = intake.step(kind);
    intake.sell(
      step,
      step.sells.map((offer) => ({ ...offer, deadline: closing })),
    );
  }
  const kitOffer = intake.step('offer');
  intake.sell(kitOffer, [intake.offer(kit.id, { words: { label: 'Yes, send me the kit' } })], 'Observing kit');
  const pay = intake.step('checkout');
  const yearly = intake.detour(
    pay,
    'paid',
    'Club by the year',
    'club-by-the-year',
    [intake.offer(club.id, { priceId: price(club, 1) })],
    bought(edition(course, 1) ?? ''),
  );
  const farOrLarge: Condition = {
    any: [
      { fact: 'orderTotal', operator: 'at least', amount: 200_00 },
      { fact: 'shippingCountry', operator: 'none of', countries: EU },
    ],
  };
  const sky = intake.detour(pay, 'paid', 'Sky Plan', 'sky-plan', [intake.offer(plan.id, { confirms: true })], farOrLarge);
  // A large order is led to the Sky Plan before anything else is asked.
  const paid = intake.graph.routes.filter((route) => route.from === pay.id && route.outcome === 'paid');
  const first = paid.find((route) => route.to === sky.id);
  const second = paid.find((route) => route.to === yearly.id);
  if (first && second) {
    intake.change([
      { kind: 'changeRoute', routeId: first.id, changes: { priority: Math.min(first.priority, second.priority) } },
      { kind: 'changeRoute', routeId: second.id, changes: { priority: Math.max(first.priority, second.priority) } },
    ]);
  }
  const thanks = intake.step('thank-you');
  for (const stop of [yearly, sky]) for (const outcome of ['accepted', 'declined'] as const) intake.lead(stop, outcome, thanks);
  intake.publish();

  const clubFunnel = new Sketch(services, newId, { name: 'Clear Skies Club', slug: 'clear-skies-club', template: 'straight-sale', productId: club.id });
  clubFunnel.publish();

  const wheelFunnel = new Sketch(services, newId, { name: 'Star Wheel', slug: 'star-wheel', template: 'direct-link', productId: wheel.id });
  const direct = wheelFunnel.step('checkout');
  wheelFunnel.sell(direct, [
    ...direct.sells,
    wheelFunnel.offer(guide.id, {
      place: 'bump',
      discount: { kind: 'amount', amount: 2_00, base: 'current' },
      words: { headline: 'The Eclipse Field Guide with it', text: 'Where to stand, when to look, what to do with your hands.', label: 'Yes, add the guide' },
      bump: { position: 'before-pay', layout: 'ticket', colours: 'plain' },
    }),
  ]);
  wheelFunnel.publish();
  return { gift, intake, club: clubFunnel, wheel: wheelFunnel };
}
