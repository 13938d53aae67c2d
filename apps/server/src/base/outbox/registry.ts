import type { z } from 'zod';
import { conversion } from './kinds/conversion';
import { course } from './kinds/course';
import { mail } from './kinds/mail';
import { receipt } from './kinds/receipt';
import { refund } from './kinds/refund';
import { voidCharge } from './kinds/voidCharge';
import { webhook } from './kinds/webhook';

/** Every kind of thing that is done outside. */
export const OUTBOX_KINDS = [mail, receipt, voidCharge, refund, course, webhook, conversion] as const;
type AnyKind = (typeof OUTBOX_KINDS)[number];
export type OutboxKindName = AnyKind['kind'];

/** How each kind is sent; the compiler names one that is missing. */
export type Senders = { [Kind in OutboxKindName]: (payload: z.infer<Extract<AnyKind, { kind: Kind }>['payload']>, rowId: string) => Promise<void> };

/** Whether a kind is tried for as long as it takes. */
export const isTireless = (kind: string): boolean => OUTBOX_KINDS.some((record) => record.kind === kind && 'tireless' in record);

/** What a row is and to whom, in words; null for kinds that are gone. */
export function outboxWords(kind: string, payload: unknown): { to: string; subject: string } | null {
  const record = OUTBOX_KINDS.find((candidate) => candidate.kind === kind);
  const parsed = record?.payload.safeParse(payload);
  return record && parsed?.success ? record.words(parsed.data as never) : null;
}

/** Sends a row by its kind. @throws Error if it did not work, or nobody knows how */
export async function sendRow(senders: Senders, row: { id: string; kind: string; payload: unknown }): Promise<void> {
  const record = OUTBOX_KINDS.find((candidate) => candidate.kind === row.kind);
  if (!record) throw new Error(`Nobody knows how to send “${row.kind}”.`);
  await senders[record.kind](record.payload.parse(row.payload) as never, row.id);
}
