import { defineConfig } from 'drizzle-kit';

export default defineConfig({
  dialect: 'sqlite',
  schema: './apps/server/src/*/tables.ts',
  out: './apps/server/drizzle',
  casing: 'snake_case',
});
