import { z } from 'zod';
import { toDecimal } from '../money';
import type { SummedQuote } from '../pricing';
import type { TrackedEvent } from './event';

const MoneyText = z.number().describe('In whole units of the currency, for example 138 or 24.5');
const DataProductSchema = z.object({
  id: z.string(),
  name: z.string(),
  quantity: z.int(),
  total: MoneyText.describe('Of the line after discounts, as the shop’s prices are'),
});

/**
 * What stands in `window.rutaData` on public pages that carry the seller's own code, for a tag manager to read. It is a list
 * that grows: whoever reads it looks through what is there and then listens to `push`.
 */
export const DataLayerEntrySchema = z.discriminatedUnion('event', [
  z
    .object({
      event: z.literal('page'),
      mode: z.enum(['test', 'live']),
      funnel: z.string().describe('Its address'),
      stop: z.object({ id: z.string(), kind: z.string(), address: z.string() }),
      currency: z.string(),
      product: z.object({ name: z.string(), price: MoneyText.nullable() }).nullable().describe('What the page is about'),
    })
    .describe('First on every page'),
  z
    .object({ event: z.literal('page_viewed'), id: z.string().describe('Id of the event, the same that the server keeps') })
    .describe('Once the view is counted'),
  z
    .object({
      event: z.enum(['product_viewed', 'lead', 'checkout_started', 'cart_added', 'payment_given', 'offer_declined', 'appointment_booked']),
      id: z.string().describe('Id of the event, the same that is sent by the server, so that it is counted once'),
      value: MoneyText.optional(),
      currency: z.string().optional(),
      product: z.object({ id: z.string(), name: z.string() }).optional(),
      form: z.string().optional().describe('Of a lead: id of the form'),
    })
    .describe('What happened since the last page, told once in the browser of whoever did it'),
  z
    .object({
      event: z.literal('purchase'),
      id: z.string().describe('Id of the event, the same that is sent by the server, so that it is counted once'),
      order: z.object({
        number: z.string(),
        value: MoneyText.describe('Paid with it, tax and shipping included'),
        tax: MoneyText,
        shipping: MoneyText,
        currency: z.string(),
        code: z.string().nullable().describe('The discount code that was used'),
        products: z.array(DataProductSchema),
      }),
    })
    .describe('Once in the buyer’s browser for an order, and for each thing added to it by one click'),
]);
export type DataLayerEntry = z.infer<typeof DataLayerEntrySchema>;
export type PurchaseEntry = Extract<DataLayerEntry, { event: 'purchase' }>;

/** Events that the browser hears of, by their name in the data layer. Purchases come with their page. */
const MOMENTS = {
  'product.viewed': 'product_viewed',
  'lead.submitted': 'lead',
  'checkout.started': 'checkout_started',
  'cart.added': 'cart_added',
  'payment.given': 'payment_given',
  'offer.declined': 'offer_declined',
  'appointment.booked': 'appointment_booked',
} as const;

/** An event as the data layer tells it; undefined for what the browser does not hear of. */
export function momentEntry({ id, kind, data, mode }: TrackedEvent, currency: string): DataLayerEntry | undefined {
  if (!Object.hasOwn(MOMENTS, kind) || mode === 'test' || data.again === true) return undefined;
  const { value, productId, name, form } = data;
  return {
    event: MOMENTS[kind as keyof typeof MOMENTS],
    id,
    ...(typeof value === 'number' ? { value: wholeUnits(value, currency), currency } : {}),
    ...(typeof productId === 'string' && typeof name === 'string' ? { product: { id: productId, name } } : {}),
    ...(typeof form === 'string' ? { form } : {}),
  };
}

/** An amount in whole units, as analysts and ad platforms want it. */
export const wholeUnits = (amount: number, currency: string): number => Number(toDecimal(amount, currency));

/** A paid order as the data layer tells it. @param id of its event */
export function purchaseEntry(id: string, number: string, quote: SummedQuote): PurchaseEntry {
  const { currency } = quote;
  const units = (amount: number) => wholeUnits(amount, currency);
  return {
    event: 'purchase',
    id,
    order: {
      number,
      value: units(quote.dueToday),
      tax: units(quote.tax),
      shipping: units(quote.shipping?.total ?? 0),
      currency,
      code: quote.code?.applied ? quote.code.code : null,
      products: quote.lines.map((line) => ({ id: line.productId, name: line.name, quantity: line.quantity, total: units(line.discounted) })),
    },
  };
}

/** What can stand in code that runs after a purchase, between double braces; each is written for a script or an address alike. */
export const ORDER_VALUES = {
  'order.number': ({ order }: PurchaseEntry) => order.number,
  'order.value': ({ order }: PurchaseEntry) => String(order.value),
  'order.tax': ({ order }: PurchaseEntry) => String(order.tax),
  'order.shipping': ({ order }: PurchaseEntry) => String(order.shipping),
  'order.currency': ({ order }: PurchaseEntry) => order.currency,
  'order.code': ({ order }: PurchaseEntry) => order.code ?? '',
  'event.id': ({ id }: PurchaseEntry) => id,
} as const;

/**
 * Code with the order's values put in: `{{order.value}}` becomes `138`. Every value is made of letters that neither end a
 * text in a script nor a place in an address; what is not known stays as it is written.
 */
export function withOrderValues(code: string, purchase: PurchaseEntry): string {
  return code.replace(/\{\{\s*([\w.]+)\s*\}\}/g, (written, name: string) =>
    Object.hasOwn(ORDER_VALUES, name) ? ORDER_VALUES[name as keyof typeof ORDER_VALUES](purchase).replace(/[^\w.,:-]/g, '') : written,
  );
}
