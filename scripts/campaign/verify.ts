import { readFileSync } from 'node:fs'
import { and, eq, sql } from 'drizzle-orm'
import { groupBy } from '../../core/group-by'
import { audit } from '../../server/audit'
import { bookings, changes, deliveries, payments, rooms, sessions, trail } from '../../server/database/schema'
import { type Arena, pause, type CampaignRecord } from './arena'

/** What must hold once the faults have stopped. */

export interface Finding {
  what: string
  count: number
  examples: string[]
}

const SETTLE_SECONDS = 240

/** Waits until nothing is under way any more: no job is due soon, no message is planned. */
export async function settle({ context, workspace }: Arena): Promise<boolean> {
  const until = Date.now() + SETTLE_SECONDS * 1000
  await context.db.update(bookings).set({ expiresAt: sql`now()` }).where(and(eq(bookings.workspaceId, workspace.id), eq(bookings.state, 'held')))
  while (Date.now() < until) {
    const { rows: [left] } = await context.pool.query<{ jobs: number, messages: number, rooms: number, held: number }>(`select
      (select count(*)::int from graphile_worker.jobs where key like '%:' || $1::text || ':%'
        and task_identifier <> 'lookAtVideoAccount' and run_at < now() + interval '30 minutes') as jobs,
      (select count(*)::int from deliveries where workspace_id = $1::uuid and state in ('planned', 'sending')) as messages,
      (select count(*)::int from rooms where workspace_id = $1::uuid and state in ('planned', 'making', 'failing') and replaced_at is null) as rooms,
      (select count(*)::int from bookings where workspace_id = $1::uuid and state = 'held') as held`, [workspace.id])
    if (left && left.jobs === 0 && left.messages === 0 && left.rooms === 0 && left.held === 0) return true
    await pause(500)
  }
  return false
}

interface CaughtMail {
  address: string
  messageId: string
  text: string
}

/** Everything that does not hold. `examples` are few of many. */
export async function verify(arena: Arena, record: CampaignRecord): Promise<Finding[]> {
  const findings = new Map<string, string[]>()
  const found = (what: string, example: string) => void findings.set(what, [...findings.get(what) ?? [], example])
  const { context: { db }, workspace } = arena
  const allRooms = await db.select().from(rooms).where(eq(rooms.workspaceId, workspace.id))
  const allBookings = await db.select().from(bookings).where(eq(bookings.workspaceId, workspace.id))
  const sessionOf = new Map(allBookings.map(booking => [booking.id, booking.sessionId]))

  const { broken, notes } = await audit(arena.context)
  for (const { name, subject, detail } of broken) found(`audit: ${name}`, `${subject} (${detail})`)
  for (const note of arena.sharesStandIns ? [] : notes) found('audit: a note', note)

  const confirmed = new Set(allBookings.filter(({ state }) => state === 'confirmed').map(({ sessionId }) => sessionId))
  const removed = new Set((await db.select({ id: trail.sessionId }).from(trail).where(eq(trail.code, 'roomRemoved'))).map(({ id }) => id))
  const standing = and(eq(sessions.workspaceId, workspace.id), eq(sessions.cancelled, false))
  for (const { id, place } of await db.select().from(sessions).where(standing)) {
    if (!confirmed.has(id) || place.kind !== 'video') continue
    const live = allRooms.filter(room => room.sessionId === id && room.state === 'ready')
    const isRemoved = removed.has(id) && allRooms.some(room => room.sessionId === id && room.state === 'withdrawn' && room.replacedAt === null)
    if (live.length !== 1 && !isRemoved) found('a confirmed session has not exactly one live room', `${id}: ${allRooms.filter(room => room.sessionId === id).map(describeRoom).join(', ')}`)
  }

  const mails = await readMails(arena)
  for (const { id, sessionId, state, clientEmail } of allBookings) {
    const link = state === 'confirmed' && allRooms.find(room => room.sessionId === sessionId && room.state === 'ready')?.joinUrl
    if (link && !mails.some(({ address, text }) => address === clientEmail && text.includes(link))) found('a client does not have the link', id)
  }
  await verifyMessages(arena, record, mails, found)
  await verifyPayments(arena, found)
  // Mails that went out before a client moved to another session tell of the one before.
  const been = groupBy(await db.select({ bookingId: changes.bookingId, sessionId: changes.sessionId }).from(changes)
    .where(eq(changes.workspaceId, workspace.id)), row => row.bookingId)
  verifyMails(mails, allRooms, new Map((await db.select().from(deliveries)).map(row =>
    [row.messageId, new Set((been.get(row.bookingId) ?? []).map(({ sessionId }) => sessionId ?? ''))])), found)
  verifySecrets(arena, record, allRooms, sessionOf, found)
  return [...findings].map(([what, examples]) => ({ what, count: examples.length, examples: examples.slice(0, 3) }))
}

const describeRoom = ({ state, way, attempts, replacedAt, waitsFor, lastFault, nextTryAt }: typeof rooms.$inferSelect) =>
  [state, way, `try ${attempts}`, replacedAt && 'replaced', waitsFor && 'waits', lastFault && JSON.stringify(lastFault), nextTryAt?.toISOString()].filter(Boolean).join(' ')

type Found = (what: string, example: string) => void

async function readMails({ context, standIns, workspace }: Arena): Promise<CaughtMail[]> {
  const addresses = await context.db.selectDistinct({ address: deliveries.address }).from(deliveries)
    .where(and(eq(deliveries.workspaceId, workspace.id), eq(deliveries.channel, 'mail')))
  const mails: CaughtMail[] = []
  for (const { address } of addresses) {
    const answer = await fetch(`${standIns.pigeonhole}/api/inbox/${encodeURIComponent(address)}`)
    const { messages } = await answer.json() as { messages: { id: string, messageId: string }[] }
    // The newest comes first.
    for (const { id, messageId } of messages.reverse()) {
      const raw = (await (await fetch(`${standIns.pigeonhole}/message/${id}/raw.eml`)).text()).replace(/=\r?\n/g, '')
      const text = Buffer.from(raw.replace(/=([0-9A-F]{2})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16))), 'latin1').toString('utf8')
      mails.push({ address, messageId, text })
    }
  }
  return mails
}

/** Each mail that was called for arrived once; twice only where an answer was lost, which the trail then says. */
async function verifyMessages(
  { context, standIns, workspace }: Arena, record: CampaignRecord, mails: readonly CaughtMail[], found: Found,
): Promise<void> {
  const arrived = new Map<string, number>()
  for (const { messageId } of mails) arrived.set(messageId, (arrived.get(messageId) ?? 0) + 1)
  for (const delivery of await context.db.select().from(deliveries).where(eq(deliveries.workspaceId, workspace.id))) {
    const isText = delivery.channel === 'phone'
    const times = isText ? await countTexts(standIns.pigeonhole, delivery) : arrived.get(delivery.messageId) ?? 0
    if (isText && delivery.state === 'sent') record.texted += 1
    if (delivery.ownId !== null && delivery.state === 'sent') record.ownMessages += 1
    if (delivery.occasion === 'before' && delivery.state === 'sent') record.reminded += 1
    // Sent twice with an unknown outcome, as when its process was killed both times: a person decides, and is told.
    const isLeft = delivery.state === 'unknown' && delivery.unknowns > 1
    if (isLeft) record.leftToPeople += 1
    const about = `${delivery.occasion} to ${delivery.address}, ${delivery.state}, arrived ${times} times`
    if (delivery.state === 'overtaken' ? times > 1 : times === 0 && !isLeft) found('a mail did not arrive', about)
    // A service for texts knows one that comes again by its key.
    if (times > 1 && (isText || delivery.unknowns === 0)) found('a mail arrived twice for no reason', about)
    if (!['sent', 'overtaken', 'unknown'].includes(delivery.state)) found('a mail is not done with', about)
  }
}

async function countTexts(pigeonhole: string, { id, address }: typeof deliveries.$inferSelect): Promise<number> {
  const { texts } = await (await fetch(`${pigeonhole}/api/texts/${encodeURIComponent(address)}`)).json() as { texts: { id: string }[] }
  return texts.filter(text => text.id === id).length
}

/** What the service has of each payment is what is written down here; the audit compares that with the bookings. */
async function verifyPayments({ context, standIns, workspace }: Arena, found: Found): Promise<void> {
  const there = (await (await fetch(`${standIns.tollgate}/payments.json`)).json() as { payments: { reference: string, paid: { amount: number } | null, refunded: number }[] }).payments
  const byReference = new Map(there.map(payment => [payment.reference, payment]))
  for (const payment of await context.db.select().from(payments).where(eq(payments.workspaceId, workspace.id))) {
    const atService = byReference.get(payment.id)
    const [paid, refunded] = [atService?.paid?.amount ?? 0, atService?.refunded ?? 0]
    if (paid !== payment.paidAmount || refunded !== payment.refundedAmount || payment.refundAmount !== payment.refundedAmount)
      found('the service has other money than is written down', `${payment.bookingId}: ${paid} paid and ${refunded} back, here ${payment.paidAmount}, ${payment.refundedAmount} of ${payment.refundAmount}`)
  }
}

/** No mail holds a link or a passcode of another session, and no SEQUENCE falls. */
function verifyMails(
  mails: readonly CaughtMail[], allRooms: readonly (typeof rooms.$inferSelect)[],
  sessionsOfMail: ReadonlyMap<string, ReadonlySet<string>>, found: Found,
): void {
  const links = new Map(allRooms.flatMap(({ sessionId, joinUrl, hostUrl }) =>
    [joinUrl, hostUrl].flatMap(link => (link ? [[link, sessionId] as const] : []))))
  const codes = new Map<string, Set<string>>()
  for (const { sessionId, passcode } of allRooms) if (passcode) codes.set(sessionId, (codes.get(sessionId) ?? new Set()).add(passcode))
  const sequences = new Map<string, number>()
  for (const { address, messageId, text } of mails) {
    const own = sessionsOfMail.get(messageId) ?? new Set()
    for (const [link, of] of links) if (!own.has(of) && text.includes(link)) found('a mail holds another session’s link', `${address}: ${link}`)
    const shown = /Passcode: (\w+)/.exec(text)?.[1]
    // A room that took another's place has forgotten the passcode of that one, which was this session's too.
    const others = [...codes].filter(([of, set]) => !own.has(of) && shown !== undefined && set.has(shown))
    if (shown && others.length > 0 && ![...own].some(of => codes.get(of)?.has(shown))) found('a mail holds another session’s passcode', `${address}: ${shown}`)
    const uid = /^UID:(\S+)/m.exec(text)?.[1]
    const sequence = Number(/^SEQUENCE:(\d+)/m.exec(text)?.[1] ?? -1)
    if (!uid || sequence < 0) continue
    const key = `${address} ${uid}`
    if (sequence < (sequences.get(key) ?? 0)) found('a SEQUENCE fell', `${key}: ${sequence}`)
    sequences.set(key, Math.max(sequence, sequences.get(key) ?? 0))
  }
}

/** Nothing that services issued stands in what the public saw before confirmation, in the logs or in the queue. */
function verifySecrets(
  { logs }: Arena, { unconfirmed, jobs }: CampaignRecord, allRooms: readonly (typeof rooms.$inferSelect)[],
  sessionOf: ReadonlyMap<string, string>, found: Found,
): void {
  const keyOf = (link: string | null) => link && new URL(link).pathname.split('/').at(-1)
  const secretsOf = (room: typeof rooms.$inferSelect) =>
    [keyOf(room.joinUrl), keyOf(room.hostUrl), room.passcode && room.passcode.length >= 6 ? room.passcode : null]
      .flatMap(secret => secret ?? [])
  const all = allRooms.flatMap(secretsOf)
  for (const { bookingId, texts } of unconfirmed) {
    const own = allRooms.filter(({ sessionId }) => sessionId === sessionOf.get(bookingId)).flatMap(secretsOf)
    for (const secret of own) if (texts.some(text => text.includes(secret))) found('a secret was public before confirmation', `${bookingId}: ${secret}`)
  }
  const places: [string, string][] = [...logs.map((file): [string, string] => ['a log', readFileSync(file, 'utf8')]), ['the queue', [...jobs].join('\n')]]
  for (const [name, text] of places) for (const secret of all) if (isWord(text, secret)) found(`a secret stands in ${name}`, secret)
}

/** Whether a text holds a secret as a word of its own, and not as the fraction of a second. */
function isWord(text: string, word: string): boolean {
  return new RegExp(`(?<![\\w.])${word}(?!\\w)`).test(text)
}
