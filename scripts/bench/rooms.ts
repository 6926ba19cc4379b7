import { randomUUID } from 'node:crypto'
import { mkdtempSync } from 'node:fs'
import { eq } from 'drizzle-orm'
import { DAY, formatDate } from '../../core/time/civil'
import { rooms } from '../../server/database/schema'
import { closeContext, makeContext } from '../../server/start'
import { atQuayside, callsAtQuayside, connectQuayside, makeQuaysideAccount } from '../../tests/support/quayside'
import { makeWorkspace } from '../../tests/support/workspace'
import { setFault } from '../campaign/chaos'
import { removeInstallation, separateJobs, startInstallation } from '../run/installation'

/**
 * A hundred sessions that need rooms at once, at a service that takes two seconds for each and ten calls at a time. Jobs have a
 * process of their own, as in the other figures.
 */

const SESSIONS = 100
const CALL_SECONDS = 2
const GOAL_SECONDS = 30
const LONGEST_SECONDS = 120
const CALLS_ALLOWED = 10
const READS = 60

export async function measureRooms(print: (text: string) => void): Promise<void> {
  const folder = mkdtempSync('/var/tmp/temporia-bench-')
  const unlimited = { BOOKINGS_PER_MINUTE: '1000000', READS_PER_MINUTE: '1000000', UNOPENED_MAILS_PER_HOUR: '100000' }
  const installation = await startInstallation(folder, { throwAway: true, more: unlimited, firstPort: 5310 })
  const jobs = await separateJobs(installation)
  const context = await makeContext(installation.environment)
  const url = `http://127.0.0.1:${installation.places.appPort}`
  const quayside = `http://127.0.0.1:${installation.places.quaysidePort}`
  try {
    const workspace = await makeWorkspace(context, {
      hosts: 5, zone: 'UTC', eventTypes: [{ slug: 'talk', settings: {
        places: [{ key: 'video', kind: 'video', label: '', detail: '' }], durations: [30], startEveryMinutes: 30, bufferAfterMinutes: 0,
      } }],
    })
    const account = await makeQuaysideAccount(quayside, [{ name: 'Main', address: `main@${workspace.slug}.example` }])
    await connectQuayside(context, workspace, account)
    const path = `${url}/api/public/${workspace.slug}/talk`
    const today = Math.floor(Date.now() / 1000 / DAY)
    const query = new URLSearchParams({ from: formatDate(today + 2), to: formatDate(today + 9), timeZone: 'UTC' })
    const openings = async () => (await (await fetch(`${path}/openings?${query}`)).json() as { openings: { start: string }[] }).openings
    const starts = (await openings()).slice(0, SESSIONS)
    const p95 = async () => {
      const times: number[] = []
      for (let index = 0; index < READS; index++) {
        const from = performance.now()
        await openings()
        times.push(performance.now() - from)
        await new Promise(resolve => setTimeout(resolve, 50))
      }
      return times.sort((a, b) => a - b)[Math.floor(READS * 0.95)] ?? NaN
    }
    const idle = await p95()
    await atQuayside(quayside, account, 'quota', { meetings: '100000' })
    await setFault(quayside, 'slow', null, CALL_SECONDS)
    const began = performance.now()
    await Promise.all(starts.map(({ start }) => fetch(`${path}/bookings`, {
      method: 'POST', headers: { 'content-type': 'application/json', 'idempotency-key': randomUUID() },
      body: JSON.stringify({ start, timeZone: 'UTC', answers: {}, client: { name: 'Ana', email: `${randomUUID()}@client.example` } }),
    })))
    const booked = performance.now()
    const during = await p95()
    const ready = async () => (await context.db.select({ state: rooms.state }).from(rooms).where(eq(rooms.workspaceId, workspace.id)))
      .filter(({ state }) => state === 'ready').length
    const isLate = () => performance.now() - began > LONGEST_SECONDS * 1000
    while (await ready() < SESSIONS && !isLate()) await new Promise(resolve => setTimeout(resolve, 200))
    const seconds = (performance.now() - booked) / 1000
    const { most } = await callsAtQuayside(quayside)
    const met = (isMet: boolean) => (isMet ? 'met' : 'MISSED')
    print(`${await ready()} of ${SESSIONS} rooms at once: ${seconds.toFixed(1)} s; goal ${GOAL_SECONDS} s ${met(seconds <= GOAL_SECONDS)}`)
    print(`Calls at once: ${most} at most; allowed ${CALLS_ALLOWED} ${met(most <= CALLS_ALLOWED)}`)
    print(`Openings meanwhile: p95 ${during.toFixed(0)} ms, idle ${idle.toFixed(0)} ms; goal twice idle ${met(during <= 2 * idle)}`)
  } finally {
    await closeContext(context)
    await jobs.stop()
    await installation.stop()
    await removeInstallation(folder)
  }
}
