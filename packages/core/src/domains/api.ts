import { z } from 'zod';
import { DnsRecordSchema, DomainNameSchema } from './domain';

/** A domain waits for its entries, or leads here. */
export const DomainStateSchema = z.enum(['waiting', 'ready']);
export type DomainState = z.infer<typeof DomainStateSchema>;

export const NewDomainSchema = z.object({
  host: DomainNameSchema,
  funnelId: z.string().max(40).nullable().describe('What it opens on; null for the shop’s own first page'),
});
export type NewDomain = z.infer<typeof NewDomainSchema>;
export const DomainChangeSchema = NewDomainSchema.pick({ funnelId: true });

export const DomainSchema = z.object({
  id: z.string(),
  host: z.string(),
  funnelId: z.string().nullable(),
  state: DomainStateSchema,
  address: z.string().describe('As visitors write it'),
  records: z.array(DnsRecordSchema),
  problems: z.array(z.string()).describe('Why it does not lead here, as last looked up'),
  checkedAt: z.int().nullable(),
});
export type Domain = z.infer<typeof DomainSchema>;
