import { and, eq, isNull, or, sql } from 'drizzle-orm'
import { z } from 'zod'
import type { SignedIn } from '../../core/views/desk'
import type { Context } from '../context'
import { hosts } from '../database/schema'
import { type ConnectedAccount, type CredentialsConnection, ServiceFault } from '../ports/video'
import { seal, unseal } from '../secrets'
import { saveAccount } from './accounts'

/** What a member takes along to a video service and back, sealed so that nobody can make one up. */

/** Where a service sends a member back to. */
export function returnPath(service: string): string {
  return `/api/desk/video-services/${service}/return`
}

const consentSchema = z.object({
  workspaceId: z.string(),
  memberId: z.string(),
  hostId: z.string(),
  service: z.string(),
  until: z.number(),
})
export type Consent = z.infer<typeof consentSchema>

export function sealConsent(secret: string, consent: Consent): string {
  return seal(secret, JSON.stringify(consent))
}

export function openConsent(secret: string, state: string): Consent | null {
  return openSealed(consentSchema, secret, state)
}

function openSealed<Schema extends z.ZodType>(schema: Schema, secret: string, sealed: string): z.output<Schema> | null {
  try {
    return schema.parse(JSON.parse(unseal(secret, sealed)))
  } catch {
    return null
  }
}

/** How long a member has to say whether an account is the host's. Seconds. */
const ASKED_SECONDS = 900

/** An account whose address is not the host's, until the member says that it is meant. */
const foreignAccountSchema = consentSchema.extend({
  connected: z.object({ credentials: z.string(), label: z.string(), email: z.string().nullable() }),
})
type ForeignAccount = z.infer<typeof foreignAccountSchema>

export type ConsentOutcome = { kind: 'unknown' } | { kind: 'refused' | 'failed' | 'connected', hostId: string }
  | { kind: 'foreign', hostId: string, sealed: string, label: string, owner: string | null }

/** Connects the account that consent was given for, unless it is not the host's: then the member is asked first. */
export async function connectByConsent(
  context: Context, member: SignedIn, key: string, state: string, code: string | null,
): Promise<ConsentOutcome> {
  const { settings, video, now } = context
  const consent = openConsent(settings.secret, state)
  const connection = video.get(key)?.connection
  if (!consent || connection?.way !== 'consent' || !isFor(consent, member, key) || consent.until < now()) return { kind: 'unknown' }
  const { hostId } = consent
  if (code === null) return { kind: 'refused', hostId }
  let connected: ConnectedAccount
  try {
    connected = await connection.exchangeCode(code, settings.baseUrl + returnPath(key))
  } catch (error) {
    if (error instanceof ServiceFault) return { kind: 'failed', hostId }
    throw error
  }
  const owner = connected.email === null ? 'own' : await ownerOfAddress(context, member.workspaceId, hostId, connected.email)
  if (owner !== 'own') {
    const sealed = seal(settings.secret, JSON.stringify({ ...consent, until: now() + ASKED_SECONDS, connected } satisfies ForeignAccount))
    return { kind: 'foreign', hostId, sealed, label: connected.label, owner: owner?.name ?? null }
  }
  await saveAccount(context, member.workspaceId, hostId, key, connected)
  return { kind: 'connected', hostId }
}

/** Saves an account that was asked about, and its address as the host's at video services. */
export async function acceptForeignAccount(context: Context, member: SignedIn, key: string, sealed: string): Promise<boolean> {
  const asked = openSealed(foreignAccountSchema, context.settings.secret, sealed)
  if (!asked || !isFor(asked, member, key) || asked.until < context.now()) return false
  await context.db.update(hosts).set({ videoEmail: asked.connected.email ?? '' })
    .where(and(eq(hosts.workspaceId, member.workspaceId), eq(hosts.id, asked.hostId)))
  await saveAccount(context, member.workspaceId, asked.hostId, key, asked.connected)
  return true
}

const isFor = (consent: Consent, { workspaceId, memberId }: SignedIn, key: string) =>
  consent.workspaceId === workspaceId && consent.memberId === memberId && consent.service === key

/**
 * Whose address an account has: the host's own, so that it can be saved, or another host's by name; null where it is
 * nobody's whom the workspace knows.
 */
async function ownerOfAddress({ db }: Context, workspaceId: string, hostId: string, email: string): Promise<'own' | { name: string } | null> {
  const address = email.toLowerCase()
  const found = await db.select({ id: hosts.id, name: hosts.name }).from(hosts).where(and(
    eq(hosts.workspaceId, workspaceId), isNull(hosts.leftAt),
    or(eq(sql`lower(${hosts.email})`, address), eq(sql`lower(${hosts.videoEmail})`, address)),
  ))
  if (found.some(({ id }) => id === hostId)) return 'own'
  return found[0] ? { name: found[0].name } : null
}

/** Connects the workspace's account where the service takes the credentials. Throws ServiceFault. */
export async function connectByCredentials(
  context: Context, workspaceId: string, key: string, { tryCredentials }: CredentialsConnection, fields: Readonly<Record<string, string>>,
): Promise<string> {
  const connected = await tryCredentials(fields)
  await saveAccount(context, workspaceId, null, key, connected)
  return connected.label
}
