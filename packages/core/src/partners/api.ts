import { z } from 'zod';
import { listPageSchema } from '../lists';
import { PartnerSchema } from './partner';
import { ProgramSchema } from './program';
import { RateSchema } from './rate';

/** What a partner has earned, minor units: what is still held, what can be paid out, what was. They add up to what was earned. */
export const EarningsSchema = z.object({
  orders: z.int().describe('Paid live orders that they brought'),
  earned: z.int(),
  held: z.int().describe('Waiting for refunds'),
  payable: z.int().describe('Below 0 if more was paid out than is left after refunds'),
  paidOut: z.int(),
});
export type Earnings = z.infer<typeof EarningsSchema>;

export const PartnerRowSchema = EarningsSchema.extend({
  id: z.string(),
  partner: PartnerSchema,
  revision: z.string().describe('Stands for this state, for `If-Match`'),
  link: z.string().describe('Their short link'),
  recruiter: z.string().nullable(),
  createdAt: z.int(),
});
export type PartnerRow = z.infer<typeof PartnerRowSchema>;
export const PartnerPageSchema = listPageSchema(PartnerRowSchema);

export const ProgramViewSchema = z.object({ program: ProgramSchema, revision: z.string() });

/** Who brought the buyer of an order, and what it has earned all partners by now. */
export const OrderPartnerSchema = z.object({
  partner: z.object({ id: z.string(), name: z.string() }).nullable(),
  commission: z.int().describe('Of both tiers, minor units'),
});
export type OrderPartner = z.infer<typeof OrderPartnerSchema>;

/** What a partner earned by one line of an order. */
export const EarnedSchema = z.object({
  id: z.string(),
  at: z.int(),
  orderId: z.string(),
  orderNumber: z.int().nullable(),
  goods: z.string(),
  tier: z.union([z.literal(1), z.literal(2)]),
  rate: RateSchema,
  base: z.int().describe('What is left of the line without tax; minor units'),
  amount: z.int(),
  paidOut: z.int(),
  heldUntil: z.int(),
});
export type Earned = z.infer<typeof EarnedSchema>;

export const StatementSchema = z.object({
  row: PartnerRowSchema,
  earned: z.array(EarnedSchema).describe('The latest 500'),
  payouts: z.array(z.object({ id: z.string(), at: z.int(), amount: z.int() })),
  recruited: z.array(z.object({ id: z.string(), name: z.string() })),
});
export type Statement = z.infer<typeof StatementSchema>;

/** What can be paid out now, and what was paid out before. */
export const PayoutsSchema = z.object({
  due: z.array(z.object({ partnerId: z.string(), name: z.string(), email: z.string(), amount: z.int() })),
  total: z.int(),
  done: z.array(z.object({ id: z.string(), at: z.int(), total: z.int(), partners: z.int() })),
});
export type Payouts = z.infer<typeof PayoutsSchema>;
/** The total that was shown, so that nothing else is paid out than what somebody saw. */
export const PayOutSchema = z.object({ total: z.int().min(1, 'There is nothing to pay out.') });
export const PaidOutSchema = z.object({ id: z.string() });
