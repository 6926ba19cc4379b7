import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    reporters: ['default', 'json'],
    outputFile: { json: '.data/tests/all.json' },
    projects: [
      {
        resolve: { alias: { '~~': import.meta.dirname, '~': `${import.meta.dirname}/app` } },
        test: {
          name: 'unit',
          include: ['app/**/*.test.ts', 'core/**/*.test.ts', 'scripts/**/*.test.ts', 'server/**/*.test.ts'],
          setupFiles: ['tests/support/seed.ts'],
          // Thousands of random cases on a busy machine take their time; how fast things are is for the benchmarks to say.
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'system',
          include: ['tests/**/*.test.ts'],
          setupFiles: ['tests/support/seed.ts'],
          globalSetup: ['tests/support/installation.ts'],
          // One installation serves all files, and its stand-ins have their faults switched on and off.
          fileParallelism: false,
          testTimeout: 90_000,
          hookTimeout: 120_000,
        },
      },
    ],
  },
})
