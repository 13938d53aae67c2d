import { and, eq, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { events } from './tables';

/**
 * Whether a contact has sent a form before, so that sending it again is no second lead. What is gathered must be written
 * down before this is asked.
 * @param formId the form, or the place outside that sends leads here
 */
export const hasSentForm = (db: Db, contactId: string, formId: string, mode: 'test' | 'live'): boolean =>
  db
    .select({ id: events.id })
    .from(events)
    .where(
      and(eq(events.contactId, contactId), eq(events.kind, 'lead.submitted'), eq(events.mode, mode), sql`json_extract(${events.data}, '$.form') = ${formId}`),
    )
    .limit(1)
    .get() !== undefined;
