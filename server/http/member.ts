import { getHeader, type H3Event } from 'h3'
import type { Context } from '../context'
import type { Answering } from '../json-text'
import { hasRight } from '../../core/account/rights'
import type { SignedIn } from '../../core/views/desk'
import { type AnswerOf, callTable, type DeskCallName } from './calls'
import { defineCall } from './define'
import { problem } from './problem'
import { signedInMember } from './session'
import { requireSubject } from './subject'

/** The one place where a desk call's workspace, role and reach are checked. */

/** Wraps a call that only members may make; its right, its subject and its answer are those of its row. */
export function defineDeskCall<Name extends DeskCallName>(
  name: Name,
  handler: (event: H3Event, context: Context, member: SignedIn) => Promise<Answering<AnswerOf<Name>>>,
) {
  return defineCall<Name>(name, async (event, context) => handler(event, context, await requireMember(event, context, name)))
}

async function requireMember(event: H3Event, context: Context, name: DeskCallName): Promise<SignedIn> {
  const row = callTable[name]
  refuseForeignWrites(event, context)
  const member = await signedInMember(event, context)
  if (!member) throw problem('notSignedIn', 'signIn', {})
  if (!row?.right || !hasRight(member.role, row.right)) throw problem('notAllowed', 'roleNotAllowed', { role: member.role })
  if (row.subject) await requireSubject(event, context.db, member, row.subject)
  return member
}

/**
 * The cookie is SameSite=Lax already; this also stops writes that another site's page sends from this browser. Browsers
 * say where a request comes from in Sec-Fetch-Site, older ones in Origin; other programs say neither.
 */
export function refuseForeignWrites(event: H3Event, { settings }: Pick<Context, 'settings'>): void {
  if (event.method === 'GET' || event.method === 'HEAD') return
  const site = getHeader(event, 'sec-fetch-site')
  const origin = getHeader(event, 'origin')
  const own = site === undefined
    ? origin === undefined || isOwnOrigin(origin, [new URL(settings.baseUrl).host, getHeader(event, 'host')])
    : site === 'same-origin' || site === 'none'
  if (!own) throw problem('notAllowed', 'foreignPage', {})
}

function isOwnOrigin(origin: string, hosts: (string | undefined)[]): boolean {
  return URL.canParse(origin) && hosts.includes(new URL(origin).host)
}
