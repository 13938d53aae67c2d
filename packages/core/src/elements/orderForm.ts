import { z } from 'zod';
import { elementRecord } from './record';
import { WordsSchema, words } from './words';

/** What an order form asks, part by part: what is bought, who buys, a discount code, how it is paid. */
export const ORDER_PARTS = ['choice', 'contact', 'code', 'payment'] as const;
export type OrderPart = (typeof ORDER_PARTS)[number];

/**
 * The parts of an order form in their order, each once. Who buys comes before how it is paid: what is to be paid depends on
 * where they live, and in two stages the address is kept before anything is typed about a card.
 */
export function orderParts(wished: readonly OrderPart[] = ORDER_PARTS): OrderPart[] {
  const parts = [...new Set([...wished, ...ORDER_PARTS])];
  const [contact, payment] = [parts.indexOf('contact'), parts.indexOf('payment')];
  return contact < payment ? parts : parts.with(payment, 'contact').with(contact, 'payment');
}

export const orderForm = elementRecord('order-form', {
  button: WordsSchema,
  consent: WordsSchema,
  askLastName: z.boolean(),
  askCountry: z.boolean(),
  stages: z.boolean().optional().describe('Contact details first, the payment after them'),
  next: WordsSchema.optional().describe('Leads to the second stage'),
  askQuantity: z.boolean().optional(),
  askTaxNumber: z.boolean().optional(),
  parts: z.array(z.enum(ORDER_PARTS)).optional().describe('In what order they stand'),
  hideCode: z.boolean().optional().describe('Discount codes can then only come with a link'),
})({
  name: 'Order form',
  create: () => ({
    button: words('Pay ', { bound: 'order.total' }),
    consent: words('By paying you accept the terms.'),
    askLastName: false,
    askCountry: true,
  }),
  words: ({ stages }) => [['button'], ['consent'], ...(stages ? [['next']] : [])],
  personal: true,
});
