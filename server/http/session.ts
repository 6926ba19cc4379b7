import { deleteCookie, getCookie, getHeader, type H3Event, setCookie } from 'h3'
import { z } from 'zod'
import type { SignedIn } from '../../core/views/desk'
import type { Context } from '../context'
import { endSession, markEntered, memberOfSession, SESSION_SECONDS, type SessionCookie, startSession } from '../people'
import { seal, unseal } from '../secrets'
import { deviceOf } from './device'

/** The sealed cookie of a signed-in member. It holds the id of a session; the session itself is a row that can be ended. */

const COOKIE = 'temporia'
const cookieSchema = z.object({ workspaceId: z.uuid(), id: z.string().min(40).max(50) })

/** Signs a member in, under a new session id; one that this browser had before ends. */
export async function signInHere(event: H3Event, context: Context, member: SignedIn): Promise<void> {
  await signOutHere(event, context)
  await markEntered(context.db, member)
  const session = await startSession(context, member, deviceOf(getHeader(event, 'user-agent')))
  setCookie(event, COOKIE, seal(context.settings.secret, JSON.stringify(session)), { ...attributes(context), maxAge: SESSION_SECONDS })
}

export async function signOutHere(event: H3Event, context: Context): Promise<void> {
  const session = readCookie(event, context)
  if (session) await endSession(context, session)
  deleteCookie(event, COOKIE, attributes(context))
}

/** The member who is signed in, or null. */
export async function signedInMember(event: H3Event, context: Context): Promise<SignedIn | null> {
  const session = readCookie(event, context)
  return session && memberOfSession(context, session)
}

/** The session that a request comes in. */
export const currentSession = readCookie

function readCookie(event: H3Event, { settings }: Context): SessionCookie | null {
  const sealed = getCookie(event, COOKIE)
  if (!sealed) return null
  try {
    return cookieSchema.parse(JSON.parse(unseal(settings.secret, sealed)))
  } catch {
    return null
  }
}

/** Decided when the application starts: `Secure` wherever people reach it over https. */
function attributes({ settings }: Context) {
  return { httpOnly: true, sameSite: 'lax' as const, path: '/', secure: settings.baseUrl.startsWith('https:') }
}
