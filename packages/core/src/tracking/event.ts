import { z } from 'zod';
import { type Campaign, CampaignSchema, type Device, DeviceSchema, folded } from '../facts';
import { idSchema } from '../ids';
import { ModeSchema } from '../shop';
import { ClickIdsSchema } from './clickIds';
import { EventKindSchema } from './registry';

/** One thing that happened, written once under its id. */
export const EventSchema = z.object({
  id: idSchema('event'),
  at: z.int().describe('Unix time in milliseconds'),
  kind: EventKindSchema,
  mode: ModeSchema.describe('What happens in test mode is kept but left out of every figure'),
  visitorId: idSchema('visitor').nullable(),
  visitId: idSchema('visit').nullable(),
  funnelId: idSchema('funnel').nullable(),
  stepId: idSchema('step').nullable(),
  publicationId: idSchema('publication').nullable().describe('What stood there at that moment'),
  orderId: idSchema('order').nullable(),
  contactId: idSchema('contact').nullable(),
  device: DeviceSchema.nullable(),
  campaign: CampaignSchema.nullable().describe('Of the latest visit that had one'),
  firstCampaign: CampaignSchema.nullable().describe('Of the first visit'),
  clicks: ClickIdsSchema.nullable().describe('Of the latest visit that had one'),
  arms: z
    .array(z.object({ roundId: z.string(), armId: z.string() }))
    .nullable()
    .default(null)
    .describe('Of the split tests that it happened in'),
  mayTell: z.boolean().describe('Whether ad platforms may be told: the visitor agreed, or nobody is asked'),
  data: z.record(z.string(), z.unknown()).default({}),
});
export type TrackedEvent = z.infer<typeof EventSchema>;

/** A visit ends after this long without an event. */
export const VISIT_QUIET_MS = 30 * 60 * 1000;

/** Whether an event after `lastAt` begins a new visit: after more than 30 minutes of quiet. */
export function beginsVisit(lastAt: number | undefined, now: number): boolean {
  return lastAt === undefined || now - lastAt > VISIT_QUIET_MS;
}

/** The UTM parameters of an address, folded; undefined if there are none. */
export function campaignOf(query: Record<string, unknown>): Campaign | undefined {
  const campaign: Campaign = {};
  for (const key of ['source', 'medium', 'campaign', 'content', 'term'] as const) {
    const value = query[`utm_${key}`];
    const words = typeof value === 'string' ? folded(value) : '';
    if (words !== '') campaign[key] = words.slice(0, 100);
  }
  return Object.keys(campaign).length > 0 ? campaign : undefined;
}

/** The kind of device from the agent's own description. */
export function deviceOf(userAgent: string): Device {
  if (/iPad|Tablet|PlayBook|Silk|Android(?!.*Mobile)/i.test(userAgent)) return 'tablet';
  return /Mobi|iPhone|Android/i.test(userAgent) ? 'phone' : 'desktop';
}
