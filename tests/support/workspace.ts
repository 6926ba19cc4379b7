import { randomBytes } from 'node:crypto'
import { and, eq, ne } from 'drizzle-orm'
import type { Settings } from '../../core/event-type/settings'
import { type StoredPlan, plainPlan } from '../../core/hours/plan'
import { parseHours } from '../../core/time/hours-text'
import type { MemberRole } from '../../core/views/desk'
import { until } from '../../scripts/run/processes'
import type { Context } from '../../server/context'
import type { Database } from '../../server/database/connection'
import { hosts, members, videoAccounts, workspaces } from '../../server/database/schema'
import { createEventType } from '../../server/event-types'
import { insertPlan } from '../../server/hosts-time'
import { createAccount, hashPassword } from '../../server/people'
import type { ConsentConnection, VideoService } from '../../server/ports/video'
import { returnPath, saveAccount } from '../../server/rooms'
import { sampleSettings } from './samples'

/** A small workspace of a test's own. */

export interface TestWorkspace {
  id: string
  slug: string
  hosts: { id: string, email: string }[]
  owner: { email: string, password: string }
}

export const ALWAYS = 'Mo-Su 00:00-24:00'

export function plan(hours: string, timeZone: string): StoredPlan {
  return plainPlan(timeZone, parseHours(hours))
}

export function settings(change: Partial<Settings> = {}): Settings {
  return sampleSettings({
    description: 'A talk.',
    bufferAfterMinutes: 10,
    leadTimeMinutes: 0,
    horizon: { kind: 'open' },
    calendarTitle: '{{ client.name }}: {{ eventType.name }}',
    ...change,
  })
}

export interface RequestedEventType {
  slug: string
  settings?: Partial<Settings>
  /** Which of the workspace's hosts, by their place; all where it is left out. */
  hosts?: number[]
}

/** A workspace whose hosts share one chair of each event type; with `video`, their accounts are connected. */
export async function makeWorkspace(
  context: Context, wanted: { hosts: number, zone?: string, hours?: string, video?: boolean, eventTypes: RequestedEventType[] },
): Promise<TestWorkspace> {
  const slug = `test-${randomBytes(5).toString('hex')}`
  const zone = wanted.zone ?? 'Europe/Lisbon'
  const owner = { email: `owner@${slug}.example`, password: 'a long enough password' }
  const made = await context.db.transaction(async (tx) => {
    const [workspace] = await tx
      .insert(workspaces)
      .values({ slug, name: `Workspace ${slug}`, timeZone: zone, looks: { colour: '#54305C' }, confirmedAt: new Date() })
      .returning()
    if (!workspace) throw new Error('No workspace')
    await insertMember(tx, workspace.id, { ...owner, name: 'Test Owner', role: 'owner', timeZone: zone })
    const found = []
    for (let index = 0; index < wanted.hosts; index++) {
      const email = `host${index}@${slug}.example`
      const [host] = await tx.insert(hosts).values({ workspaceId: workspace.id, name: `Host ${index}`, email, timeZone: zone }).returning()
      if (!host) throw new Error('No host')
      await insertPlan(
        tx, { workspaceId: workspace.id, hostId: host.id, name: 'Hours', plan: plan(wanted.hours ?? ALWAYS, zone) }, true,
      )
      found.push({ id: host.id, email })
    }
    for (const eventType of wanted.eventTypes) {
      await createEventType(
        tx,
        workspace.id,
        {
          slug: eventType.slug,
          state: 'open',
          listed: true,
          settings: settings(eventType.settings),
          chairs: [
            {
              name: 'Host',
              policy: 'fairShare',
              hosts: found.filter((_, index) => eventType.hosts?.includes(index) ?? true).map(host => ({ id: host.id, weight: 1 })),
            },
          ],
        },
        'Test Owner',
        new Date(),
      )
    }
    return { id: workspace.id, slug, hosts: found, owner }
  })
  if (wanted.video) for (const [index, host] of made.hosts.entries()) await connectLantern(context, made.id, host.id, index)
  return made
}

/** One more member who signs in, and hosts nothing but as the host that is given. */
export async function addMember(
  context: Context,
  workspace: TestWorkspace,
  role: 'coordinator' | 'host',
  hostId?: string,
): Promise<{ email: string, password: string }> {
  const place = workspace.hosts.findIndex(host => host.id === hostId)
  const member = { email: `${role}${place < 0 ? '' : `-${place}`}@${workspace.slug}.example`, password: 'a long enough password' }
  const id = await insertMember(context.db, workspace.id, { ...member, name: `Test ${role}`, role, timeZone: 'Europe/Lisbon' })
  if (hostId) await context.db.update(hosts).set({ memberId: id }).where(eq(hosts.id, hostId))
  return member
}

async function insertMember(
  db: Database,
  workspaceId: string,
  { email, password, ...member }: { email: string, password: string, name: string, role: MemberRole, timeZone: string },
): Promise<string | undefined> {
  const account = await createAccount(db, { email, passwordHash: await hashPassword(password), confirmedAt: new Date() })
  const [made] = await db.insert(members).values({ workspaceId, accountId: account.id, email, clock: '24', ...member }).returning({ id: members.id })
  return made?.id
}

/** Gives a host the consent of an account of Lantern Rooms, over its own page: of the first one, or of another by its place. */
export async function connectLantern(context: Context, workspaceId: string, hostId: string, index = 0): Promise<void> {
  const connection = consentOf(lanternOf(context))
  const redirectUri = context.settings.baseUrl + returnPath('lantern')
  const page = await fetch(connection.consentUrl(redirectUri, 'x'))
  const accounts = [...(await page.text()).matchAll(/<option value="([^"]+)"/g)].map(match => match[1]?.replaceAll('&#64;', '@') ?? '')
  const account = accounts[index % accounts.length] ?? ''
  const consent = await fetch(new URL('/consent', page.url), {
    method: 'POST', redirect: 'manual', body: new URLSearchParams({ redirect_uri: redirectUri, state: 'x', account, answer: 'allow' }),
  })
  const code = new URL(consent.headers.get('location') ?? '').searchParams.get('code') ?? ''
  await saveAccount(context, workspaceId, hostId, 'lantern', await connection.exchangeCode(code, redirectUri))
  // Its first look is over, so that what is asked from now on is asked for a test.
  const ofHost = and(eq(videoAccounts.workspaceId, workspaceId), eq(videoAccounts.hostId, hostId), ne(videoAccounts.state, 'disconnected'))
  await until(async () => {
    const [found] = await context.db.select().from(videoAccounts).where(ofHost)
    return Boolean(found?.lookedAt && found.lookedAt >= found.connectedAt)
  }, 10, 'The account is not looked at')
}

export function consentOf({ connection }: VideoService): ConsentConnection {
  if (connection.way !== 'consent') throw new Error('It is connected by credentials')
  return connection
}

export function lanternOf(context: Context): VideoService {
  const lantern = context.video.get('lantern')
  if (!lantern) throw new Error('No video service')
  return lantern
}
