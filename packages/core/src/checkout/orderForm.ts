import { z } from 'zod';
import type { Product } from '../catalog';
import { type Currency, parseMoney, toDecimal } from '../money';
import { chosenOption } from '../pricing';
import { EmailSchema } from '../shop';
import type { CartBuyer, CartLine } from './cart';

/** What stands in an order form, as short strings by the name of the field: to be shown again whatever it is. */
export type OrderValues = Record<string, string>;

const MAX_KEPT_LENGTH = 300;
const BUYER_FIELDS = ['email', 'firstName', 'lastName', 'country', 'region', 'street', 'postcode', 'city', 'taxNumber'] as const satisfies ReadonlyArray<
  keyof CartBuyer
>;
const FORM_FIELDS = ['cart', ...BUYER_FIELDS, 'option', 'quantity', 'chosen', 'code'];

const NameSchema = z.string().trim().max(80, 'Keep the name under 80 characters.');
const AddressLineSchema = z.string().trim().max(120, 'Keep this under 120 characters.').default('');

/** What a buyer sends from the order form. Names and prices of goods are never among it: the server knows those. */
export const OrderFormSchema = z.object({
  cart: z.string().regex(/^crt_[0-9a-z]{6,32}$/, 'This checkout has ended. Reload the page.'),
  firstName: NameSchema.min(1, 'Enter your first name.'),
  lastName: NameSchema.default(''),
  email: EmailSchema,
  street: AddressLineSchema,
  postcode: AddressLineSchema,
  city: AddressLineSchema,
  shown: z.coerce.number().int().min(0, 'The total shown is not a number.'),
  token: z.string().max(200).default(''),
});
export type OrderForm = z.infer<typeof OrderFormSchema>;

/** What was typed, as short strings. */
export function formValues(body: unknown): OrderValues {
  const kept: OrderValues = {};
  if (typeof body !== 'object' || body === null) return kept;
  for (const name of [...FORM_FIELDS, ...Object.keys(body).filter(isTickName).slice(0, MAX_TICKS)]) {
    const value = Object.hasOwn(body, name) ? (body as Record<string, unknown>)[name] : undefined;
    if (typeof value === 'string') kept[name] = value.slice(0, MAX_KEPT_LENGTH);
  }
  return kept;
}

const MAX_TICKS = 40;
const isTickName = (name: string) => /^bump-off_[0-9a-z]{6,32}$/.test(name);

/** The name of the field in which a bump is ticked. */
export const tickName = (offerId: string): string => `bump-${offerId}`;

/** What a link to a checkout may choose beforehand: `?option=…&quantity=2&chosen=8&code=LONGNIGHT`. */
export function presetOf(query: Record<string, unknown>): OrderValues {
  const preset: OrderValues = {};
  for (const name of ['option', 'quantity', 'chosen', 'code'] as const) {
    const value = query[name];
    if (typeof value === 'string' && value !== '') preset[name] = value.slice(0, 40);
  }
  return preset;
}

/** Whatever was said of the buyer, ready to be kept with the cart. */
export function buyerOf(values: OrderValues): CartBuyer {
  return Object.fromEntries(BUYER_FIELDS.flatMap((name) => (values[name]?.trim() ? [[name, values[name]]] : [])));
}

/** A cart's lines and buyer as a form shows them again. */
export function valuesOf(lines: readonly CartLine[], buyer: CartBuyer, code: string | null, currency: Currency): OrderValues {
  const line = lines.find(({ role }) => role === 'main');
  return {
    ...buyer,
    ...Object.fromEntries(lines.flatMap(({ role, offerId }) => (role === 'bump' && offerId ? [[tickName(offerId), 'on']] : []))),
    ...(line?.priceId ? { option: line.priceId } : {}),
    ...(line && line.quantity > 1 ? { quantity: String(line.quantity) } : {}),
    ...(line && line.chosen !== null ? { chosen: toDecimal(line.chosen, currency) } : {}),
    ...(code ? { code } : {}),
  };
}

export interface ReadLine {
  line: CartLine;
  /** What is wrong, by the name of the field. */
  errors: Record<string, string>;
}

/**
 * Reads which way to buy a product was chosen. What does not fit is said at its field and left out, so that there is a
 * line to quote at all times.
 * @param fallback what is taken where nothing was chosen, or what was chosen is gone
 */
export function readLine(
  product: Pick<Product, 'id' | 'editions'>,
  values: OrderValues,
  currency: Currency,
  options: { offerId?: string | null; fallbackPriceId: string },
): ReadLine {
  const errors: Record<string, string> = {};
  const wanted = chosenOption(product, values.option);
  const { option } = wanted.option.id === values.option ? wanted : chosenOption(product, options.fallbackPriceId);
  if (values.option && values.option !== option.id) errors.option = 'This choice is not on sale any more. Choose another.';
  const typed = (values.quantity ?? '1').trim();
  const quantity = /^\d{1,4}$/.test(typed) ? Number(typed) : 0;
  if (quantity < 1) errors.quantity = 'Enter how many, in digits.';
  let chosen: number | null = null;
  if (option.price.kind === 'pay-what-you-want') {
    if (values.chosen?.trim()) {
      const parsed = parseMoney(values.chosen, currency);
      if (parsed.ok) chosen = parsed.amount;
      else errors.chosen = parsed.message;
    } else if (values.chosen !== undefined) errors.chosen = 'Enter what you would like to pay.';
  }
  const line: CartLine = { role: 'main', offerId: options.offerId ?? null, productId: product.id, priceId: option.id, quantity: Math.max(1, quantity), chosen };
  return { line, errors };
}
