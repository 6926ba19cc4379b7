import { eq, like } from 'drizzle-orm'
import { slugFrom } from '../../core/event-type/definition'
import { plainPlan } from '../../core/hours/plan'
import type { FieldError } from '../../core/intake'
import { weekdays } from '../../core/time/civil'
import type { SignedIn } from '../../core/views/desk'
import { type Database, databaseFault } from '../database/connection'
import { hosts, hoursPlans, members, workspaces } from '../database/schema'
import { hashPassword, loadMember } from './members'

/** A new workspace with its owner, who hosts in it. */

export interface SignUp {
  workspace: string
  name: string
  email: string
  password: string
  timeZone: string
}

/** Addresses that the application itself uses. */
const ownPaths = ['desk', 'api', 'bookings', 'health', 'feeds', 'freebusy', 'embed', 'assets', 'workspace']
const UNIQUE_VIOLATION = '23505'

export async function signUp(db: Database, wanted: SignUp): Promise<{ member: SignedIn } | { errors: FieldError[] }> {
  const email = wanted.email.toLowerCase()
  const taken: { errors: FieldError[] } = { errors: [{ path: 'email', message: 'Somebody has signed up with this address already; sign in instead' }] }
  const [known] = await db.select({ id: members.id }).from(members).where(eq(members.email, email))
  if (known) return taken
  const passwordHash = await hashPassword(wanted.password)
  try {
    const made = await db.transaction(async (tx) => {
      const [workspace] = await tx.insert(workspaces).values({
        slug: await freeWorkspaceSlug(tx, wanted.workspace), name: wanted.workspace, timeZone: wanted.timeZone, looks: { colour: '#54305C' },
      }).returning({ id: workspaces.id })
      if (!workspace) throw new Error('The workspace was not kept')
      const workspaceId = workspace.id
      const [member] = await tx.insert(members).values({ workspaceId, name: wanted.name, email, role: 'owner', timeZone: wanted.timeZone, passwordHash }).returning({ id: members.id })
      if (!member) throw new Error('The member was not kept')
      const [host] = await tx.insert(hosts).values({ workspaceId, memberId: member.id, name: wanted.name, email, timeZone: wanted.timeZone }).returning({ id: hosts.id })
      if (!host) throw new Error('The host was not kept')
      await tx.insert(hoursPlans).values({
        workspaceId, hostId: host.id, name: 'Usual hours', plan: plainPlan(wanted.timeZone, [{ days: weekdays.slice(0, 5), from: '09:00', to: '17:00' }]),
      })
      return { workspaceId, memberId: member.id }
    })
    const member = await loadMember(db, made.workspaceId, made.memberId)
    if (!member) throw new Error('The member was not kept')
    return { member }
  } catch (error) {
    // Two at once with one address: the second is told as if it had come later.
    const fault = databaseFault(error)
    if (fault?.code === UNIQUE_VIOLATION && fault.constraint === 'members_email_unique') return taken
    // Two workspaces of one name at once: the second takes the next address, or hears that its owner is known by now.
    if (fault?.code === UNIQUE_VIOLATION && fault.constraint === 'workspaces_slug_unique') return signUp(db, wanted)
    throw error
  }
}

async function freeWorkspaceSlug(db: Database, name: string): Promise<string> {
  const base = slugFrom(name, new Set(ownPaths))
  const alike = await db.select({ slug: workspaces.slug }).from(workspaces).where(like(workspaces.slug, `${base}%`))
  return slugFrom(base, new Set([...ownPaths, ...alike.map(one => one.slug)]))
}
