import type { ContactListQuery } from '@ruta/core/contacts';
import { writeCsv } from '@ruta/core/formats';
import { toDecimal } from '@ruta/core/money';
import { toLocalTime } from '@ruta/core/shop';
import { sql } from 'drizzle-orm';
import type { Services } from '../base/services';
import type { ListedContact } from '../contacts/store';
import { loadShop } from '../shop/store';
import { contactsWho } from './contactsWho';

const OWN = ['email', 'first name', 'last name', 'country', 'since', 'orders', 'paid', 'tags'];
const AT_ONCE = 2000;

/**
 * The contacts of a list with tags and answers, one column for each field that one of them has answered. Two forms may ask
 * the same; what they are called in the file is the newest label, with the field where two would be called alike.
 */
export function contactsCsv(services: Pick<Services, 'db' | 'clock'>, query: ContactListQuery): string {
  const { db } = services;
  const { currency, timeZone } = loadShop(db).settings;
  const fields = new Map<string, { label: string; field: string; at: number }>();
  const rows: Array<{ contact: ListedContact; tags: string; answers: Map<string, string> }> = [];
  let waiting: ListedContact[] = [];
  const read = () => {
    const theirs = sql`(SELECT value FROM json_each(${JSON.stringify(waiting.map(({ id }) => id))}))`;
    const tags = new Map<string, string[]>();
    for (const { id, tag } of db.all<{ id: string; tag: string }>(
      sql`SELECT contact_id AS id, tag FROM contact_tags WHERE contact_id IN ${theirs} ORDER BY tag`,
    ))
      tags.set(id, [...(tags.get(id) ?? []), tag]);
    const answers = new Map<string, Map<string, string>>();
    const answered = sql`SELECT contact_id AS id, form_id AS formId, field, label, value, at FROM form_answers WHERE contact_id IN ${theirs}`;
    for (const { id, formId, field, label, value, at } of db.all<Answer>(answered)) {
      const key = `${formId}.${field}`;
      const newest = fields.get(key);
      if (!newest || newest.at <= at) fields.set(key, { label, field, at });
      answers.set(id, (answers.get(id) ?? new Map<string, string>()).set(key, value));
    }
    for (const contact of waiting) rows.push({ contact, tags: (tags.get(contact.id) ?? []).join(', '), answers: answers.get(contact.id) ?? new Map() });
    waiting = [];
  };
  for (const contact of contactsWho(services, { ...query, limit: AT_ONCE, after: undefined })) if (waiting.push(contact) === AT_ONCE) read();
  read();
  const taken = new Set(OWN);
  const asked = [...fields].toSorted(([one, { at: a }], [other, { at: b }]) => a - b || (one < other ? -1 : 1));
  const heads = asked.map(([key, { label, field }]) => {
    const name = [label, `${label} (${field})`, key].find((each) => !taken.has(each)) ?? key;
    taken.add(name);
    return name;
  });
  return writeCsv(
    [...OWN, ...heads],
    rows.map(({ contact, tags, answers }) => [
      ...[contact.email, contact.firstName, contact.lastName, contact.country ?? '', toLocalTime(contact.createdAt, timeZone)],
      ...[`${contact.orders}`, toDecimal(contact.paid, currency), tags],
      ...asked.map(([key]) => answers.get(key) ?? ''),
    ]),
  );
}

interface Answer {
  id: string;
  formId: string;
  field: string;
  label: string;
  value: string;
  at: number;
}
