import { writeCsv } from '@ruta/core/formats';
import { toDecimal } from '@ruta/core/money';
import { toLocalTime } from '@ruta/core/shop';
import { asc } from 'drizzle-orm';
import type { Services } from '../base/services';
import { loadShop } from '../shop/store';
import { contacts, contactTags, formAnswers } from './tables';

const OWN = ['email', 'first name', 'last name', 'country', 'since', 'orders', 'paid', 'tags'];

/**
 * Every contact with tags and answers, one column for each field of each form. Two forms may ask the same; what they are
 * called in the file is the newest label, with the field where two would be called alike.
 */
export function contactsCsv({ db }: Pick<Services, 'db'>): string {
  const { currency, timeZone } = loadShop(db).settings;
  const fields = new Map<string, { label: string; field: string }>();
  const answers = new Map<string, Map<string, string>>();
  for (const { contactId, formId, field, label, value } of db.select().from(formAnswers).orderBy(asc(formAnswers.at)).all()) {
    const key = `${formId}.${field}`;
    fields.set(key, { label, field });
    const own = answers.get(contactId) ?? new Map<string, string>();
    answers.set(contactId, own.set(key, value));
  }
  const tags = new Map<string, string[]>();
  for (const { contactId, tag } of db.select().from(contactTags).orderBy(asc(contactTags.tag)).all())
    tags.set(contactId, [...(tags.get(contactId) ?? []), tag]);
  const taken = new Set(OWN);
  const heads = [...fields].map(([key, { label, field }]) => {
    const name = [label, `${label} (${field})`, key].find((each) => !taken.has(each)) ?? key;
    taken.add(name);
    return name;
  });
  const rows = db
    .select()
    .from(contacts)
    .orderBy(asc(contacts.createdAt), asc(contacts.id))
    .all()
    .map((contact) => [
      contact.email,
      contact.firstName,
      contact.lastName,
      contact.country ?? '',
      toLocalTime(contact.createdAt, timeZone),
      `${contact.orders}`,
      toDecimal(contact.paid, currency),
      (tags.get(contact.id) ?? []).join(', '),
      ...[...fields.keys()].map((key) => answers.get(contact.id)?.get(key) ?? ''),
    ]);
  return writeCsv([...OWN, ...heads], rows);
}
