import { createHash, randomUUID, timingSafeEqual } from 'node:crypto'
import { and, eq, gt, isNull, lt } from 'drizzle-orm'
import { feedText, freeBusyText } from '../../core/calendar/entry'
import { groupBy } from '../../core/group-by'
import { DAY } from '../../core/time/civil'
import { busyOf } from '../../core/event-type/host-time'
import { englishLocale } from '../../core/time/format'
import { union } from '../../core/time/intervals'
import type { HostAddresses } from '../../core/views/host'
import { type Context, dateOf, secondsOf } from '../context'
import { hosts, sessionHosts, sessions, workspaces } from '../database/schema'
import { loadDetailsOfHost } from '../details'
import { loadHostsTime } from '../hosts-time'
import { feedToken, idOfToken } from '../secrets'
import { feedEntry } from './entry'

/** What other programs read of a host's sessions, at addresses that only whoever was given them knows. */

const PAST_DAYS = 60
const FREE_BUSY_DAYS = 180
const REFRESH_MINUTES = 15

type Use = Parameters<typeof feedToken>[1]

/** A text with what names its content, whenever it was written. */
export interface Published {
  text: string
  etag: string
}

export async function hostAddresses({ db, settings }: Context, workspaceId: string, hostId: string): Promise<HostAddresses | null> {
  const [host] = await db.select().from(hosts).where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, hostId), isNull(hosts.leftAt)))
  if (!host) return null
  return {
    feed: `${settings.baseUrl}/feeds/${feedToken(settings.secret, 'feed', host)}.ics`,
    freeBusy: `${settings.baseUrl}/freebusy/${feedToken(settings.secret, 'free/busy', host)}.ifb`,
    withCalendars: host.freeBusyCalendars,
  }
}

/** Decides whether a host's free/busy address says what calendars take, too. */
export async function setFreeBusy(
  context: Context, workspaceId: string, hostId: string, withCalendars: boolean,
): Promise<HostAddresses | null> {
  await context.db.update(hosts).set({ freeBusyCalendars: withCalendars })
    .where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, hostId)))
  return hostAddresses(context, workspaceId, hostId)
}

/** Makes both addresses anew: those before lead nowhere from then on. */
export async function remakeAddresses(context: Context, workspaceId: string, hostId: string): Promise<HostAddresses | null> {
  await context.db.update(hosts).set({ feedSeed: randomUUID() }).where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, hostId)))
  return hostAddresses(context, workspaceId, hostId)
}

/** The host whose address a token is; a host who has left has none. */
async function hostOfToken({ db, settings }: Context, token: string, use: Use) {
  const workspaceId = idOfToken(token)
  if (workspaceId === null) return null
  const found = await db.select({ host: hosts, workspace: workspaces.name }).from(hosts)
    .innerJoin(workspaces, eq(workspaces.id, hosts.workspaceId)).where(and(eq(hosts.workspaceId, workspaceId), isNull(hosts.leftAt)))
  return found.find(({ host }) => timingSafeEqual(Buffer.from(feedToken(settings.secret, use, host)), Buffer.from(token))) ?? null
}

/** A host's sessions, past ones of two months and all to come, as a calendar to subscribe to. */
export async function readFeed(context: Context, token: string): Promise<Published | null> {
  const found = await hostOfToken(context, token, 'feed')
  if (!found) return null
  const { host, workspace } = found
  const reader = { timeZone: host.timeZone, locale: englishLocale(undefined), isHost: true }
  const booked = await loadDetailsOfHost(context.db, host.workspaceId, host.id, dateOf(context.now() - PAST_DAYS * DAY))
  const entries = [...groupBy(booked, ({ session }) => session.id).values()].flatMap(([first, ...more]) =>
    (first ? [feedEntry(context, [first, ...more], reader)] : []))
  entries.sort((a, b) => a.start - b.start || (a.uid < b.uid ? -1 : 1))
  return published(feedText({ name: `${host.name}, ${workspace}`, refreshMinutes: REFRESH_MINUTES, entries }))
}

/** When a host has sessions in the coming months, or is busy by their calendars where they want that said, and nothing else of it. */
export async function readFreeBusy(context: Context, token: string): Promise<Published | null> {
  const found = await hostOfToken(context, token, 'free/busy')
  if (!found) return null
  const { db, now, settings } = context
  const { workspaceId, id } = found.host
  const from = Math.floor(now() / DAY) * DAY
  const to = from + FREE_BUSY_DAYS * DAY
  const taken = await db.select({ startsAt: sessions.startsAt, endsAt: sessions.endsAt }).from(sessionHosts)
    .innerJoin(sessions, and(eq(sessions.workspaceId, sessionHosts.workspaceId), eq(sessions.id, sessionHosts.sessionId)))
    .where(and(
      eq(sessionHosts.workspaceId, workspaceId), eq(sessionHosts.hostId, id), eq(sessionHosts.active, true),
      gt(sessions.endsAt, dateOf(from)), lt(sessions.startsAt, dateOf(to)),
    ))
  const entries = found.host.freeBusyCalendars
    ? (await loadHostsTime(context, workspaceId, [id], { from, to, before: 0, after: 0 })).for('', [id]).flatMap(host => busyOf(host, [])) : []
  const busy = union([...taken.flatMap(({ startsAt, endsAt }) => [secondsOf(startsAt), secondsOf(endsAt)]), ...entries])
  const uid = `free-busy-${id}@${new URL(settings.baseUrl).hostname}`
  return published(freeBusyText({ uid, stamp: now(), from, to, busy }))
}

function published(text: string): Published {
  const content = text.replaceAll(/^DTSTAMP:.*\r\n/gm, '')
  return { text, etag: `"${createHash('sha256').update(content).digest('base64url').slice(0, 32)}"` }
}
