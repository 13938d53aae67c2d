import { FACTS, type FactTest } from '@ruta/core/facts';

export type FactName = FactTest['fact'];

/** Everything that can be asked, by its name for people. */
export const FACT_NAMES = Object.fromEntries(FACTS.map(({ fact, name }) => [fact, name])) as Record<FactName, string>;

export const ALL_FACTS: readonly FactName[] = FACTS.map(({ fact }) => fact);

/** What each question begins with: whatever only the seller knows is missing, and decides nothing. The compiler names one that is not here. */
const BEGINNINGS: { [Fact in FactName]: () => Extract<FactTest, { fact: Fact }> } = {
  bought: () => ({ fact: 'bought', what: { by: 'product', productId: '' } }),
  owned: () => ({ fact: 'owned', what: { by: 'product', productId: '' } }),
  declined: () => ({ fact: 'declined' }),
  orderTotal: () => ({ fact: 'orderTotal', operator: 'at least', amount: 10_000 }),
  code: () => ({ fact: 'code' }),
  paymentMethod: () => ({ fact: 'paymentMethod', method: 'card' }),
  shippingMethod: () => ({ fact: 'shippingMethod', zone: '' }),
  country: () => ({ fact: 'country', operator: 'one of', countries: [] }),
  shippingCountry: () => ({ fact: 'shippingCountry', operator: 'one of', countries: [] }),
  tag: () => ({ fact: 'tag', tag: '' }),
  answer: () => ({ fact: 'answer', question: '', answer: '' }),
  campaign: () => ({ fact: 'campaign', which: 'last', campaign: '' }),
  source: () => ({ fact: 'source', which: 'last', source: '' }),
  device: () => ({ fact: 'device', device: 'phone' }),
  language: () => ({ fact: 'language', language: 'en' }),
  returning: () => ({ fact: 'returning', returning: true }),
  saw: () => ({ fact: 'saw', stepId: '' }),
  openedCheckout: () => ({ fact: 'openedCheckout', opened: true }),
  hour: () => ({ fact: 'hour', from: 18, until: 23 }),
  weekday: () => ({ fact: 'weekday', days: [6, 7] }),
  date: () => ({ fact: 'date', from: new Date().toISOString().slice(0, 10) }),
};

/** A new question about a fact. */
export const newTest = (fact: FactName): FactTest => BEGINNINGS[fact]();
