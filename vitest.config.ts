import { defineConfig } from 'vitest/config'

/**
 * What waits for retries and restarts, and most of what is driven in the browser, run beside the rest, each with an
 * installation of its own. The short ones stay with the rest, so that the three take about as long.
 */
const named = (...names: string[]) => names.map(name => `tests/${name}.test.ts`)
const failures = named('audit', 'calendar-entries', 'calendar-kills', 'calendar-settings', 'calendars', 'deliveries', 'disasters', 'doors', 'faults', 'life-of-payments', 'payments', 'phone-texts', 'roles', 'room-ways', 'rooms', 'video-services')
const screens = named('bench', 'book-screen', 'browser', 'connections', 'demo', 'hours', 'messages-screen', 'narrow', 'panels', 'people-screens', 'shared-questions')
// One installation serves all files of a project, and its stand-ins have their faults switched on and off.
const whole = {
  setupFiles: ['tests/support/seed.ts'],
  globalSetup: ['tests/support/installation.ts'],
  fileParallelism: false,
  // As above: so long only what hangs takes.
  testTimeout: 240_000,
  hookTimeout: 240_000,
}

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
      { test: { name: 'system', include: ['tests/**/*.test.ts'], exclude: [...screens, ...failures], ...whole } },
      { test: { name: 'failures', include: failures, ...whole } },
      { test: { name: 'screens', include: screens, ...whole } },
    ],
  },
})
