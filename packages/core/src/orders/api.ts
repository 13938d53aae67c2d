import { z } from 'zod';
import { TaxClassSchema } from '../catalog';
import { CampaignSchema } from '../facts';
import { ListQuerySchema, listPageSchema } from '../lists';
import { ChargeStateSchema, PaymentKindSchema, PaymentStateSchema } from '../payments';
import { StoredQuoteSchema } from '../pricing';
import { ModeSchema } from '../shop';
import { StoryEntrySchema } from '../tracking';
import { BuyerSchema, OrderLineRoleSchema, OrderStateSchema } from './order';
import { RefundsSchema } from './refundApi';

export const OrderRowSchema = z.object({
  id: z.string(),
  number: z.int().nullable().describe('Null for a gift'),
  paidAt: z.int(),
  disputed: z.boolean().describe('A bank asks for money of it'),
  firstName: z.string(),
  email: z.string(),
  state: OrderStateSchema,
  goods: z.string().describe('Names of what was bought'),
  funnelName: z.string(),
  total: z.int(),
  currency: z.string(),
  mode: ModeSchema,
});
export type OrderRow = z.infer<typeof OrderRowSchema>;
const DaySchema = z.iso.date('Enter a day like 2026-03-31.');
/** Which orders are meant; whatever is missing filters nothing. */
export const OrderFilterSchema = z.object({
  contactId: z.string().max(40).optional().describe('Everything of one contact, gifts too'),
  mode: ModeSchema.optional(),
  state: z.enum(['paid', 'part-refunded', 'refunded', 'disputed']).optional().describe('Disputed: a bank asks for money of it'),
  from: DaySchema.optional().describe('First day, in the shop’s time zone'),
  until: DaySchema.optional().describe('Last day, included'),
  productId: z.string().max(40).optional(),
  funnelId: z.string().max(40).optional(),
  country: z.string().length(2).optional().describe('Of the billing address'),
});
export type OrderFilter = z.infer<typeof OrderFilterSchema>;
export const OrderListQuerySchema = ListQuerySchema.extend(OrderFilterSchema.shape);
export type OrderListQuery = z.infer<typeof OrderListQuerySchema>;
export const OrderPageSchema = listPageSchema(OrderRowSchema);

/** Something that somebody of the shop has written down about an order; buyers never see it. */
export const OrderNoteSchema = z.object({ id: z.string(), at: z.int(), by: z.string().nullable(), text: z.string() });
export type OrderNote = z.infer<typeof OrderNoteSchema>;
export const NewOrderNoteSchema = z.object({
  text: z.string().trim().min(1, 'Enter the note.').max(2000, 'Keep the note under 2,000 characters.'),
});

/** Name and postal address of an order as they are corrected. Country and region stay: they decided the tax. */
export const OrderAddressSchema = z.object({
  firstName: z.string().trim().max(100, 'Keep the name under 100 characters.'),
  lastName: z.string().trim().max(100, 'Keep the name under 100 characters.'),
  address: z
    .object({
      street: z.string().trim().min(1, 'Enter the street and number.').max(200, 'Keep it under 200 characters.'),
      postcode: z.string().trim().min(1, 'Enter the postcode.').max(20, 'Keep it under 20 characters.'),
      city: z.string().trim().min(1, 'Enter the town.').max(100, 'Keep it under 100 characters.'),
    })
    .nullable()
    .describe('Null where nothing is sent'),
});
export type OrderAddress = z.infer<typeof OrderAddressSchema>;

const ChargeViewSchema = z.object({
  id: z.string(),
  state: ChargeStateSchema,
  amount: z.int(),
  provider: z.string(),
  providerChargeId: z.string().nullable(),
  cardLast4: z.string().nullable(),
  failure: z.string().nullable(),
  dispute: z.enum(['open', 'won', 'lost']).nullable().describe('The buyer’s bank asks for the money'),
  createdAt: z.int(),
});

const PaymentViewSchema = z.object({
  id: z.string(),
  kind: PaymentKindSchema,
  state: PaymentStateSchema,
  due: z.int(),
  amount: z.int(),
  paidAt: z.int().nullable(),
  quote: StoredQuoteSchema,
  charges: z.array(ChargeViewSchema),
});

const OrderLineViewSchema = z.object({
  id: z.string(),
  role: OrderLineRoleSchema,
  name: z.string(),
  quantity: z.int(),
  total: z.int(),
  tax: z.int(),
  taxClass: TaxClassSchema.nullable(),
  rate: z.number(),
  refunded: z.int(),
  isAtProcessor: z.boolean().describe('Whether its money was taken at an account that is connected, which can give it back'),
  partOf: z.string().nullable(),
});

/** What the register said of a buyer's tax number; `settled` by a person who has dealt with a number that it does not know. */
export const TaxNumberProofStateSchema = z.enum(['known', 'unknown', 'silent', 'settled']);
export type TaxNumberProofState = z.infer<typeof TaxNumberProofStateSchema>;
export const TaxNumberProofSchema = z.object({
  number: z.string(),
  state: TaxNumberProofStateSchema,
  name: z.string(),
  address: z.string(),
  reference: z.string(),
  askedAt: z.int(),
});
export type TaxNumberProof = z.infer<typeof TaxNumberProofSchema>;

/** What a payment brings beside its money and its lines. */
export const ConsequenceSchema = z.enum(['delivery', 'commission', 'plans', 'receipt', 'event', 'notice']);
export type Consequence = z.infer<typeof ConsequenceSchema>;
export const CONSEQUENCE_WORDS: Record<Consequence, string> = {
  delivery: 'files, keys and access',
  commission: 'the partner’s commission',
  plans: 'its later payments',
  receipt: 'the receipt',
  event: 'its entry in the figures',
  notice: 'your notice of the sale',
};

export const OrderDetailSchema = z.object({
  id: z.string(),
  number: z.int().nullable(),
  state: OrderStateSchema,
  mode: ModeSchema,
  currency: z.string(),
  total: z.int(),
  paidAt: z.int().nullable(),
  createdAt: z.int(),
  buyer: BuyerSchema,
  contactId: z.string().nullable(),
  funnelId: z.string(),
  funnelName: z.string(),
  campaign: CampaignSchema.nullable(),
  lines: z.array(OrderLineViewSchema),
  payments: z.array(PaymentViewSchema),
  refunds: RefundsSchema,
  orderUrl: z.string(),
  notes: z.array(OrderNoteSchema).describe('The newest first'),
  troubles: z
    .array(z.object({ id: z.string(), what: ConsequenceSchema, message: z.string(), at: z.int() }))
    .describe('What a payment should have brought and could not, while the money was taken'),
  taxNumberProof: TaxNumberProofSchema.nullable().describe('What the register said of the buyer’s tax number, where tax was left to them'),
  mails: z.array(
    z.object({
      id: z.string(),
      to: z.string(),
      subject: z.string(),
      sentAt: z.int().nullable(),
      failedAt: z.int().nullable(),
      lastError: z.string().nullable(),
    }),
  ),
  story: z.array(StoryEntrySchema),
});
export type OrderDetail = z.infer<typeof OrderDetailSchema>;

export const SettledSchema = z.object({ settled: z.boolean() });
export const DoneAgainSchema = z.object({ done: z.boolean() });
export const QueuedSchema = z.object({ queued: z.boolean() });
