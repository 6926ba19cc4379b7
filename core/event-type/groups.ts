import { z } from 'zod'
import { noRepeats } from '../validation'
import type { Chair } from './settings'

/**
 * Groups of hosts that several chairs draw on. A chair names its groups and carries their hosts with it: whoever loads or
 * publishes it brings them up to date (`withCurrentGroups`).
 */

const weightSchema = z.number().min(0.1).max(100)

export const seatedHostSchema = z.strictObject({
  id: z.uuid(),
  name: z.string(),
  weight: weightSchema,
  /** The group through which the host sits in the chair; none for the chair's own. */
  group: z.uuid().optional(),
})

export const MOST_HOSTS = 200

export const groupSchema = z.strictObject({
  id: z.uuid(),
  name: z.string().trim().min(1).max(80),
  hosts: z.array(z.strictObject({ id: z.uuid(), name: z.string(), weight: weightSchema })),
})
export type HostGroup = z.infer<typeof groupSchema>

/** A group as it is edited. */
export const editedGroupSchema = z.strictObject({
  name: groupSchema.shape.name,
  hosts: z.array(z.strictObject({ id: z.uuid(), weight: weightSchema })).min(1).max(MOST_HOSTS).superRefine(noRepeats('id')),
})
export type EditedGroup = z.infer<typeof editedGroupSchema>

type Seating = Pick<Chair, 'hosts' | 'groups'>

/** The same chair with its groups as they are now: its own hosts first, then those of each group who do not sit in it already. */
export function withCurrentGroups<Seats extends Seating>(chair: Seats, groups: ReadonlyMap<string, HostGroup>): Seats {
  if (chair.groups.length === 0) return chair
  const hosts = ownHosts(chair)
  const seated = new Set(hosts.map(host => host.id))
  const known = chair.groups.flatMap(({ id }) => groups.get(id) ?? [])
  for (const group of known) {
    for (const host of group.hosts) {
      if (seated.has(host.id)) continue
      seated.add(host.id)
      hosts.push({ ...host, group: group.id })
    }
  }
  return { ...chair, groups: known.map(({ id, name }) => ({ id, name })), hosts }
}

/** The hosts whom the chair names itself. */
export function ownHosts({ hosts }: Pick<Chair, 'hosts'>): Chair['hosts'] {
  return hosts.filter(host => host.group === undefined)
}

/** What the chair's rotation is remembered under: the group's where it draws on exactly one, else its own. */
export function poolIdOf({ id, hosts, groups }: Seating & { id: string }): string {
  const [only] = groups
  return only && groups.length === 1 && ownHosts({ hosts }).length === 0 ? only.id : id
}
