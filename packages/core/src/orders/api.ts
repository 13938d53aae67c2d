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
export const OrderListQuerySchema = ListQuerySchema.extend({
  contactId: z.string().max(40).optional().describe('Everything of one contact, gifts too'),
  mode: ModeSchema.optional(),
});
export type OrderListQuery = z.infer<typeof OrderListQuerySchema>;
export const OrderPageSchema = listPageSchema(OrderRowSchema);

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

export const QueuedSchema = z.object({ queued: z.boolean() });
