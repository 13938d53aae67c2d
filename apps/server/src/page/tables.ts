import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** Versions of a page that somebody gave a name, to go back to. */
export const pageVersions = sqliteTable(
  'page_versions',
  {
    id: text().primaryKey(),
    stepId: text().notNull(),
    name: text().notNull(),
    /** Of whatever version it was saved in; it is brought up when it is read. */
    page: text({ mode: 'json' }).$type<unknown>().notNull(),
    userId: text(),
    at: integer().notNull(),
  },
  (table) => [index('page_versions_step').on(table.stepId, table.at)],
);

/** Sections that were saved to be used again, copied or linked. */
export const ownSections = sqliteTable('own_sections', {
  id: text().primaryKey(),
  name: text().notNull(),
  /** Of whatever version it was saved in; it is brought up when it is read. */
  section: text({ mode: 'json' }).$type<unknown>().notNull(),
  pageVersion: integer().notNull(),
  createdAt: integer().notNull(),
  updatedAt: integer().notNull(),
});
