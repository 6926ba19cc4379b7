import { once } from 'node:events'
import { existsSync } from 'node:fs'
import { isDeepStrictEqual } from 'node:util'
import { Worker } from 'node:worker_threads'
import { answer, answerQuery, fromCase, type OpeningsQuery } from '../core/openings'
import { instantToSeconds } from '../core/time/civil'
import { consequencesOf } from '../core/event-type/consequences'
import { oracleAnswer } from '../tests/oracle/openings'
import { benchOf, queryOf, type Work } from './bench/work'

/**
 * How fast openings are computed. Fails on an answer that is not the oracle's, never on a slow one.
 * `--json` prints the results and nothing else; `--http` measures the whole application from outside instead, `--rooms` a hundred
 * sessions that need rooms at once, `--reminders` thousands that are due at once.
 */

const RUNS = 300
const WARM_UP = { runs: 40, ms: 1500 }
const json = process.argv.includes('--json')

interface Result {
  name: string
  medianMs: number
  p99Ms: number
  goalMs: number
  oracleMs: number
}

const works: { name: string, goalMs: number, work: Work }[] = [
  { name: 'Solo, 60 days, every 15 minutes, 500 busy blocks', goalMs: 0.15, work: { days: 60, step: 15, busy: 500, chairs: [1] } },
  {
    name: 'Round-robin of 50 hosts, 60 days, every 15 minutes, 500 busy blocks each',
    goalMs: 3,
    work: { days: 60, step: 15, busy: 500, chairs: [50] },
  },
  {
    name: 'Two chairs of 20 hosts in 6 zones, 90 days, every 5 minutes, 1,000 busy blocks each',
    goalMs: 10,
    work: { days: 90, step: 5, busy: 1000, chairs: [20, 20], manyZones: true },
  },
]
const keystroke = {
  name: 'A keystroke on the bench: 10 hosts, 60 days, 500 busy blocks each, openings and checks, to a worker and back',
  goalMs: 100,
  work: { days: 60, step: 15, busy: 500, chairs: [10] },
}

/** A query as it comes from a file or from a message, and not as it was put together here. */
function asRead(query: OpeningsQuery): OpeningsQuery {
  return JSON.parse(JSON.stringify(query))
}

function quantile(sorted: readonly number[], share: number): number {
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? NaN
}

async function measure(run: () => unknown): Promise<{ medianMs: number, p99Ms: number }> {
  const warmUntil = performance.now() + WARM_UP.ms
  for (let i = 0; i < WARM_UP.runs || performance.now() < warmUntil; i++) await run()
  const times: number[] = []
  for (let i = 0; i < RUNS; i++) {
    const startedAt = performance.now()
    const running = run()
    if (running instanceof Promise) await running
    times.push(performance.now() - startedAt)
  }
  times.sort((a, b) => a - b)
  return { medianMs: quantile(times, 0.5), p99Ms: quantile(times, 0.99) }
}

function judge(name: string, query: OpeningsQuery): number {
  const startedAt = performance.now()
  const expected = oracleAnswer(query)
  const oracleMs = performance.now() - startedAt
  if (!isDeepStrictEqual(JSON.parse(JSON.stringify(answerQuery(query))), expected))
    throw new Error(`${name}: the answer is not the oracle’s`)
  return oracleMs
}

/** The exponent of growth: the slope of time over size on logarithmic scales, by least squares. */
async function growth(name: string, sizes: readonly number[], work: (size: number) => Work): Promise<string> {
  const points: [number, number][] = []
  for (const size of sizes) {
    const query = fromCase(asRead(queryOf(work(size))))
    points.push([Math.log(size), Math.log((await measure(() => answer(query))).medianMs)])
  }
  const mean = (index: 0 | 1) => points.reduce((sum, point) => sum + point[index], 0) / points.length
  const [x, y] = [mean(0), mean(1)]
  const slope =
    points.reduce((sum, point) => sum + (point[0] - x) * (point[1] - y), 0) / points.reduce((sum, point) => sum + (point[0] - x) ** 2, 0)
  return `${name}: exponent ${slope.toFixed(2)} (${points.map(([size, time]) => `${Math.round(Math.exp(size))}: ${Math.exp(time).toFixed(3)} ms`).join(', ')})`
}

function print(text: string): void {
  if (!json) process.stdout.write(`${text}\n`)
}

function printResult({ name, medianMs, p99Ms, goalMs, oracleMs }: Result): void {
  print(
    `${name}\n  median ${medianMs.toFixed(3)} ms, p99 ${p99Ms.toFixed(3)} ms; goal ${goalMs} ms ${medianMs <= goalMs ? 'met' : 'MISSED'}; the oracle takes ${Math.round(oracleMs)} ms, ${Math.round(oracleMs / medianMs)} times as long`,
  )
}

if (process.argv.includes('--rooms')) {
  await (await import('./bench/rooms')).measureRooms(print)
  process.exit(0)
}
if (process.argv.includes('--reminders')) {
  await (await import('./bench/reminders')).measureReminders(print)
  process.exit(0)
}
if (process.argv.includes('--http')) {
  await (await import('./bench/http')).measureHttp(print)
  process.exit(0)
}

const results: Result[] = []
for (const { name, goalMs, work } of works) {
  const query = asRead(queryOf(work))
  const oracleMs = judge(name, query)
  const taken = fromCase(query)
  results.push({ name, ...await measure(() => answer(taken)), goalMs, oracleMs })
  printResult(results.at(-1) as Result)
}

const query = asRead(queryOf(keystroke.work))
const oracleMs = judge(keystroke.name, query)
const { definition, workerContext } = benchOf(query)
const span = { from: instantToSeconds(query.from), to: instantToSeconds(query.to) }
const worker = new Worker(new URL('bench/worker.mjs', import.meta.url), { workerData: { workerContext, span } })
const throughWorker = async (): Promise<{ starts: Float64Array }> => {
  worker.postMessage(definition)
  return (await once(worker, 'message'))[0]
}
const expected = Float64Array.from(answerQuery(query).openings, opening => instantToSeconds(opening.start))
if (
  !isDeepStrictEqual((await throughWorker()).starts, expected)
  || !isDeepStrictEqual(consequencesOf(definition, workerContext, span).starts, expected)
)
  throw new Error('The worker’s answer is another')
results.push({ name: keystroke.name, ...await measure(throughWorker), goalMs: keystroke.goalMs, oracleMs })
printResult(results.at(-1) as Result)
await worker.terminate()

if (!json) {
  const [{ measureCalendar }, { measureTemplates }] = await Promise.all([import('./bench/calendar'), import('./bench/templates')])
  measureCalendar(print)
  measureTemplates(print)
}

if (json) {
  process.stdout.write(`${JSON.stringify({ results })}\n`)
} else {
  print(await growth('Growth over days, 30 to 365', [30, 60, 120, 240, 365], days => ({ days, step: 15, busy: 500, chairs: [5] })))
  print(
    await growth('Growth over busy blocks, 100 to 10,000', [100, 300, 1000, 3000, 10_000], busy => ({
      days: 60,
      step: 15,
      busy,
      chairs: [5],
    })),
  )

  if (existsSync('/usr/bin/chromium')) {
    const { measureScreen } = await import('./bench/screen')
    const { medianMs, p95Ms, longestTaskMs } = await measureScreen(query)
    print(
      `A keystroke on the bench until its timetable is painted, ten hosts of 500 busy blocks, in Chromium\n  median ${medianMs.toFixed(1)} ms, p95 ${p95Ms.toFixed(1)} ms; goal 100 ms ${p95Ms <= 100 ? 'met' : 'MISSED'}; typing was held up for ${Math.round(longestTaskMs)} ms at most`,
    )
  } else {
    print('Chromium is not installed: keystrokes until the timetable is painted were not measured')
  }
}
