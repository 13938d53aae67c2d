import type { Product } from '@ruta/core/catalog';
import { cartLine, quoteCart, storedQuote } from '@ruta/core/pricing';
import { createProduct } from '../../src/catalog/service';
import { loadFunnel } from '../../src/funnel/store';
import type { NewOrder } from '../../src/orders/write';
import type { ChargeAnswer, ChargeRequest, KeepAnswer, PaymentProvider } from '../../src/payments/provider';
import { accounts } from '../../src/payments/tables';
import { loadShop } from '../../src/shop/store';
import { createFunnel } from '../../src/templates/createFunnel';
import { selling } from './products';
import type { TestServices } from './services';

export const CAPTURED = { state: 'captured', providerChargeId: 'qs_1', last4: '0019' } as const satisfies ChargeAnswer;
const KEPT: KeepAnswer = { state: 'kept', method: 'qs_pm_1', last4: '0019' };

/** A processor that says what a test has it say: to a charge, and when it is asked after one. */
export const saying = (charge: (request: ChargeRequest) => ChargeAnswer, find: () => ChargeAnswer): PaymentProvider => ({
  provider: 'quayside',
  name: 'Quayside',
  method: 'card',
  keepMethod: async () => KEPT,
  charge: async (_account, request) => charge(request),
  find: async () => find(),
  changedSince: async () => [],
  cancel: async () => false,
  void: async () => true,
  refund: async () => ({ state: 'refunded' }),
  readWebhook: () => null,
  cardFields: () => null,
  openAccounts: async () => [],
  isReachable: async () => true,
});

/** An account of that processor. */
export const openAccount = (services: TestServices, id: string, changes: Partial<typeof accounts.$inferInsert> = {}) =>
  services.db
    .insert(accounts)
    .values({
      id,
      provider: 'quayside',
      mode: 'live',
      reference: id,
      publicKey: 'pk',
      secrets: services.secrets.encrypt(JSON.stringify({ secretKey: 'sk', webhookSecret: 'whsec' })),
      weight: 1,
      cap: null,
      createdAt: 1,
      closedAt: null,
      ...changes,
    })
    .run();

/** What a cart with a product is quoted at. */
export const quoted = (services: TestServices, product: Product, quantity = 1) =>
  storedQuote(quoteCart(loadShop(services.db), { lines: [cartLine('main', 'main', product, { quantity })], buyer: { country: 'PT' } }, services.moment.at));

/** A cart with a course for 138.00, at the checkout of a funnel that sells it. */
export function cartOf(services: TestServices): NewOrder {
  const product = createProduct(services, selling('First Light', { kind: 'one-time', regular: 13_800 }));
  const funnelId = createFunnel(services, { name: 'Sale', template: 'straight-sale', productId: product.id });
  return {
    funnelId,
    stepId: loadFunnel(services.db, funnelId).graph.steps.find((step) => step.kind === 'checkout')?.id ?? '',
    cartId: 'crt_000000001',
    visitorId: null,
    mode: 'live',
    quote: quoted(services, product),
    codeId: null,
    buyer: { email: 'ilse@moonmail.test', firstName: 'Ilse', lastName: '', country: 'PT' },
    campaign: null,
  };
}
