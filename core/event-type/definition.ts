import { z } from 'zod'
import { chairPolicies, eventTypeStates, settingsSchema } from './settings'

/** All that is decided about an event type, as it is edited, published, kept as a version and brought back. */

export const slugSchema = z.string().trim()
  .regex(/^[a-z0-9]+(-[a-z0-9]+)*$/, 'Small letters, figures and single hyphens, such as first-talk')
  .max(60, 'At most 60 characters')

export const chairSchema = z.strictObject({
  id: z.uuid(),
  name: z.string().trim().min(1, 'Name the chair').max(80, 'At most 80 characters'),
  policy: z.enum(chairPolicies),
  hosts: z.array(z.strictObject({
    id: z.uuid(),
    name: z.string(),
    weight: z.number('From 0.1 to 100').min(0.1, 'From 0.1 to 100').max(100, 'From 0.1 to 100'),
  })).min(1, 'Somebody must sit here').max(200, 'At most 200 hosts')
    .refine(hosts => new Set(hosts.map(host => host.id)).size === hosts.length, 'A host stands here twice'),
})

export const definitionSchema = z.strictObject({
  slug: slugSchema,
  listed: z.boolean(),
  state: z.enum(eventTypeStates),
  settings: settingsSchema,
  chairs: z.array(chairSchema).min(1, 'Somebody must host it').max(6, 'At most 6 chairs')
    .refine(chairs => new Set(chairs.map(chair => chair.id)).size === chairs.length, 'A chair stands here twice'),
})
export type Definition = z.infer<typeof definitionSchema>

/** A short address made from a name, free of those that are taken. */
export function slugFrom(name: string, taken: ReadonlySet<string>): string {
  const plain = name.normalize('NFKD').replace(/[\u0300-\u036f]/g, '').toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-+|-+$/g, '')
  const base = plain.slice(0, 50).replace(/-+$/, '') || 'talk'
  for (let number = 1; ; number++) {
    const slug = number === 1 ? base : `${base}-${number}`
    if (!taken.has(slug)) return slug
  }
}
