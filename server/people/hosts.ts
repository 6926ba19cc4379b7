import { and, asc, count, eq, isNull, sql } from 'drizzle-orm'
import { type Reach, reaches } from '../../core/account/rights'
import { plainPlan } from '../../core/hours/plan'
import { awayUntil } from '../../core/hours/away'
import { zoneOf } from '../../core/time/zone'
import { weekdays } from '../../core/time/civil'
import type { SignedIn } from '../../core/views/desk'
import type { Database } from '../database/connection'
import { dateOf } from '../context'
import { hostPlans, hosts, hoursPlans, sessionHosts } from '../database/schema'
import { insertPlan } from '../hosts-time'
import { listVideoStates } from '../rooms'

/**
 * Whether a member may act for a host, be it one who has left: for themselves, and for others as owner or coordinator, or
 * where their reach includes what is needed.
 */
export async function reachesHost(
  db: Database, { workspaceId, memberId, role, reach }: SignedIn, hostId: string, needs: { sessions: Reach['sessions'] } | null,
): Promise<boolean> {
  const [host] = await db.select({ memberId: hosts.memberId }).from(hosts)
    .where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, hostId)))
  return host !== undefined && (role !== 'host' || host.memberId === memberId || (needs !== null && reaches(reach, needs)))
}

/** The hosts of a workspace by name: their hours as far as the member sees them, their video account, how much is to come. */
export async function viewHosts(db: Database, { workspaceId, memberId: reader, reach }: SignedIn, now: number) {
  const rows = await db.select({ host: hosts, planId: hoursPlans.id, plan: hoursPlans.plan }).from(hosts)
    .leftJoin(hostPlans, and(eq(hostPlans.workspaceId, hosts.workspaceId), eq(hostPlans.hostId, hosts.id), eq(hostPlans.isDefault, true)))
    .leftJoin(hoursPlans, and(eq(hoursPlans.workspaceId, hostPlans.workspaceId), eq(hoursPlans.id, hostPlans.planId)))
    .where(and(eq(hosts.workspaceId, workspaceId), isNull(hosts.leftAt))).orderBy(asc(sql`lower(${hosts.name})`))
  const video = await listVideoStates(db, workspaceId)
  const coming = await countComing(db, workspaceId, now)
  return rows.map(({ host: { id, memberId, name, email, timeZone, picture, away }, planId, plan }) => {
    const isVisible = memberId === reader || reaches(reach, { hours: 'see' })
    const today = zoneOf(timeZone).dayOf(now)
    return {
      memberId,
      name,
      email,
      timeZone,
      host: {
        id, picture,
        hours: isVisible && planId && plan ? { planId, weekly: plan.weekly, hasMore: plan.recurring.length > 0 } : null,
        awayUntil: isVisible ? awayUntil(away, today) : null,
        video: video.of(id).state, coming: coming.get(id) ?? 0,
      },
    }
  })
}

/** How many sessions each host has whose time, buffers included, is still to come; or those of one host only. */
export async function countComing(db: Database, workspaceId: string, now: number, hostId?: string): Promise<ReadonlyMap<string, number>> {
  const rows = await db.select({ hostId: sessionHosts.hostId, count: count() }).from(sessionHosts)
    .where(and(
      eq(sessionHosts.workspaceId, workspaceId), hostId === undefined ? undefined : eq(sessionHosts.hostId, hostId),
      // As the index has it, which a parameter would not match.
      sql`${sessionHosts.active}`, sql`lower(${sessionHosts.padded}) > ${dateOf(now).toISOString()}::timestamptz`,
    )).groupBy(sessionHosts.hostId)
  return new Map(rows.map(row => [row.hostId, row.count]))
}

/** Everybody who can be given sessions, by name. */
export function listHosts(db: Database, workspaceId: string) {
  return db.select({ id: hosts.id, name: hosts.name, email: hosts.email, timeZone: hosts.timeZone }).from(hosts)
    .where(and(eq(hosts.workspaceId, workspaceId), isNull(hosts.leftAt))).orderBy(asc(sql`lower(${hosts.name})`))
}

/** Creates a host with usual hours from Monday to Friday, who can be given a chair at once. */
export async function createHost(db: Database, values: typeof hosts.$inferInsert): Promise<string> {
  const { workspaceId, timeZone } = values
  const [host] = await db.insert(hosts).values(values).returning({ id: hosts.id })
  if (!host) throw new Error('The host was not saved')
  const plan = plainPlan(timeZone, [{ days: weekdays.slice(0, 5), from: '09:00', to: '17:00' }])
  await insertPlan(db, { workspaceId, hostId: host.id, name: 'Usual hours', plan }, true)
  return host.id
}
