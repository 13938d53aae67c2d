import { createHash, randomBytes } from 'node:crypto';
import type { LeadSource, NewLeadSource } from '@ruta/core/leads';
import { NewLeadSourceSchema, readOutsideLead } from '@ruta/core/leads';
import { EmailSchema } from '@ruta/core/shop';
import { desc, eq, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { fieldRefusal, notFound } from '../base/problem';
import type { Services } from '../base/services';
import { addTags, keepAnswers } from '../contacts/answers';
import { saveContact } from '../contacts/store';
import { leadSources } from '../contacts/tables';
import { loadShop } from '../shop/store';
import type { Tracked } from '../tracking/recorder';
import { hasSentForm } from '../tracking/sentForms';
import { makeEvent } from '../tracking/visitor';

type SourceRow = typeof leadSources.$inferSelect;

const hashOf = (key: string): string => createHash('sha256').update(key).digest('hex');
const viewOf = ({ keyHash: _hash, createdAt: _at, ...view }: SourceRow): LeadSource => view;

export const listSources = (db: Db): LeadSource[] => db.select().from(leadSources).orderBy(desc(leadSources.createdAt)).all().map(viewOf);

/** A new place that sends leads. @returns it with its key, which is kept nowhere */
export function addSource({ db, clock }: Pick<Services, 'db' | 'clock'>, input: NewLeadSource): { source: LeadSource; key: string } {
  const key = randomBytes(18).toString('base64url');
  const row: SourceRow = {
    ...NewLeadSourceSchema.parse(input),
    id: newId(clock, 'leadSource'),
    keyHash: hashOf(key),
    received: 0,
    lastAt: null,
    createdAt: clock.now(),
  };
  db.insert(leadSources).values(row).run();
  return { source: viewOf(row), key };
}

/** @throws Refusal 404 if there is none */
export function removeSource(db: Db, id: string): void {
  if (db.delete(leadSources).where(eq(leadSources.id, id)).run().changes === 0) throw notFound('This place');
}

export const sourceByKey = (db: Db, key: string): SourceRow | undefined =>
  db
    .select()
    .from(leadSources)
    .where(eq(leadSources.keyHash, hashOf(key)))
    .get();

/**
 * Keeps a lead that another place sent: contact, answers, tags and event at once.
 * @throws Refusal 400 at `email` if there is no address in it
 */
export function takeLead(services: Tracked, source: SourceRow, sent: unknown): void {
  const { db, clock, recorder } = services;
  const lead = readOutsideLead(sent, source.fields);
  const email = EmailSchema.safeParse(lead.email);
  if (!email.success) {
    throw fieldRefusal(
      'email',
      lead.email ? (email.error.issues[0]?.message ?? 'This is no e-mail address.') : 'No e-mail address was found in what was sent.',
    );
  }
  const { mode } = loadShop(db).settings;
  recorder.flush();
  db.transaction((tx) => {
    const contact = saveContact(tx, services, {
      email: email.data,
      firstName: lead.firstName,
      lastName: lead.lastName,
      answers: Object.fromEntries(lead.answers.map(({ label, value }) => [label, value])),
      funnelId: null,
      campaign: { source: source.name },
      isOwner: false,
    });
    keepAnswers(tx, services, contact.id, source.id, lead.answers);
    addTags(tx, services, contact.id, source.tags);
    const again = hasSentForm(tx, contact.id, source.id, mode) ? { again: true } : {};
    recorder.record(makeEvent(services, 'lead.submitted', mode, null, { contactId: contact.id, data: { form: source.id, ...again } }));
    tx.update(leadSources)
      .set({ received: sql`${leadSources.received} + 1`, lastAt: clock.now() })
      .where(eq(leadSources.id, source.id))
      .run();
  });
}
