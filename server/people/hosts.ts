import { plainPlan } from '../../core/hours/plan'
import { weekdays } from '../../core/time/civil'
import type { Database } from '../database/connection'
import { hosts, hoursPlans } from '../database/schema'

/** Creates a host with usual hours from Monday to Friday, who can be given a chair at once. */
export async function createHost(db: Database, values: typeof hosts.$inferInsert): Promise<string> {
  const { workspaceId, timeZone } = values
  const [host] = await db.insert(hosts).values(values).returning({ id: hosts.id })
  if (!host) throw new Error('The host was not saved')
  await db.insert(hoursPlans).values({
    workspaceId,
    hostId: host.id,
    name: 'Usual hours',
    isDefault: true,
    plan: plainPlan(timeZone, [{ days: weekdays.slice(0, 5), from: '09:00', to: '17:00' }]),
  })
  return host.id
}
