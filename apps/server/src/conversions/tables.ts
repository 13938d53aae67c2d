import type { ConversionMoment, ConversionValue, Destination, MatchingKey } from '@ruta/core/conversions';
import { integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** What ad platforms and other programs are told of conversions. Tokens are encrypted with a key that is not in the database. */
export const conversionRules = sqliteTable('conversion_rules', {
  id: text().primaryKey(),
  name: text().notNull(),
  isOn: integer({ mode: 'boolean' }).notNull(),
  moment: text().$type<ConversionMoment>().notNull(),
  formIds: text({ mode: 'json' }).$type<string[]>().notNull(),
  funnelId: text(),
  destination: text({ mode: 'json' }).$type<Destination>().notNull(),
  token: text(),
  event: text().notNull(),
  value: text({ mode: 'json' }).$type<ConversionValue>().notNull(),
  keys: text({ mode: 'json' }).$type<MatchingKey[]>().notNull(),
  testCode: text(),
  createdAt: integer().notNull(),
});
export type ConversionRuleRow = typeof conversionRules.$inferSelect;
