import type { LeadQuality } from '@ruta/core/contacts';
import type { TrackedEvent } from '@ruta/core/tracking';
import { and, desc, eq, sql } from 'drizzle-orm';
import { loadShop } from '../shop/store';
import type { Tracked } from '../tracking/recorder';
import { events } from '../tracking/tables';
import { makeEvent } from '../tracking/visitor';
import type { ContactRow } from './store';
import { contacts } from './tables';

/**
 * Marks how a lead turned out, and records it as an event of the visit in which they became one, so that a platform that is
 * told knows which of its presses it was. Marked the same again, or unmarked, nothing is recorded.
 */
export function judgeLead(services: Tracked, contact: ContactRow, quality: LeadQuality | null): ContactRow {
  const { db, recorder } = services;
  if (contact.quality === quality) return contact;
  return db.transaction((tx) => {
    tx.update(contacts).set({ quality }).where(eq(contacts.id, contact.id)).run();
    if (quality !== null) recorder.record(judged(services, contact, quality));
    return { ...contact, quality };
  });
}

function judged(services: Tracked, contact: ContactRow, quality: LeadQuality): TrackedEvent {
  const { db } = services;
  const lead = db
    .select()
    .from(events)
    .where(and(eq(events.contactId, contact.id), eq(events.kind, 'lead.submitted'), sql`json_extract(${events.data}, '$.again') IS NULL`))
    .orderBy(desc(events.at))
    .limit(1)
    .get();
  const { form } = lead?.data ?? {};
  const data = { isGood: quality === 'good', leadEventId: lead?.id ?? null, ...(typeof form === 'string' ? { form } : {}) };
  const now = makeEvent(services, 'lead.judged', lead?.mode ?? loadShop(db).settings.mode, null, { contactId: contact.id, data });
  if (!lead) return now;
  // Nobody browses while this is marked: device, visit and what led here are those of the lead.
  const { id, at, kind } = now;
  return { ...lead, id, at, kind, data, visitorId: null };
}
