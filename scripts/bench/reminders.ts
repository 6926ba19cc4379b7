import { mkdtempSync } from 'node:fs'
import { and, eq, sql } from 'drizzle-orm'
import { DAY, formatDate } from '../../core/time/civil'
import type { Context } from '../../server/context'
import { bookings, deliveries } from '../../server/database/schema'
import { closeContext, makeContext } from '../../server/start'
import { makeWorkspace, type TestWorkspace } from '../../tests/support/workspace'
import { removeInstallation, separateJobs, startInstallation } from '../run/installation'
import { freePort } from '../run/ports'
import { startApp } from '../run/services'

/** Thousands of reminders that are due at once: by one process that runs jobs, then by two; and a confirmation in the midst of them. */

const REMINDERS = 5000
const GOAL_SECONDS = 60
const CONFIRMATION_SECONDS = 5
const LONGEST_SECONDS = 300

export async function measureReminders(print: (text: string) => void): Promise<void> {
  const folder = mkdtempSync('/var/tmp/temporia-bench-')
  const unlimited = { BOOKINGS_PER_MINUTE: '1000000', READS_PER_MINUTE: '1000000', UNOPENED_MAILS_PER_HOUR: '1000000' }
  const installation = await startInstallation(folder, { throwAway: true, more: unlimited, firstPort: 5310 })
  const jobs = [await separateJobs(installation)]
  const context = await makeContext(installation.environment)
  const url = `http://127.0.0.1:${installation.places.appPort}`
  const pigeonhole = `http://127.0.0.1:${installation.places.pigeonholePort}`
  const measure = () => measureOnce(context, url, pigeonhole)
  const report = ({ seconds, confirmation, mails }: Outcome, processes: string, isGoal: boolean) => {
    const met = (isMet: boolean) => (isMet ? 'met' : 'MISSED')
    print(`${REMINDERS} reminders due at once, ${processes}: all sent after ${seconds.toFixed(1)} s${isGoal ? `; goal ${GOAL_SECONDS} s ${met(seconds <= GOAL_SECONDS)}` : ''}`)
    print(`Mails that arrived: ${mails.length}, different ones ${new Set(mails).size}; each once ${met(mails.length === REMINDERS && new Set(mails).size === REMINDERS)}`)
    print(`A confirmation meanwhile: ${confirmation.toFixed(1)} s; goal ${CONFIRMATION_SECONDS} s ${met(confirmation <= CONFIRMATION_SECONDS)}`)
  }
  try {
    report(await measure(), 'one process', true)
    const { places, environment } = installation
    const port = await freePort(places.appPort + 20, new Set())
    jobs.push(await startApp({ ...places, appPort: port }, { ...environment, PORT: String(port), ROLE: 'jobs' }))
    report(await measure(), 'two processes', false)
  } finally {
    await closeContext(context)
    for (const process of jobs) await process.stop()
    await installation.stop()
    await removeInstallation(folder)
  }
}

interface Outcome {
  seconds: number
  confirmation: number
  /** The Message-IDs that came to the address. */
  mails: string[]
}

async function measureOnce(context: Context, url: string, pigeonhole: string): Promise<Outcome> {
  const workspace = await makeWorkspace(context, {
    hosts: 1, zone: 'UTC', hours: 'Mo-Su 00:00-24:00',
    eventTypes: [{ slug: 'talk', settings: {
      places: [{ key: 'here', kind: 'address', label: 'here', detail: 'Here 1' }], durations: [30], startEveryMinutes: 30, bufferAfterMinutes: 0,
      reminders: [{ kind: 'before', minutes: 60 }],
    } }],
  })
  const address = `everybody@${workspace.slug}.example`
  await book(url, workspace, `first@${workspace.slug}.example`)
  await makeDue(context, workspace, address)
  const ofWorkspace = and(eq(deliveries.workspaceId, workspace.id), eq(deliveries.occasion, 'before'))
  const count = (state: 'planned' | 'sent') => context.db.$count(deliveries, and(ofWorkspace, eq(deliveries.state, state)))
  // The job of the minute plans them.
  while (await count('planned') === 0) await new Promise(resolve => setTimeout(resolve, 100))
  const began = performance.now()
  while (await count('sent') < REMINDERS / 10) await new Promise(resolve => setTimeout(resolve, 100))
  const asked = performance.now()
  const email = `amidst@${workspace.slug}.example`
  await book(url, workspace, email)
  const isConfirmed = async () => await context.db.$count(deliveries, and(eq(deliveries.address, email), eq(deliveries.state, 'sent'))) > 0
  while (!await isConfirmed()) await new Promise(resolve => setTimeout(resolve, 50))
  const confirmation = (performance.now() - asked) / 1000
  const isLate = () => performance.now() - began > LONGEST_SECONDS * 1000
  while (await count('sent') < REMINDERS && !isLate()) await new Promise(resolve => setTimeout(resolve, 100))
  const seconds = (performance.now() - began) / 1000
  const { messages } = await (await fetch(`${pigeonhole}/api/inbox/${encodeURIComponent(address)}`)).json() as { messages: { messageId: string }[] }
  return { seconds, confirmation, mails: messages.map(({ messageId }) => messageId) }
}

let booked = 0

async function book(url: string, workspace: TestWorkspace, email: string): Promise<void> {
  const path = `${url}/api/public/${workspace.slug}/talk`
  const day = Math.floor(Date.now() / 1000 / DAY) + 2
  const query = new URLSearchParams({ from: formatDate(day), to: formatDate(day + 5), timeZone: 'UTC' })
  const { openings } = await (await fetch(`${path}/openings?${query}`)).json() as { openings: { start: string }[] }
  const answer = await fetch(`${path}/bookings`, {
    method: 'POST', headers: { 'content-type': 'application/json', 'idempotency-key': `bench ${booked++} of ${workspace.slug}`.replaceAll(' ', '-') },
    body: JSON.stringify({ start: openings[0]?.start, timeZone: 'UTC', answers: {}, client: { name: 'Ana', email } }),
  })
  if (answer.status !== 201) throw new Error(`Booking answered ${answer.status}`)
}

/** As many more sessions like the first one, in less than an hour, which sit in nobody's way. */
async function makeDue({ db }: Context, { id }: TestWorkspace, address: string): Promise<void> {
  const [first] = await db.select().from(bookings).where(eq(bookings.workspaceId, id))
  await db.transaction(async (tx) => {
    await tx.execute(sql`create temporary table due on commit drop as
      select gen_random_uuid() as session_id, gen_random_uuid() as booking_id, number from generate_series(1, ${REMINDERS}::int) as number`)
    await tx.execute(sql`insert into sessions (workspace_id, id, event_type_id, starts_at, ends_at, buffer_before_minutes, buffer_after_minutes, seats, seats_taken, place)
      select s.workspace_id, due.session_id, s.event_type_id, date_trunc('minute', now()) + interval '55 minutes', date_trunc('minute', now()) + interval '85 minutes',
        s.buffer_before_minutes, s.buffer_after_minutes, s.seats, 1, s.place
      from due, sessions s where s.workspace_id = ${id} and s.id = ${first?.sessionId}`)
    await tx.execute(sql`insert into session_hosts (workspace_id, session_id, host_id, chair_id, padded, active)
      select h.workspace_id, due.session_id, h.host_id, h.chair_id, tstzrange(now() + interval '55 minutes', now() + interval '85 minutes'), false
      from due, session_hosts h where h.workspace_id = ${id} and h.session_id = ${first?.sessionId}`)
    await tx.execute(sql`insert into bookings (workspace_id, id, session_id, state, client_name, client_email, time_zone, locale, token_seed, token_hash)
      select ${id}::uuid, booking_id, session_id, 'confirmed', 'Client ' || number, ${address}, 'UTC', 'en-GB', 'seed ' || number, 'hash ' || number from due`)
  })
}
