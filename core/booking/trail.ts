import { z } from 'zod'
import { assignmentCodes } from '../rotation'
import { faultSchema } from '../faults'
import { placeKinds } from '../event-type/place-kinds'
import { roomWays } from '../rooms/ways'
import { storedFaultSchema } from '../validation'
import { accountFaultSchema } from '../views/calendar-account'
import { tellable } from './told'

/**
 * The trail: the dated record of all that happened to a booking and its session. Entries are stored as a code with
 * values and become sentences only when they are read, in the reader's zone.
 */

const text = z.string()
const roomWay = z.enum(roomWays)
/** What is wrong with a calendar title; a sentence where it was recorded before faults had codes. */
export const titleFaultSchema = z.union([text, storedFaultSchema])
export type TitleFault = z.infer<typeof titleFaultSchema>

/** Of a message: by phone where it was no mail, and what the team calls it where it is one of the workspace's own. */
const named = { channel: z.literal('phone').optional(), name: text.optional() }

/** In minor units. */
const money = { amount: z.number(), currency: text }

const entrySchemas = {
  /** `member`: who booked it for the client, and whom of those who are told of it as a rule they did not let be told. */
  booked: z.object({
    client: text, eventType: text, start: z.number(), member: text.optional(), untold: z.array(z.enum(tellable)).optional(),
  }),
  requested: z.object({ client: text, eventType: text, start: z.number() }),
  /** `byHand`: chosen by a member, not by the client. */
  assigned: z.object({ host: text, chair: text, code: z.enum(assignmentCodes), able: z.array(text), byHand: z.literal(true).optional() }),
  handedOver: z.object({ member: text, from: text, to: text, chair: text, code: z.enum(assignmentCodes), able: z.array(text) }),
  heldForPayment: z.object({ client: text, eventType: text, start: z.number(), until: z.number() }),
  paid: z.object({ ...money, service: text }),
  holdReleased: z.object({ client: text }),
  holdEnded: z.object({}),
  paidLate: z.object({ ...money, service: text }),
  refunded: z.object({ ...money, service: text }),
  refundFailed: z.object({ ...money, service: text, fault: faultSchema, nextAt: z.number().nullable() }),
  paymentMarked: z.object({ ...money, member: text, isPaid: z.boolean() }),
  approved: z.object({ member: text }),
  declined: z.object({ member: text }),
  expired: z.object({}),
  /** `from` and `to`: the starts; the hosts where they are others. */
  moved: z.object({
    by: z.enum(['client', 'member']), name: text, from: z.number(), to: z.number(),
    hosts: z.object({ from: z.array(text), to: z.array(text) }).optional(),
  }),
  /** A client went from this session to one at another time. */
  left: z.object({ client: text, to: z.number() }),
  guestsChanged: z.object({ by: z.enum(['client', 'member']), name: text, added: z.array(text), removed: z.array(text) }),
  peopleChanged: z.object({ by: z.enum(['client', 'member']), name: text, from: z.number(), to: z.number() }),
  attended: z.object({ member: text }),
  missed: z.object({ member: text }),
  cancelled: z.object({ by: z.enum(['client', 'member']), name: text, reason: text.nullable() }),
  roomAsked: z.object({ service: text, account: text, attempt: z.number() }),
  /** `service`: the service, or whose fixed room or link it is. */
  roomReady: z.object({ service: text, number: text.nullable(), attempt: z.number(), way: roomWay.optional() }),
  roomFailed: z.object({
    service: text, attempt: z.number(), fault: faultSchema, nextAt: z.number().nullable(),
    /** The way that is tried instead. */
    next: z.object({ way: roomWay, name: text }).optional(),
  }),
  roomRenewed: z.object({ member: text }),
  roomRemoved: z.object({ member: text }),
  placeChanged: z.object({ member: text, kind: z.enum(placeKinds), detail: text }),
  /** A person was told that the session starts within so many hours without a link. */
  linkMissing: z.object({ hours: z.number() }),
  /** Its service no longer has it. */
  roomLost: z.object({ service: text }),
  roomChanged: z.object({ service: text }),
  roomNotChanged: z.object({ service: text, fault: faultSchema, nextAt: z.number().nullable() }),
  /** The only account that could make it refuses, or waits for approval. */
  roomWaits: z.object({ service: text, account: text, fault: faultSchema }),
  roomUnowned: z.object({ hosts: z.array(text) }),
  roomWithdrawn: z.object({ service: text }),
  roomNotWithdrawn: z.object({ service: text, fault: faultSchema, nextAt: z.number().nullable() }),
  messageSent: z.object({ ...named, occasion: text, address: text, link: z.boolean().nullable() }),
  messageFailed: z.object({ ...named, occasion: text, address: text, fault: faultSchema, nextAt: z.number().nullable() }),
  messageUnknown: z.object({ ...named, occasion: text, address: text, fault: faultSchema, again: z.boolean().default(false) }),
  /** It was taken by a server, and came back later. */
  messageReturned: z.object({ ...named, occasion: text, address: text, fault: faultSchema }),
  messageOvertaken: z.object({ ...named, occasion: text, address: text }),
  messageHeld: z.object({ ...named, occasion: text, address: text, until: z.number() }),
  /** Held over quiet hours; `until` is null where it would come too late after them. */
  messageQuiet: z.object({ ...named, occasion: text, address: text, until: z.number().nullable() }),
  /** `title`: as the event type had it; missing in entries from before titles were kept. */
  titleFailed: z.object({ title: text.optional(), fault: titleFaultSchema }),
  wordingFailed: z.object({ occasion: text, part: z.enum(['subject', 'text']), line: z.number(), fault: storedFaultSchema }),
  entryWritten: z.object({ host: text, calendar: text, isNew: z.boolean() }),
  entryRemoved: z.object({ host: text, calendar: text }),
  entryFailed: z.object({ host: text, calendar: text, fault: accountFaultSchema, nextAt: z.number().nullable() }),
  entryNoticed: z.object({ host: text, what: z.enum(['moved', 'deleted']), start: z.number().nullable(), end: z.number().nullable() }),
} as const

export type TrailCode = keyof typeof entrySchemas
export type TrailValues<Code extends TrailCode> = z.infer<(typeof entrySchemas)[Code]>
export type TrailEntry = { [Code in TrailCode]: { code: Code, values: TrailValues<Code> } }[TrailCode]

/** Reads a stored entry. Throws ZodError for values that do not belong to the code. */
export function readTrailEntry(code: string, values: unknown): TrailEntry {
  // Faults were recorded as sentences before they had codes.
  const isOld =
    typeof values === 'object' && values !== null && 'fault' in values && typeof values.fault === 'string' && code !== 'titleFailed'
  return trailEntrySchema.parse({ code, values: isOld ? { ...values, fault: { code: 'sentence', text: values.fault } } : values })
}

const unionMembers = [
  member('booked'), member('requested'), member('assigned'), member('approved'), member('declined'), member('cancelled'),
  member('roomAsked'), member('roomReady'), member('roomFailed'), member('roomRenewed'), member('roomUnowned'), member('roomWithdrawn'),
  member('roomNotWithdrawn'), member('roomRemoved'), member('placeChanged'), member('linkMissing'), member('roomLost'), member('roomChanged'), member('roomNotChanged'), member('roomWaits'), member('messageSent'), member('messageFailed'), member('messageUnknown'), member('messageOvertaken'), member('messageReturned'),
  member('messageHeld'), member('messageQuiet'), member('titleFailed'), member('wordingFailed'), member('handedOver'), member('peopleChanged'),
  member('heldForPayment'), member('paid'), member('holdReleased'), member('holdEnded'), member('paidLate'), member('refunded'), member('refundFailed'),
  member('paymentMarked'),
  member('attended'), member('missed'), member('expired'), member('moved'), member('left'), member('guestsChanged'),
  member('entryWritten'), member('entryRemoved'), member('entryFailed'), member('entryNoticed'),
] as const

function member<Code extends TrailCode>(code: Code) {
  return z.object({ code: z.literal(code), values: entrySchemas[code] })
}

export const trailEntrySchema = z.union(unionMembers)

/** Lines about the session as a whole; all others belong to a booking. */
const sessionCodes: ReadonlySet<TrailCode> = new Set([
  'assigned',
  'handedOver',
  'left',
  'roomAsked',
  'roomReady',
  'roomFailed',
  'roomRenewed',
  'roomUnowned',
  'roomWithdrawn',
  'roomNotWithdrawn',
  'roomRemoved',
  'placeChanged',
  'linkMissing',
  'roomLost',
  'roomChanged',
  'roomNotChanged',
  'roomWaits',
  'titleFailed',
  'entryWritten',
  'entryRemoved',
  'entryFailed',
  'entryNoticed',
])

export function isAboutSession(code: TrailCode): boolean {
  return sessionCodes.has(code)
}
