import type { Answer } from '@ruta/core/leads';
import { and, asc, desc, eq, notInArray, sql } from 'drizzle-orm';
import { builtOnce, type Db } from '../base/db';
import type { Services } from '../base/services';
import { contactTags, formAnswers } from './tables';

/** Keeps what was answered on a form, by its fields: the last answer of each counts. */
export function keepAnswers(tx: Db, { clock }: Pick<Services, 'clock'>, contactId: string, formId: string, answers: readonly Answer[]): void {
  for (const answer of answers) {
    const row = { contactId, formId, ...answer, at: clock.now() };
    tx.insert(formAnswers)
      .values(row)
      .onConflictDoUpdate({ target: [formAnswers.contactId, formAnswers.formId, formAnswers.field], set: row })
      .run();
  }
}

/** Tags a contact; one it has already keeps its day. */
export function addTags(tx: Db, { clock }: Pick<Services, 'clock'>, contactId: string, tags: readonly string[]): void {
  for (const tag of tags) tx.insert(contactTags).values({ contactId, tag, at: clock.now() }).onConflictDoNothing().run();
}

/** Gives a contact just these tags. */
export function setTags(tx: Db, services: Pick<Services, 'clock'>, contactId: string, tags: readonly string[]): void {
  tx.delete(contactTags)
    .where(and(eq(contactTags.contactId, contactId), notInArray(contactTags.tag, [...tags])))
    .run();
  addTags(tx, services, contactId, tags);
}

// Reports ask them of every order, so the queries are put together once.
const tagsByContact = builtOnce((db) =>
  db
    .select({ tag: contactTags.tag })
    .from(contactTags)
    .where(eq(contactTags.contactId, sql.placeholder('contactId')))
    .orderBy(asc(contactTags.tag))
    .prepare(),
);
const answersByContact = builtOnce((db) =>
  db
    .select()
    .from(formAnswers)
    .where(eq(formAnswers.contactId, sql.placeholder('contactId')))
    .orderBy(desc(formAnswers.at), asc(formAnswers.field))
    .prepare(),
);

export const tagsOf = (db: Db, contactId: string): string[] =>
  tagsByContact(db)
    .all({ contactId })
    .map(({ tag }) => tag);

/** Everything somebody answered, newest first. */
export const answersOfContact = (db: Db, contactId: string) => answersByContact(db).all({ contactId });

/** The newest answer of each field. */
export function answersByField(db: Db, contactId: string): Record<string, string> {
  return Object.fromEntries(
    answersOfContact(db, contactId)
      .reverse()
      .map(({ field, value }) => [field, value]),
  );
}
