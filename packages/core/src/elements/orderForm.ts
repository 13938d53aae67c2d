import { z } from 'zod';
import { elementRecord } from './record';
import { WordsSchema, words } from './words';

export const orderForm = elementRecord('order-form', {
  button: WordsSchema,
  consent: WordsSchema,
  askLastName: z.boolean(),
  askCountry: z.boolean(),
  stages: z.boolean().optional().describe('Contact details first, the payment after them'),
  next: WordsSchema.optional().describe('Leads to the second stage'),
  askQuantity: z.boolean().optional(),
  askTaxNumber: z.boolean().optional(),
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
