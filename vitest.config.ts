import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          testTimeout: 20_000,
          include: ['packages/*/test/**/*.test.{ts,tsx}', 'apps/studio/test/**/*.test.ts', 'apps/standins/test/**/*.test.ts', 'scripts/test/**/*.test.ts'],
        },
      },
      { test: { name: 'server', include: ['apps/server/test/**/*.test.ts'], testTimeout: 60_000, hookTimeout: 60_000 } },
      { test: { name: 'e2e', include: ['e2e/**/*.test.ts'], testTimeout: 180_000, hookTimeout: 240_000 } },
    ],
  },
});
