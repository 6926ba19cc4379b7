import { z } from 'zod'
import { fault, faultIssue, noRepeats } from '../validation'
import { groupSchema, MOST_HOSTS, seatedHostSchema } from './groups'
import { costOf, MOST_COST } from '../payment/price'
import { chairPolicies, eventTypeStates, settingsSchema } from './settings'

/** All that is decided about an event type, as it is edited, published, saved as a version and brought back. */

export const slugSchema = z.string().trim()
  .regex(/^[a-z0-9]+(-[a-z0-9]+)*$/, fault('slug'))
  .max(60)

/** Last parts of a workspace's addresses that are no event type's: `with/` leads to a host. */
export const reservedSlugs: readonly string[] = ['with']

export const chairSchema = z.strictObject({
  id: z.uuid(),
  name: z.string().trim().min(1).max(80),
  policy: z.enum(chairPolicies),
  /** Its own hosts and those of its groups. */
  hosts: z.array(seatedHostSchema).min(1).max(MOST_HOSTS).superRefine(noRepeats('id')),
  groups: z.array(groupSchema.pick({ id: true, name: true })).max(10).superRefine(noRepeats('id')).default([]),
})

export const definitionSchema = z.strictObject({
  slug: slugSchema.refine(slug => !reservedSlugs.includes(slug), fault('reservedAddress')),
  listed: z.boolean(),
  state: z.enum(eventTypeStates),
  settings: settingsSchema.superRefine(({ mostPeople, seats, price }, context) => {
    if (price && costOf(price, mostPeople) > MOST_COST) context.addIssue(faultIssue(['price', 'amount'], 'costTooHigh', {}))
    if (seats >= 1 && mostPeople > seats) context.addIssue(faultIssue(['mostPeople'], 'morePeopleThanSeats', { seats }))
  }),
  chairs: z.array(chairSchema).min(1).max(6).superRefine(noRepeats('id')),
})
export type Definition = z.infer<typeof definitionSchema>

/** A short address made from a name, free of those that are taken. */
export function slugFrom(name: string, taken: ReadonlySet<string>): string {
  const plain = name.normalize('NFKD').replace(/[\u0300-\u036f]/g, '').toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-+|-+$/g, '')
  const base = plain.slice(0, 50).replace(/-+$/, '') || 'talk'
  for (let number = 1; ; number++) {
    const slug = number === 1 ? base : `${base}-${number}`
    if (!taken.has(slug) && !reservedSlugs.includes(slug)) return slug
  }
}
