import { and, asc, eq, sql } from 'drizzle-orm'
import { plainPlan } from '../../core/hours/plan'
import type { Shape } from '../../core/event-type/shapes'
import { weekdays, type Weekday } from '../../core/time/civil'
import type { SignedIn } from '../../core/views/desk'
import { type Context, dateOf } from '../context'
import { eventTypes, hosts, hoursPlans, members } from '../database/schema'
import { createEventType, firstSettings, freeSlug } from '../event-types'

/** The answers to the three questions of a beginning. */
export interface OnboardingAnswers {
  days: Weekday[]
  from: string
  to: string
  timeZone: string
  /** What the first event type starts as. */
  shape: Shape
}

interface FirstEventType {
  id: string
  page: string
}

export type OnboardingOutcome =
  | { kind: 'completed', created: FirstEventType }
  /** The workspace has an event type already; nothing was changed. */
  | { kind: 'completedBefore', created: FirstEventType }
  | { kind: 'hostsNothing' }

/** Sets the member's hours and opens a first event type in them, once. */
export async function completeOnboarding(
  context: Context,
  member: SignedIn,
  { days, from, to, timeZone, shape }: OnboardingAnswers,
): Promise<OnboardingOutcome> {
  const { workspaceId, memberId } = member
  const firstEventType = (id: string, slug: string): FirstEventType => ({
    id,
    page: `${context.settings.baseUrl}/${member.workspace.slug}/${slug}`,
  })
  return context.db.transaction(async (tx) => {
    // Whoever presses twice waits here for the first press.
    const [host] = await tx
      .select({ id: hosts.id })
      .from(hosts)
      .where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.memberId, memberId)))
      .for('update')
    if (!host) return { kind: 'hostsNothing' }
    const [first] = await tx
      .select({ id: eventTypes.id, slug: eventTypes.slug })
      .from(eventTypes)
      .where(and(eq(eventTypes.workspaceId, workspaceId), eq(eventTypes.oneOff, false)))
      .orderBy(asc(eventTypes.position))
      .limit(1)
    if (first) return { kind: 'completedBefore', created: firstEventType(first.id, first.slug) }
    await tx
      .update(hosts)
      .set({ timeZone })
      .where(and(eq(hosts.workspaceId, workspaceId), eq(hosts.id, host.id)))
    await tx
      .update(members)
      .set({ timeZone })
      .where(and(eq(members.workspaceId, workspaceId), eq(members.id, memberId)))
    await tx
      .update(hoursPlans)
      .set({
        plan: plainPlan(timeZone, [{ days: weekdays.filter(day => days.includes(day)), from, to }]),
        version: sql`${hoursPlans.version} + 1`,
      })
      .where(and(eq(hoursPlans.workspaceId, workspaceId), eq(hoursPlans.hostId, host.id)))
    const name = `Meeting with ${member.name.split(' ')[0]}`.slice(0, 120)
    const slug = await freeSlug(tx, workspaceId, name)
    const id = await createEventType(
      tx,
      workspaceId,
      {
        slug,
        state: 'open',
        listed: true,
        settings: firstSettings(name, timeZone, shape),
        chairs: [{ name: 'Host', policy: 'fairShare', hosts: [{ id: host.id, weight: 1 }] }],
      },
      member.name,
      dateOf(context.now()),
    )
    return { kind: 'completed', created: firstEventType(id, slug) }
  })
}
