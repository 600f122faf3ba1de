import { defineConfig } from 'vitest/config'

export default defineConfig({
  // Generous: a slow machine is not a defect; how fast things are is measured by the bench.
  test: {
    projects: [
      {
        test: {
          name: 'core',
          setupFiles: ['scripts/seedTests.ts'],
          include: ['core/**/*.test.ts', 'contract/**/*.test.ts'],
          environment: 'node',
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'server',
          setupFiles: ['scripts/seedTests.ts'],
          include: ['server/**/*.test.ts', 'demo/**/*.test.ts'],
          environment: 'node',
          globalSetup: ['server/test/postgres.ts', 'server/test/built.mjs'],
          testTimeout: 180_000,
          hookTimeout: 180_000,
        },
      },
      {
        test: {
          name: 'web',
          setupFiles: ['scripts/seedTests.ts'],
          include: ['web/**/*.test.{ts,tsx}'],
          environment: 'jsdom',
          testTimeout: 60_000,
        },
      },
    ],
  },
})
