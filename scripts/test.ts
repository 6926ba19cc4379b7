import { spawn } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs'
import { build, isBuilt, run } from './run/build'
import { log, step } from './run/report'

/**
 * Runs all checks and ends with what failed and the totals of the tests. With `--long`, campaigns and oracles run at full
 * length. What is long runs beside each other: inspection beside the build; then the tests of the whole system beside those
 * of its failures, its screens and its parts, whose output is shown when they are done. Of a long run these come one after the
 * other, since it holds figures.
 */

const projects = ['unit', 'screens', 'failures', 'system']
const long = process.argv.includes('--long')
const FOLDER = '.data/tests'
const startedAt = Date.now()
rmSync(FOLDER, { recursive: true, force: true })
mkdirSync(FOLDER, { recursive: true })

interface Totals {
  passed: number
  failed: number
  skipped: number
}

const results = (project: string) => `${FOLDER}/${project}.json`

function vitest(project: string, output: 'shown' | 'collected') {
  const child = spawn(
    'node_modules/.bin/vitest',
    [
      'run',
      '--project',
      project,
      '--passWithNoTests',
      `--outputFile.json=${results(project)}`,
      ...process.argv.slice(2).filter(item => item !== '--long'),
    ],
    {
      stdio: output === 'shown' ? 'inherit' : ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, TEMPORIA_FULL: '1', ...(long ? { TEMPORIA_LONG: '1' } : {}) },
    },
  )
  let words = ''
  for (const stream of [child.stdout, child.stderr]) stream?.on('data', (chunk: Buffer) => (words += chunk.toString()))
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => child.kill(signal))
  const ended = new Promise<boolean>(resolve => child.on('close', code => resolve(code === 0)))
  return { ended, words: () => words }
}

function totalsOf(project: string): Totals {
  const file = results(project)
  const { numPassedTests = 0, numFailedTests = 0, numPendingTests = 0 } = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : {}
  return { passed: numPassedTests, failed: numFailedTests, skipped: numPendingTests }
}

interface FileResult {
  name: string
  message: string
  assertionResults: { status: string, fullName: string, failureMessages: string[] }[]
}

/** The lines of a message that the end of a log repeats. */
const MOST_LINES = 15

const shorten = (message: string) => message.split('\n').slice(0, MOST_LINES).map(line => line.slice(0, 500)).join('\n')

/** Each failed test with what it found, so that the end of a log says what failed. */
function failuresOf(project: string): string[] {
  const file = results(project)
  const { testResults = [] }: { testResults?: FileResult[] } = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : {}
  return testResults
    .flatMap(({ name, message, assertionResults }) => [
      ...assertionResults
        .filter(test => test.status === 'failed')
        .map(test => `${test.fullName}: ${shorten(test.failureMessages[0] ?? '')}`),
      ...(message ? [`${name}: ${shorten(message)}`] : []),
    ])
}

try {
  await step('Preparing types', () => run('node_modules/.bin/nuxt', ['prepare']))
  const inspect = async () => {
    await step('Boundaries', () =>
      run('node_modules/.bin/depcruise', [
        '--config',
        '.dependency-cruiser.cjs',
        'core',
        'server',
        'app',
        'stand-ins',
        'demo',
        'scripts',
        'tests',
      ]),
    )
    await step('Types', async () => {
      await run('node_modules/.bin/vue-tsc', ['-b', '--noEmit'])
      await run('node_modules/.bin/tsc', ['-p', 'tsconfig.tools.json'])
    })
    await step('Lint', () => run('node_modules/.bin/eslint', ['.', '--max-warnings', '0']))
  }
  await Promise.all([inspect(), isBuilt() ? undefined : step('Building the application', () => build('.data/build'))])
} catch (error) {
  log(error instanceof Error ? error.message : String(error))
  process.exit(1)
}

const beside = (long ? [] : ['failures', 'screens', 'unit'] as const).map(project => ({ project, ...vitest(project, 'collected') }))
const passed = [await vitest('system', 'shown').ended]
if (long) for (const project of ['failures', 'screens', 'unit'] as const) passed.push(await vitest(project, 'shown').ended)
for (const { project, ended, words } of beside) {
  passed.push(await step(`Waiting for the tests of ${project}`, () => ended))
  process.stdout.write(words())
}
for (const failure of projects.flatMap(failuresOf)) process.stdout.write(`FAILED ${failure}\n`)
log(`All of it took ${Math.round((Date.now() - startedAt) / 1000)} s`)
const totals = projects
  .map(totalsOf)
  .reduce((a, b) => ({ passed: a.passed + b.passed, failed: a.failed + b.failed, skipped: a.skipped + b.skipped }))
process.stdout.write(`Tests: ${totals.passed} passed, ${totals.failed} failed, ${totals.skipped} skipped\n`)
process.exit(passed.every(Boolean) ? 0 : 1)
