import type { H3Event } from 'h3'
import { getHeader } from 'h3'
import { z } from 'zod'
import type { Context } from '../context'
import type { MemberRole, SignedIn } from '../../core/views/desk'
import { loadMember } from '../people'
import { defineCall, Problem } from './problem'

/** Who may do what: the one place where a desk call's workspace and role are checked. */

const rights = {
  seeSessions: ['owner', 'coordinator', 'host'],
  changeSessions: ['owner', 'coordinator', 'host'],
  seeEventTypes: ['owner', 'coordinator', 'host'],
  changeEventTypes: ['owner', 'coordinator'],
  seeHours: ['owner', 'coordinator', 'host'],
  connectAccounts: ['owner', 'coordinator', 'host'],
} as const satisfies Record<string, readonly MemberRole[]>

export type Right = keyof typeof rights

export function defineDeskCall<Answer>(right: Right, handler: (event: H3Event, context: Context, member: SignedIn) => Promise<Answer>) {
  return defineCall(async (event, context) => handler(event, context, await requireMember(event, context, right)))
}

const sessionUser = z.object({ workspaceId: z.uuid(), memberId: z.uuid() })

async function requireMember(event: H3Event, context: Context, right: Right): Promise<SignedIn> {
  refuseForeignWrites(event)
  const user = sessionUser.safeParse((await getUserSession(event)).user).data
  const member = user ? await loadMember(context.db, user.workspaceId, user.memberId) : null
  if (!member) throw new Problem(401, 'Not signed in', 'Please sign in.')
  const allowed: readonly MemberRole[] = rights[right]
  if (!allowed.includes(member.role)) throw new Problem(403, 'Not allowed', `As a ${member.role} you cannot do this; ask the workspace’s owner.`)
  return member
}

/** The cookie is SameSite=Lax already; this also stops writes that another site's page sends from this browser. */
export function refuseForeignWrites(event: H3Event): void {
  const site = getHeader(event, 'sec-fetch-site')
  if (event.method !== 'GET' && site !== undefined && site !== 'same-origin' && site !== 'none') {
    throw new Problem(403, 'Not allowed', 'This can only be done from Temporia’s own pages.')
  }
}
