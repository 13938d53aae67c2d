import { z } from 'zod';
import { CampaignSchema } from '../facts';
import { MessageCountsSchema } from '../messages';
import { ModeSchema } from '../shop';
import type { EventKind } from '../tracking';

/**
 * What programs outside can be told of, by the name of its event. A further one is one more line here, if it is an event
 * already; views of pages are not told, since there are thousands a second.
 */
export const WEBHOOK_EVENTS = {
  'lead.submitted': 'Somebody left an address',
  'checkout.started': 'A checkout was begun',
  'order.paid': 'An order was paid',
  'order.refunded': 'Money was given back',
  'payment.failed': 'A payment failed',
  'offer.taken': 'An offer or a bump was taken',
  'offer.declined': 'An offer was declined',
  'appointment.booked': 'An appointment was booked',
  'appointment.cancelled': 'An appointment was cancelled',
} as const satisfies Partial<Record<EventKind, string>>;
export type WebhookEvent = keyof typeof WEBHOOK_EVENTS;
const EVENT_NAMES = Object.keys(WEBHOOK_EVENTS) as [WebhookEvent, ...WebhookEvent[]];

/** Whether an event is told outside at all. */
export const isWebhookEvent = (kind: string): kind is WebhookEvent => Object.hasOwn(WEBHOOK_EVENTS, kind);

const EndpointSchema = z
  .url({ protocol: /^https?$/, error: 'Enter an address that begins with https://' })
  .max(1000, 'Keep the address under 1,000 characters.')
  .refine((url) => !/^https?:\/\/[^/]*@/.test(url), 'Leave name and password out of the address: each message is signed.');

export const NewWebhookSchema = z.object({
  name: z.string().trim().min(1, 'Give it a name.').max(80, 'Keep the name under 80 characters.'),
  url: EndpointSchema,
  events: z.array(z.enum(EVENT_NAMES)).min(1, 'Choose at least one event.'),
});
export type NewWebhook = z.infer<typeof NewWebhookSchema>;

export const WebhookSchema = NewWebhookSchema.extend({
  ...MessageCountsSchema.shape,
  id: z.string(),
  isOn: z.boolean(),
  createdAt: z.int(),
  olderSecretUntil: z.int().nullable().describe('Until when a secret that was rotated out signs beside the new one'),
});
export type Webhook = z.infer<typeof WebhookSchema>;

/** A webhook with its secret, which is shown once. */
export const WebhookSecretSchema = z.object({ webhook: WebhookSchema, secret: z.string() });
export type WebhookSecret = z.infer<typeof WebhookSecretSchema>;

export const WebhookChangeSchema = NewWebhookSchema.extend({ isOn: z.boolean() });
export type WebhookChange = z.infer<typeof WebhookChangeSchema>;

const MoneyLine = z.object({
  name: z.string(),
  quantity: z.int(),
  amount: z.int().describe('Of the line, minor units of the currency'),
  role: z.string().describe('main, bump, upsell or downsell'),
  productId: z.string().nullable(),
});

/** What a message says, by the Standard Webhooks convention: its type, when it happened, and the data. */
export const WebhookBodySchema = z.object({
  type: z.enum(EVENT_NAMES),
  timestamp: z.iso.datetime().describe('When it happened'),
  data: z.object({
    mode: ModeSchema.describe('What happens in test mode is told too, and marked'),
    funnel: z.object({ id: z.string(), name: z.string() }).nullable(),
    stop: z.object({ id: z.string(), name: z.string() }).nullable(),
    contact: z
      .object({ id: z.string(), email: z.string(), firstName: z.string(), lastName: z.string(), country: z.string().nullable(), tags: z.array(z.string()) })
      .nullable(),
    order: z
      .object({
        id: z.string(),
        number: z.int().nullable().describe('Null for a gift'),
        currency: z.string(),
        total: z.int().describe('Paid on the day of the order, tax and shipping included, minor units'),
        tax: z.int(),
        lines: z.array(MoneyLine),
      })
      .nullable(),
    campaign: CampaignSchema.nullable(),
    details: z.record(z.string(), z.unknown()).describe('What the event itself says, for example the value of an offer'),
  }),
});
export type WebhookBody = z.infer<typeof WebhookBodySchema>;
