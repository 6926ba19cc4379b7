import { and, eq } from 'drizzle-orm'
import { plainPlan } from '../../core/hours/plan'
import { weekdays, type Weekday } from '../../core/time/civil'
import type { SignedIn } from '../../core/views/desk'
import { type Context, dateOf } from '../context'
import { hosts, hoursPlans, members } from '../database/schema'
import { createEventType, firstSettings, freeSlug } from './create'

/** The answers to the three questions of a beginning. */
export interface Beginning {
  days: Weekday[]
  from: string
  to: string
  timeZone: string
}

/** Sets the member's hours and opens a first event type in them; null where the member hosts nothing. */
export async function beginWith({ db, now, settings }: Context, member: SignedIn, { days, from, to, timeZone }: Beginning): Promise<{ id: string, page: string } | null> {
  const { workspaceId, memberId } = member
  return db.transaction(async (tx) => {
    const [host] = await tx.update(hosts).set({ timeZone }).where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.memberId, memberId))).returning({ id: hosts.id })
    if (!host) return null
    await tx.update(members).set({ timeZone }).where(and(eq(members.workspaceId, workspaceId), eq(members.id, memberId)))
    await tx.update(hoursPlans).set({ plan: plainPlan(timeZone, [{ days: weekdays.filter(day => days.includes(day)), from, to }]) })
      .where(and(eq(hoursPlans.workspaceId, workspaceId), eq(hoursPlans.hostId, host.id)))
    const name = `Talk with ${member.name.split(' ')[0]}`.slice(0, 120)
    const slug = await freeSlug(tx, workspaceId, name)
    const id = await createEventType(tx, workspaceId, {
      slug, state: 'open', listed: true, settings: firstSettings(name, timeZone), chairs: [{ name: 'Host', policy: 'fairShare', hosts: [{ id: host.id, weight: 1 }] }],
    }, member.name, dateOf(now()))
    return { id, page: `${settings.baseUrl}/${member.workspace.slug}/${slug}` }
  })
}
