import { z } from 'zod'
import { placeKinds } from '../event-type/place-kinds'
import { questionSchema } from '../intake'
import { priceSchema } from '../payment/price'

/** What a member sees who books a client in. */

const text = z.string()
const hostsSchema = z.array(z.strictObject({ id: text, name: text }))

export const bookableViewSchema = z.strictObject({
  /** The member's own host; null where they host nothing. */
  ownHostId: text.nullable(),
  /** Whether they book sessions of their own only. */
  onlyOwn: z.boolean(),
  /** The workspace's. */
  timeZone: text,
  hosts: hostsSchema,
  eventTypes: z.array(z.strictObject({
    id: text,
    name: text,
    /** Whether clients can book it by themselves. */
    isOpen: z.boolean(),
    durations: z.array(z.int()),
    mostPeople: z.int(),
    price: priceSchema.nullable(),
    questions: z.array(questionSchema),
    places: z.array(z.strictObject({ key: text, kind: z.enum(placeKinds), label: text })),
    hosts: hostsSchema,
  })),
})
export type BookableView = z.infer<typeof bookableViewSchema>

/** Somebody who has booked before, as they gave their name and number the last time. */
export const knownClientSchema = z.strictObject({ name: text, email: text, phone: text.nullable(), timeZone: text })
export type KnownClient = z.infer<typeof knownClientSchema>
