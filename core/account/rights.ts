import { z } from 'zod'
import type { MemberRole } from './roles'

/** Who may do what: the one place that calls, screens and the documentation read it from. */

/** Which roles may do what. */
export const rights = {
  seeSessions: ['owner', 'coordinator', 'host'],
  changeSessions: ['owner', 'coordinator', 'host'],
  seeEventTypes: ['owner', 'coordinator', 'host'],
  changeEventTypes: ['owner', 'coordinator'],
  changeMessages: ['owner', 'coordinator'],
  seeHours: ['owner', 'coordinator', 'host'],
  connectAccounts: ['owner', 'coordinator', 'host'],
  connectWorkspace: ['owner', 'coordinator'],
  connectPayments: ['owner'],
  seePeople: ['owner', 'coordinator', 'host'],
  changePeople: ['owner'],
  seeRotation: ['owner', 'coordinator', 'host'],
  tryRotation: ['owner', 'coordinator'],
  changeWorkspace: ['owner'],
} as const satisfies Record<string, readonly MemberRole[]>

export type Right = keyof typeof rights

export function hasRight(role: MemberRole, right: Right): boolean {
  const allowed: readonly MemberRole[] = rights[right]
  return allowed.includes(role)
}

/**
 * How far hosts reach with the sessions of other hosts; each step includes those before it. Whatever the step, the host
 * link and the passcode of a room, and the address of a client's page, are shown to nobody who may not change the session.
 */
export const sessionReach = ['own', 'times', 'clients', 'change'] as const
/** How far hosts reach with the hours of other hosts. */
export const hoursReach = ['own', 'see', 'change'] as const

export const reachSchema = z.strictObject({ sessions: z.enum(sessionReach), hours: z.enum(hoursReach) })
/** How far somebody reaches with what is another host's. */
export type Reach = z.infer<typeof reachSchema>

export const presetReach: Reach = { sessions: 'own', hours: 'see' }
const fullReach: Reach = { sessions: 'change', hours: 'change' }

/** Owners and coordinators reach everything; hosts as far as the workspace lets them. */
export function reachOf(role: MemberRole, ofHosts: Reach): Reach {
  return role === 'host' ? ofHosts : fullReach
}

/** Whether a reach includes some steps, as in `reaches(member.reach, { sessions: 'clients' })`. */
export function reaches(reach: Reach, { sessions = 'own', hours = 'own' }: Partial<Reach>): boolean {
  return isAtLeast(sessionReach, reach.sessions, sessions) && isAtLeast(hoursReach, reach.hours, hours)
}

function isAtLeast(steps: readonly string[], has: string, needs: string): boolean {
  return steps.indexOf(has) >= steps.indexOf(needs)
}
