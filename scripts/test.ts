import { spawn } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync } from 'node:fs'
import { build, isBuilt, run } from './run/build'
import { say, step } from './run/report'

/** Runs all checks in order, the quick ones first, and ends with the totals of the tests. */

mkdirSync('.data', { recursive: true })
const begun = Date.now()

try {
  await step('Preparing types', () => run('node_modules/.bin/nuxt', ['prepare']))
  await step('Lint and boundaries', async () => {
    await Promise.all([
      run('node_modules/.bin/eslint', ['.', '--max-warnings', '0']),
      run('node_modules/.bin/depcruise', ['--config', '.dependency-cruiser.cjs', 'core', 'server', 'app', 'stand-ins', 'demo', 'scripts', 'tests']),
    ])
  })
  await step('Types', async () => {
    await Promise.all([run('node_modules/.bin/vue-tsc', ['-b', '--noEmit']), run('node_modules/.bin/tsc', ['-p', 'tsconfig.tools.json'])])
  })
  if (!isBuilt()) await step('Building the application', build)
} catch (error) {
  say(error instanceof Error ? error.message : String(error))
  process.exit(1)
}

const child = spawn('node_modules/.bin/vitest', ['run', ...process.argv.slice(2)], { stdio: 'inherit', env: { ...process.env, TEMPORIA_FULL: '1' } })
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => child.kill(signal))
child.on('close', (code) => {
  const results = '.data/test-results.json'
  const { numPassedTests = 0, numFailedTests = 0, numPendingTests = 0 } = existsSync(results) ? JSON.parse(readFileSync(results, 'utf8')) : {}
  say(`All of it took ${Math.round((Date.now() - begun) / 1000)} s`)
  process.stdout.write(`Tests: ${numPassedTests} passed, ${numFailedTests} failed, ${numPendingTests} skipped\n`)
  process.exit(code ?? 1)
})
