import { eq, max } from 'drizzle-orm'
import type { ChairPolicy, Settings } from '../../core/event-type/settings'
import type { Database } from '../database/connection'
import { chairHosts, chairs, eventTypes } from '../database/schema'

export interface NewEventType {
  slug: string
  state: 'draft' | 'open' | 'closed'
  listed: boolean
  settings: Settings
  chairs: { name: string, policy: ChairPolicy, hosts: { id: string, weight: number }[] }[]
}

/** Adds an event type at the end of the workspace's list. Run it in a transaction. */
export async function createEventType(db: Database, workspaceId: string, wanted: NewEventType): Promise<string> {
  const [last] = await db.select({ position: max(eventTypes.position) }).from(eventTypes).where(eq(eventTypes.workspaceId, workspaceId))
  const [made] = await db.insert(eventTypes).values({
    workspaceId,
    slug: wanted.slug,
    state: wanted.state,
    listed: wanted.listed,
    settings: wanted.settings,
    position: (last?.position ?? -1) + 1,
  }).returning({ id: eventTypes.id })
  if (!made) throw new Error('The event type was not kept')
  for (const [position, chair] of wanted.chairs.entries()) {
    const [kept] = await db.insert(chairs)
      .values({ workspaceId, eventTypeId: made.id, position, name: chair.name, policy: chair.policy })
      .returning({ id: chairs.id })
    if (!kept) throw new Error('The chair was not kept')
    await db.insert(chairHosts).values(chair.hosts.map((host, index) => ({
      workspaceId, chairId: kept.id, hostId: host.id, position: index, weight: host.weight,
    })))
  }
  return made.id
}
