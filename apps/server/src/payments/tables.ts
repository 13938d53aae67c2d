import type { Mode } from '@ruta/core/shop';
import { index, integer, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { contacts } from '../contacts/tables';

/** Where money is taken: several accounts at a provider, for each mode. Secrets are encrypted with a key that is not in the database. */
export const accounts = sqliteTable(
  'accounts',
  {
    id: text().primaryKey(),
    provider: text().notNull(),
    mode: text().$type<Mode>().notNull(),
    /** What the provider calls it. */
    reference: text().notNull(),
    publicKey: text().notNull(),
    secrets: text().notNull(),
    /** Its share of new payments among the accounts of its mode; 0 takes none. */
    weight: integer().notNull(),
    /** The most it takes in all, minor units; null is without limit. */
    cap: integer(),
    /** Until when its processor has told what was given back and disputed there. */
    heardUntil: integer(),
    createdAt: integer().notNull(),
    closedAt: integer(),
  },
  (table) => [uniqueIndex('accounts_reference').on(table.provider, table.mode, table.reference)],
);

/** Money that a processor took and that no order here knows of, until it is refunded or dealt with by hand. */
export const unknownCharges = sqliteTable(
  'unknown_charges',
  {
    id: text().primaryKey(),
    accountId: text()
      .notNull()
      .references(() => accounts.id),
    providerChargeId: text().notNull(),
    /** The key it was made with: the same charge is found once. */
    idempotencyKey: text().notNull(),
    /** What of it is not refunded, minor units. */
    amount: integer().notNull(),
    currency: text().notNull(),
    cardLast4: text(),
    foundAt: integer().notNull(),
    state: text().$type<'open' | 'refunded' | 'dealt-with'>().notNull(),
    doneAt: integer(),
  },
  (table) => [uniqueIndex('unknown_charges_key').on(table.accountId, table.idempotencyKey)],
);

/** A card or the like that a provider keeps for a contact, at the account that holds it. */
export const paymentMethods = sqliteTable(
  'payment_methods',
  {
    id: text().primaryKey(),
    contactId: text().references(() => contacts.id),
    accountId: text().notNull(),
    /** What stands for it at the provider. */
    reference: text().notNull(),
    kind: text().notNull(),
    last4: text(),
    createdAt: integer().notNull(),
    removedAt: integer(),
  },
  (table) => [index('payment_methods_contact').on(table.contactId)],
);
