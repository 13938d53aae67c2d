import { FACTS, type FactTest } from '@ruta/core/facts';

export type FactName = FactTest['fact'];

/** Everything that can be asked, by its name for people. */
export const FACT_NAMES = Object.fromEntries(FACTS.map(({ fact, name }) => [fact, name])) as Record<FactName, string>;

/** What each question begins with; the compiler names one that is missing. */
const BEGINNINGS: { [Fact in FactName]: (productId: string) => Extract<FactTest, { fact: Fact }> } = {
  bought: (productId) => ({ fact: 'bought', what: { by: 'product', productId } }),
  owned: (productId) => ({ fact: 'owned', what: { by: 'product', productId } }),
  orderTotal: () => ({ fact: 'orderTotal', operator: 'at least', amount: 10_000 }),
  code: () => ({ fact: 'code' }),
  paymentMethod: () => ({ fact: 'paymentMethod', method: 'card' }),
  shippingMethod: () => ({ fact: 'shippingMethod', zone: '' }),
  country: () => ({ fact: 'country', operator: 'one of', countries: ['PT'] }),
  shippingCountry: () => ({ fact: 'shippingCountry', operator: 'one of', countries: ['PT'] }),
  tag: () => ({ fact: 'tag', tag: '' }),
  answer: () => ({ fact: 'answer', question: '', answer: '' }),
  campaign: () => ({ fact: 'campaign', which: 'last', campaign: '' }),
  source: () => ({ fact: 'source', which: 'last', source: '' }),
  device: () => ({ fact: 'device', device: 'phone' }),
  language: () => ({ fact: 'language', language: 'en' }),
  returning: () => ({ fact: 'returning', returning: true }),
  hour: () => ({ fact: 'hour', from: 18, until: 23 }),
  weekday: () => ({ fact: 'weekday', days: [6, 7] }),
  date: () => ({ fact: 'date', from: new Date().toISOString().slice(0, 10) }),
};

/** A new question about a fact, about a product where it asks for one. */
export function newTest(fact: FactName, productId: string): FactTest {
  return BEGINNINGS[fact](productId);
}
