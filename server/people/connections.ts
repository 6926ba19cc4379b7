import { and, asc, eq, gt, isNull } from 'drizzle-orm'
import type { Connections, HostConnection } from '../../core/views/connections'
import type { SignedIn } from '../../core/views/desk'
import { applyAccountChange } from '../changes'
import { type Context, dateOf } from '../context'
import { deliveries, hosts, members, workspaces } from '../database/schema'
import { hostIdsOf, knownEventTypes } from '../event-types'
import { viewAccounts, viewUsers } from '../rooms'

/** Whose accounts are connected, what they are used for and what is wrong with them; to a host only what is theirs. */
export async function viewConnections(context: Context, { workspaceId, memberId, role }: SignedIn): Promise<Connections> {
  const { db, settings, video } = context
  const people = await db.select().from(hosts)
    .where(and(eq(hosts.workspaceId, workspaceId), isNull(hosts.leftAt), role === 'host' ? eq(hosts.memberId, memberId) : undefined))
    .orderBy(asc(hosts.name))
  const accounts = await viewAccounts(context, workspaceId)
  const userOf = await viewUsers(context, workspaceId)
  const eventTypes = (await knownEventTypes(context, workspaceId)).map(eventType => ({
    id: eventType.id,
    name: eventType.settings.name,
    byVideo: eventType.settings.places.some(({ kind }) => kind === 'video'),
    hosts: new Set(hostIdsOf(eventType)),
  }))
  const [workspace] = await db.select({ order: workspaces.roomWays, pattern: workspaces.roomPattern }).from(workspaces)
    .where(eq(workspaces.id, workspaceId))
  const shared = accounts.get(null) ?? []
  const withUsers = shared.filter(({ service }) => video.get(service)?.users)
  return {
    services: [...video].map(([key, { name, owner, connection, users }]) => ({
      key, name, owner, hasUsers: users !== null, fields: connection.way === 'credentials' ? [...connection.fields] : [],
    })),
    calendarServers: settings.calendarServers.map(({ key, name }) => ({ key, name })),
    hosts: people.map((host): HostConnection => {
      const own = host.memberId === memberId
      const theirs = eventTypes.filter(eventType => eventType.hosts.has(host.id))
      return {
        hostId: host.id,
        name: host.name,
        email: host.email,
        videoEmail: host.videoEmail,
        own,
        connects: host.memberId === null ? role !== 'host' : own,
        accounts: accounts.get(host.id) ?? [],
        users: withUsers.map(({ id }) => userOf(id, host.id)),
        hasFixedRoom: host.fixedRoom !== null,
        byVideo: theirs.filter(({ byVideo }) => byVideo).map(({ name }) => name),
        elsewhere: theirs.filter(({ byVideo }) => !byVideo).map(({ id, name }) => ({ id, name })),
      }
    }),
    workspace: { mayChange: role !== 'host', accounts: shared, order: workspace?.order ?? [], hasPattern: (workspace?.pattern ?? '') !== '' },
  }
}

/** One mail in this time. Seconds. */
const ASK_EVERY = 3600

/** Asks a host who signs in, by mail, to connect what only they can connect. */
export async function askToConnect(context: Context, by: SignedIn, hostId: string): Promise<'asked' | 'notFound' | 'askedAlready'> {
  const { workspaceId } = by
  return context.db.transaction(async (tx) => {
    const [found] = await tx.select({ member: members }).from(hosts)
      .innerJoin(members, and(eq(members.workspaceId, hosts.workspaceId), eq(members.id, hosts.memberId)))
      .where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, hostId), isNull(hosts.leftAt))).for('no key update', { of: members })
    if (!found) return 'notFound'
    const { member } = found
    const recent = await tx.$count(deliveries, and(
      eq(deliveries.workspaceId, workspaceId), eq(deliveries.memberId, member.id), eq(deliveries.occasion, 'connectionAsked'),
      gt(deliveries.createdAt, dateOf(context.now() - ASK_EVERY)),
    ))
    if (recent > 0) return 'askedAlready'
    await applyAccountChange(context, tx, member, 'connectionAsked', true, by.name)
    return 'asked'
  })
}
