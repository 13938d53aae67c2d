import { eq } from 'drizzle-orm';
import type { Db } from '../db/open';
import { newId } from '../ids';
import type { Services } from '../services';
import { contacts } from './tables';

export type ContactRow = typeof contacts.$inferSelect;

export interface ContactDetails {
  email: string;
  firstName?: string | undefined;
  lastName?: string | undefined;
  country?: string | undefined;
  answers?: Record<string, string>;
  funnelId: string;
  campaign: ContactRow['campaign'];
}

/** Adds a contact, or completes the one with this address: an address is one person, however it is written. */
export function keepContact(tx: Db, services: Pick<Services, 'clock'>, details: ContactDetails): ContactRow {
  const now = services.clock.now();
  const email = details.email.trim().toLowerCase();
  const known = findContactByEmail(tx, email);
  const row: ContactRow = {
    id: known?.id ?? newId(services.clock, 'contact'),
    email,
    firstName: details.firstName || known?.firstName || '',
    lastName: details.lastName || known?.lastName || '',
    country: details.country ?? known?.country ?? null,
    answers: { ...known?.answers, ...details.answers },
    funnelId: known?.funnelId ?? details.funnelId,
    campaign: known?.campaign ?? details.campaign,
    createdAt: known?.createdAt ?? now,
    updatedAt: now,
  };
  tx.insert(contacts).values(row).onConflictDoUpdate({ target: contacts.id, set: row }).run();
  return row;
}

export function findContactByEmail(db: Db, email: string): ContactRow | undefined {
  return db.select().from(contacts).where(eq(contacts.email, email.trim().toLowerCase())).get();
}

export function findContact(db: Db, id: string): ContactRow | undefined {
  return db.select().from(contacts).where(eq(contacts.id, id)).get();
}
