import { and, asc, eq, isNull, ne, or } from 'drizzle-orm'
import { reaches } from '../../core/account/rights'
import type { HostProfile, HostView } from '../../core/views/host'
import type { SignedIn } from '../../core/views/desk'
import { listSessions } from '../booking'
import { readHostAnew, summarizeCalendars } from '../calendar-sync'
import type { Context } from '../context'
import { hostPlans, hosts, hoursPlans, members, workspaces } from '../database/schema'
import { bookableWith, knownEventTypes, viewRotation } from '../event-types'
import { listVideoStates, planFailingRooms } from '../rooms'
import { countComing, reachesHost } from './hosts'

/** One host: who they are to clients, when they are there, and what they have. */

const DAYS = 90
const SESSIONS_SHOWN = 8

export async function viewHost(context: Context, member: SignedIn, id: string): Promise<HostView | null> {
  const { db, now, settings } = context
  const { workspaceId } = member
  const [found] = await db.select({ host: hosts, role: members.role, workspace: workspaces.slug }).from(hosts)
    .innerJoin(workspaces, eq(workspaces.id, hosts.workspaceId))
    .leftJoin(members, and(eq(members.workspaceId, hosts.workspaceId), eq(members.id, hosts.memberId)))
    .where(and(isHost(workspaceId, id), isNull(hosts.leftAt)))
  if (!found) return null
  const { host, role, workspace } = found
  const own = host.memberId === member.memberId
  const mayChange = await reachesHost(db, member, id, null)
  const seesHours = own || mayChange || reaches(member.reach, { hours: 'see' })
  const [calendars, video, plans, coming, comingCount, rotation, eventTypes] = await Promise.all([
    mayChange ? summarizeCalendars(db, workspaceId, id) : null,
    listVideoStates(db, workspaceId),
    seesHours ? plansOf(context, workspaceId, id) : null,
    listSessions(context, member, { search: '', when: 'coming', hostId: id, page: 1 }),
    countComing(db, workspaceId, now(), id),
    viewRotation(context, workspaceId, { days: DAYS, page: 1, host: id }),
    knownEventTypes(context, workspaceId),
  ])
  const account = video.of(id)
  return {
    id,
    own,
    mayChange,
    version: host.profileVersion,
    email: host.email,
    role,
    profile: {
      name: host.name, about: host.about, timeZone: host.timeZone, phone: host.phone, slug: host.slug, videoEmail: mayChange ? host.videoEmail : '',
      fixedRoom: mayChange ? host.fixedRoom : null,
      away: seesHours ? host.away : [],
    },
    base: `${settings.baseUrl}/${workspace}/with/`,
    picture: host.picture,
    plans,
    video: { state: account.state, label: mayChange ? account.label : null },
    calendars,
    coming: coming.rows.slice(0, SESSIONS_SHOWN),
    comingCount: comingCount.get(id) ?? 0,
    shares: rotation.pools.flatMap(({ hosts: all, ...pool }) =>
      all.filter(other => other.id === id).map(own => ({ ...pool, own, total: all.reduce((sum, { had }) => sum + had, 0) }))),
    offered: bookableWith(eventTypes, id).map(({ settings: { name } }) => name),
    days: DAYS,
    now: now(),
  }
}

/** A host's own plans, and the workspace's, which can become theirs. */
async function plansOf({ db }: Context, workspaceId: string, hostId: string): Promise<NonNullable<HostView['plans']>> {
  const rows = await db
    .select({ id: hoursPlans.id, name: hoursPlans.name, hostId: hoursPlans.hostId, plan: hoursPlans.plan, isDefault: hostPlans.isDefault })
    .from(hoursPlans)
    .leftJoin(hostPlans, and(
      eq(hostPlans.workspaceId, hoursPlans.workspaceId), eq(hostPlans.planId, hoursPlans.id), eq(hostPlans.hostId, hostId),
    ))
    .where(and(eq(hoursPlans.workspaceId, workspaceId), or(eq(hoursPlans.hostId, hostId), isNull(hoursPlans.hostId))))
    .orderBy(asc(hoursPlans.name))
  return rows.map(({ id, name, hostId: owner, plan, isDefault }) => ({
    id, name, shared: owner === null, isDefault: isDefault ?? false, weekly: plan.weekly, hasMore: plan.recurring.length > 0,
  }))
}

export type ProfileOutcome = { kind: 'saved', version: number } | { kind: 'changedMeanwhile' } | { kind: 'addressTaken', name: string }

/** Changes a host's profile over the version it was read in. */
export async function updateHost(
  { db, now }: Context, workspaceId: string, id: string, { basedOn, ...profile }: HostProfile & { basedOn: number },
): Promise<ProfileOutcome> {
  return db.transaction(async (tx) => {
    // Of two who want one address, the second finds it taken.
    await tx.select({ id: workspaces.id }).from(workspaces).where(eq(workspaces.id, workspaceId)).for('no key update')
    if (profile.slug !== null) {
      const [holder] = await tx.select({ name: hosts.name }).from(hosts)
        .where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.slug, profile.slug), ne(hosts.id, id)))
      if (holder) return { kind: 'addressTaken', name: holder.name }
    }
    const [before] = await tx.select({ timeZone: hosts.timeZone, fixedRoom: hosts.fixedRoom }).from(hosts).where(isHost(workspaceId, id))
    const [updated] = await tx.update(hosts).set({ ...profile, profileVersion: basedOn + 1 })
      .where(and(isHost(workspaceId, id), isNull(hosts.leftAt), eq(hosts.profileVersion, basedOn)))
      .returning({ version: hosts.profileVersion })
    if (updated && before?.timeZone !== profile.timeZone) await readHostAnew({ db: tx, now }, workspaceId, id)
    if (updated && profile.fixedRoom && !before?.fixedRoom) await planFailingRooms(tx, workspaceId, now())
    return updated ? { kind: 'saved', version: updated.version } : { kind: 'changedMeanwhile' }
  })
}

function isHost(workspaceId: string, id: string) {
  return and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, id))
}
