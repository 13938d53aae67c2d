import { OfferSchema } from '@ruta/core/offers';
import type { Seller } from './clients';
import { selling } from './products';

let made = 0;
/** An id that nothing else has. */
export const freshId = (prefix: string): string => `${prefix}_${String(++made).padStart(10, '0')}`;

type Changes = Record<string, unknown>;
export const offerOf = (productId: string, changes: Changes = {}) => OfferSchema.parse({ id: freshId('off'), productId, ...changes });

interface DrawnStep {
  id: string;
  name: string;
  slug: string;
  sells: Array<{ id: string; productId: string }>;
}

/** A straight sale with bumps on its checkout and stops behind it, drawn on the map and put live. */
export class OfferFunnel {
  // biome-ignore lint/suspicious/noExplicitAny: the funnel as the API answers it
  private detail: any;
  private constructor(private readonly seller: Seller) {}

  static async draw(seller: Seller, options: { price?: number; product?: object } = {}): Promise<OfferFunnel> {
    const drawn = new OfferFunnel(seller);
    const { id } = await seller.sellingFunnel(options);
    drawn.detail = await seller.read(`/funnels/${id}`);
    return drawn;
  }

  get id(): string {
    return this.detail.id;
  }
  get slug(): string {
    return this.detail.slug;
  }
  get graph() {
    return this.detail.graph;
  }
  get revision(): number {
    return this.detail.revision;
  }
  steps(): DrawnStep[] {
    return this.graph.steps;
  }
  step(kind: string): DrawnStep {
    return this.graph.steps.find((step: { kind: string }) => step.kind === kind);
  }

  async change(operations: object[]): Promise<void> {
    this.detail = await this.seller.make(`/funnels/${this.id}/map`, { revision: this.revision, operations });
  }

  /** Puts bumps on the checkout. */
  async bumps(...bumps: object[]): Promise<void> {
    const checkout = this.step('checkout');
    await this.change([
      {
        kind: 'changeStep',
        stepId: checkout.id,
        changes: { sells: [...checkout.sells.filter(({ id }) => !bumps.some((bump) => 'id' in bump && bump.id === id)), ...bumps] },
      },
    ]);
  }

  /** Puts an offer behind another stop: everybody is led to it, and from it to where they were led before. */
  async offerAfter(fromId: string, outcome: string, name: string, sells: object[]): Promise<string> {
    const id = freshId('stp');
    const route = this.graph.routes.find(
      (each: { from: string; outcome: string; condition?: object }) => each.from === fromId && each.outcome === outcome && !each.condition,
    );
    const way = (out: string) => ({ kind: 'addRoute', route: { id: freshId('rte'), from: id, outcome: out, priority: 0, to: route.to } });
    await this.change([
      { kind: 'addStep', step: { id, kind: 'offer', name, slug: name.toLowerCase().replaceAll(' ', '-'), sells } },
      { kind: 'changeRoute', routeId: route.id, changes: { to: id } },
      way('accepted'),
      way('declined'),
    ]);
    return id;
  }

  publish = () => this.seller.make(`/funnels/${this.id}/publish`, {});
}

/** A product of one price that can be bought again. */
export async function thing(seller: Seller, name: string, regular: number, fields: Changes = {}) {
  return seller.make('/products', selling(name, { kind: 'one-time', regular }, { buyAgain: true, ...fields })) as Promise<{
    id: string;
    editions: Array<{ id: string; prices: Array<{ id: string }> }>;
  }>;
}
