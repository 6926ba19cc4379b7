import { z } from 'zod'
import { questionKinds } from '../intake/kinds'
import { bookingStates, roomStates } from '../booking/states'
import { placeKinds } from '../event-type/place-kinds'
import { paymentViewSchema } from '../payment/payment'
import { priceSchema } from '../payment/price'
import { questionSchema } from '../intake'

/** What the clients' calls answer: never a host link, never a member's address. */

const text = z.string()
/** RFC 3339, UTC. */
const instant = z.iso.datetime()

export const looksSchema = z.strictObject({ colour: text })
export type Looks = z.infer<typeof looksSchema>

export const answerTextSchema = z.strictObject({ label: text, text, kind: z.enum(questionKinds) })

export const workspacePageSchema = z.strictObject({
  workspace: z.strictObject({ slug: text, name: text, about: text, timeZone: text, looks: looksSchema }),
  eventTypes: z.array(z.strictObject({
    slug: text,
    name: text,
    summary: text,
    durations: z.array(z.int()),
    price: priceSchema.optional(),
    /** The next start that can be booked, if any in the next weeks. */
    nextOpening: instant.nullable(),
  })),
})
export type WorkspacePage = z.infer<typeof workspacePageSchema>

export const hostPageSchema = workspacePageSchema.extend({
  eventTypes: z.array(workspacePageSchema.shape.eventTypes.element.extend({
    /** Whether clients choose the host there; if not, the host is the only one. */
    isChoice: z.boolean(),
  })),
  host: z.strictObject({
    id: text,
    name: text,
    about: text,
    /** The hash of the picture. */
    picture: text.nullable(),
    timeZone: text,
  }),
})
/** What can be booked with one host. */
export type HostPage = z.infer<typeof hostPageSchema>

export const eventTypePageSchema = z.strictObject({
  eventType: z.strictObject({
    slug: text,
    name: text,
    /** Markdown as it was written, and as safe HTML. */
    description: text,
    descriptionHtml: text,
    colour: text,
    guests: z.boolean(),
    /** Whether clients who give a phone number get texts. */
    texts: z.boolean(),
    /** In minutes. */
    durations: z.array(z.int()),
    timeZone: text,
    seats: z.int(),
    price: priceSchema.optional(),
    /** How many people one booking may be for. */
    mostPeople: z.int(),
    approval: z.boolean(),
    leadTimeMinutes: z.int(),
    places: z.array(z.strictObject({ key: text, kind: z.enum(placeKinds), label: text })),
    questions: z.array(questionSchema),
    /** Where the client may choose, with what there is about each. */
    hosts: z.array(z.strictObject({
      id: text, name: text, timeZone: text.optional(), about: text.optional(),
      /** The hash of the picture, which stands at `/assets/pictures/{hash}-small.webp`, and `-large`. */
      picture: text.optional(),
    })).optional(),
  }),
  workspace: z.strictObject({ slug: text, name: text, looks: looksSchema }),
  /** Zones the hosts are in, most hosts first. */
  hostZones: z.array(text),
  version: z.int(),
})
export type EventTypePage = z.infer<typeof eventTypePageSchema>

export const openingSchema = z.strictObject({ start: instant, end: instant, seatsLeft: z.int() })
export type PublicOpening = z.infer<typeof openingSchema>
export const openingsSchema = z.strictObject({ openings: z.array(openingSchema) })
/** Times to move to; `sameHosts` where whoever hosts it now is free then. */
export const moveOpeningsSchema = z.strictObject({ openings: z.array(openingSchema.extend({ sameHosts: z.boolean() })) })
export type MoveOpenings = z.infer<typeof moveOpeningsSchema>

export const bookingViewSchema = z.strictObject({
  id: text,
  state: z.enum(bookingStates),
  start: instant,
  end: instant,
  timeZone: text,
  /** Where bookings may be for several people: how many this one is for. */
  people: z.int().optional(),
  place: z.strictObject({ key: text, kind: z.enum(placeKinds), label: text, detail: text.optional(), note: text.optional() }),
  hosts: z.array(text),
  payment: paymentViewSchema.optional(),
  room: z
    .strictObject({ state: z.enum(roomStates), joinUrl: text.optional(), number: text.optional(), passcode: text.optional() })
    .nullable(),
})
/** What the client's side of the HTTP interface says of a booking. */
export type BookingView = z.infer<typeof bookingViewSchema>

/** What a client gave with a booking, for another one: their answers by question. */
export const givenBeforeSchema = z.strictObject({
  client: z.strictObject({ name: text, email: text, phone: text.nullable() }),
  answers: z.record(text, z.union([text, z.number(), z.boolean(), z.array(text)])),
})
export type GivenBefore = z.infer<typeof givenBeforeSchema>

export const guestsViewSchema = z.array(z.strictObject({ name: text, email: text }))

export const clientPageViewSchema = z.strictObject({
  booking: bookingViewSchema,
  workspace: z.strictObject({ slug: text, name: text, colour: text }),
  eventType: z.strictObject({ slug: text, name: text }),
  client: z.strictObject({ name: text, email: text }),
  hostZone: text,
  answers: z.array(answerTextSchema),
  guests: guestsViewSchema,
  /** Whether the client may change the list, and invite further ones. */
  mayChangeGuests: z.boolean(),
  mayInvite: z.boolean(),
  cancelReason: text.nullable(),
  /** Where the client would like to meet, until the host has said where. */
  suggestion: text.nullable(),
  /** Calendars on the web that it can be put into. */
  calendarLinks: z.array(z.strictObject({ name: text, address: text })),
  /** What the event type says to those who have booked. */
  afterwards: z.strictObject({ text, address: text }),
  /** Where the same can be booked once more, with what the client gave filled in; null where it cannot. */
  bookAgain: text.nullable(),
  /** What of a payment is paid back, in words; null where nothing is paid before. */
  refundTerms: text.nullable(),
  /** For how many people the client may make it; null where they may not change it. */
  mostPeople: z.int().nullable(),
  mayMove: z.boolean(),
  mayCancel: z.boolean(),
  /** Until when a request waits for an answer. */
  heldUntil: instant.nullable(),
  /** Until when, where the event type has a deadline for it. */
  moveUntil: instant.nullable(),
  cancelUntil: instant.nullable(),
})
/** What the client's own page shows, in one piece. */
export type ClientPageView = z.infer<typeof clientPageViewSchema>

/** Whether an address is reminded of its bookings with a workspace. */
export const remindersViewSchema = z.strictObject({
  workspace: z.strictObject({ slug: text, name: text }), address: text, wanted: z.boolean(),
})
export type RemindersView = z.infer<typeof remindersViewSchema>

/** All bookings of an address with a workspace, the latest start first; `page` is the path of each one's own page. */
export const clientListViewSchema = z.strictObject({
  workspace: z.strictObject({ slug: text, name: text }), address: text,
  /** Whether the link is too old; then nothing is listed. */
  hasEnded: z.boolean(),
  bookings: z.array(z.strictObject({
    page: text, eventType: text, hosts: z.array(text), state: z.enum(bookingStates), timeZone: text, start: instant, end: instant,
    bookAgain: text.nullable(),
  })),
})
export type ClientListView = z.infer<typeof clientListViewSchema>
