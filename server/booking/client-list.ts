import { and, desc, eq, sql } from 'drizzle-orm'
import { formatInstant } from '../../core/time/civil'
import type { ClientListView } from '../../core/views/client'
import { planDeliveries } from '../changes'
import { type Context, dateOf, secondsOf } from '../context'
import { Batch } from '../database/batch'
import type { Database } from '../database/connection'
import { bookings, hosts, eventTypes, listRequests, sessionHosts, sessions, workspaces } from '../database/schema'
import { AFTER_OTHERS, type JobSubject, planJob } from '../jobs/queue'
import { bookingPage } from '../details'
import { readListToken } from '../secrets'
import { bookAgainPath } from './view'

/** All bookings of a client with a workspace, behind a link that is mailed to their address: there are no accounts to sign in to. */

/** The newest so many. */
const MOST = 100

/** The answer is the same, and as quick, whether or not there are bookings: a job looks. */
export async function askForList(context: Context, workspaceId: string, address: string): Promise<void> {
  await context.db.transaction(async (tx) => {
    const request = { workspaceId, address, at: dateOf(context.now()) }
    const [row] = await tx.insert(listRequests).values(request).returning({ id: listRequests.id })
    if (row) await planJob(tx, 'sendList', { workspaceId, id: row.id }, context.now())
  })
}

const isClient = (workspaceId: string, address: string) =>
  and(eq(bookings.workspaceId, workspaceId), sql`lower(${bookings.clientEmail}) = ${address.toLowerCase()}`)

/** The job that mails the link, where the address is a client's. */
export async function sendList(context: Context, subject: JobSubject): Promise<void> {
  await context.db.transaction(async (tx) => {
    const [request] = await tx.delete(listRequests)
      .where(and(eq(listRequests.workspaceId, subject.workspaceId), eq(listRequests.id, subject.id))).returning()
    const [latest] = request ? await tx.select().from(bookings).where(isClient(subject.workspaceId, request.address))
      .orderBy(desc(bookings.createdAt)).limit(1) : []
    if (!latest) return
    const batch = new Batch()
    planDeliveries(
      batch, context, { workspaceId: latest.workspaceId, changeId: null, bookingId: latest.id, sessionId: null, memberId: null }, 'bookingsList',
      [{ audience: 'client', hostId: null, name: latest.clientName, address: latest.clientEmail }], context.now(), AFTER_OTHERS,
    )
    await batch.write(tx)
  })
}

/** Null for text that is no such token; a link that is too old says so and lists nothing. */
export async function viewClientList(context: Context, token: string): Promise<ClientListView | null> {
  const read = readListToken(context.settings.secret, token)
  if (!read) return null
  const { db } = context
  const [found] = await db.select({
    address: bookings.clientEmail, workspace: { id: workspaces.id, slug: workspaces.slug, name: workspaces.name },
  }).from(bookings).innerJoin(workspaces, eq(workspaces.id, bookings.workspaceId))
    .where(and(eq(bookings.workspaceId, read.workspaceId), eq(bookings.id, read.id)))
  if (!found) return null
  const { workspace: { slug, name }, address } = found
  const hasEnded = read.expiresAt <= context.now()
  return { workspace: { slug, name }, address, hasEnded, bookings: hasEnded ? [] : await listBookings(context, db, found) }
}

async function listBookings(
  context: Context, db: Database, { address, workspace }: { address: string, workspace: { id: string } & ClientListView['workspace'] },
): Promise<ClientListView['bookings']> {
  const rows = await db.select({
    booking: bookings, session: sessions, eventType: eventTypes,
    hosts: sql<string[]>`array(select ${hosts.name} from ${sessionHosts}
      join ${hosts} on ${hosts.workspaceId} = ${sessionHosts.workspaceId} and ${hosts.id} = ${sessionHosts.hostId}
      where ${sessionHosts.workspaceId} = ${sessions.workspaceId} and ${sessionHosts.sessionId} = ${sessions.id} order by ${hosts.name})`,
  }).from(bookings)
    .innerJoin(sessions, and(eq(sessions.workspaceId, bookings.workspaceId), eq(sessions.id, bookings.sessionId)))
    .innerJoin(eventTypes, and(eq(eventTypes.workspaceId, sessions.workspaceId), eq(eventTypes.id, sessions.eventTypeId)))
    .where(isClient(workspace.id, address)).orderBy(desc(sessions.startsAt)).limit(MOST)
  return rows.map(({ booking, session, eventType, hosts: seated }) => ({
    bookAgain: bookAgainPath(context, { workspace, eventType, booking }),
    page: new URL(bookingPage(context, { workspace, booking })).pathname,
    eventType: eventType.settings.name, hosts: seated, state: booking.state, timeZone: booking.timeZone,
    start: formatInstant(secondsOf(session.startsAt)), end: formatInstant(secondsOf(session.endsAt)),
  }))
}
