import { defineConfig } from 'drizzle-kit';

export default defineConfig({
  dialect: 'sqlite',
  schema: ['./src/*/tables.ts', './src/base/outbox/tables.ts'],
  out: './drizzle',
  casing: 'snake_case',
});
