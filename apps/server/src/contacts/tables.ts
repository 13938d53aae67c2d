import type { LeadQuality } from '@ruta/core/contacts';
import type { Campaign } from '@ruta/core/facts';
import { index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core';

export const contacts = sqliteTable(
  'contacts',
  {
    id: text().primaryKey(),
    email: text().notNull().unique(),
    firstName: text().notNull(),
    lastName: text().notNull(),
    country: text(),
    /** Answers to form questions, by the question's label. */
    answers: text({ mode: 'json' }).$type<Record<string, string>>().notNull(),
    funnelId: text(),
    campaign: text({ mode: 'json' }).$type<Campaign>(),
    /** How the lead turned out, as a person judged it. */
    quality: text().$type<LeadQuality>(),
    /** Paid orders in live mode without gifts, and what they came to: kept beside the orders for lists. */
    orders: integer().notNull().default(0),
    paid: integer().notNull().default(0),
    createdAt: integer().notNull(),
    updatedAt: integer().notNull(),
  },
  (table) => [index('contacts_created').on(table.createdAt, table.id), index('contacts_paid').on(table.paid, table.id)],
);

/** What is said of a contact in a word, by forms, rules and people. */
export const contactTags = sqliteTable(
  'contact_tags',
  {
    contactId: text()
      .notNull()
      .references(() => contacts.id),
    tag: text().notNull(),
    at: integer().notNull(),
  },
  (table) => [primaryKey({ columns: [table.contactId, table.tag] }), index('contact_tags_tag').on(table.tag, table.contactId)],
);

/** Every answer that was given on a form, by the form's field and not by its label; the last one of each field counts. */
export const formAnswers = sqliteTable(
  'form_answers',
  {
    contactId: text()
      .notNull()
      .references(() => contacts.id),
    /** The form it was given on, or the place that sends leads from elsewhere. */
    formId: text().notNull(),
    field: text().notNull(),
    /** As it stood when it was answered. */
    label: text().notNull(),
    value: text().notNull(),
    at: integer().notNull(),
  },
  (table) => [primaryKey({ columns: [table.contactId, table.formId, table.field] })],
);

/** Places outside that send leads here, each with a key of its own. */
export const leadSources = sqliteTable('lead_sources', {
  id: text().primaryKey(),
  name: text().notNull(),
  /** SHA-256 of the key; the key itself is shown once. */
  keyHash: text().notNull().unique(),
  /** Which name of theirs is which field of ours. */
  fields: text({ mode: 'json' }).$type<Record<string, string>>().notNull(),
  tags: text({ mode: 'json' }).$type<string[]>().notNull(),
  /** Where a form of theirs leads afterwards. */
  thanksUrl: text(),
  received: integer().notNull().default(0),
  lastAt: integer(),
  createdAt: integer().notNull(),
});
