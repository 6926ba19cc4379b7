import { z } from 'zod'
import { describeFault, faultSchema } from '../faults'
import { occasionName } from '../messages/occasions'
import { formatDay, formatList, formatTime, formatZone } from '../time/format'

/**
 * The trail: the dated record of all that happened to a booking and its session. Entries are kept as a code with
 * values and become sentences only when they are read, in the reader's zone.
 */

const text = z.string()
const entrySchemas = {
  booked: z.object({ client: text, eventType: text, start: z.number() }),
  requested: z.object({ client: text, eventType: text, start: z.number() }),
  assigned: z.object({ host: text, chair: text, code: z.enum(['onlyOne', 'soonest', 'mostOwed', 'first', 'chosen']), able: z.array(text) }),
  approved: z.object({ member: text }),
  declined: z.object({ member: text }),
  cancelled: z.object({ by: z.enum(['client', 'member']), name: text, reason: text.nullable() }),
  roomAsked: z.object({ service: text, account: text, attempt: z.number() }),
  roomReady: z.object({ service: text, number: text.nullable(), attempt: z.number() }),
  roomFailed: z.object({ service: text, attempt: z.number(), fault: faultSchema, nextAt: z.number().nullable() }),
  roomUnowned: z.object({ hosts: z.array(text) }),
  roomWithdrawn: z.object({ service: text }),
  roomNotWithdrawn: z.object({ service: text, fault: faultSchema, nextAt: z.number().nullable() }),
  messageSent: z.object({ occasion: text, address: text, link: z.boolean().nullable() }),
  messageFailed: z.object({ occasion: text, address: text, fault: faultSchema, nextAt: z.number().nullable() }),
  messageUnknown: z.object({ occasion: text, address: text, fault: faultSchema, again: z.boolean().default(false) }),
  messageOvertaken: z.object({ occasion: text, address: text }),
  messageHeld: z.object({ occasion: text, address: text, until: z.number() }),
  titleFailed: z.object({ fault: text }),
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
  member('roomAsked'), member('roomReady'), member('roomFailed'), member('roomUnowned'), member('roomWithdrawn'),
  member('roomNotWithdrawn'), member('messageSent'), member('messageFailed'), member('messageUnknown'), member('messageOvertaken'),
  member('messageHeld'), member('titleFailed'),
] as const

function member<Code extends TrailCode>(code: Code) {
  return z.object({ code: z.literal(code), values: entrySchemas[code] })
}

export const trailEntrySchema = z.union(unionMembers)

const assignedBecause = {
  onlyOne: 'nobody else was free',
  soonest: 'next in turn by fair share',
  mostOwed: 'most owed by fair share',
  first: 'first of the list who was free',
  chosen: 'chosen by the client',
}

/** Lines about the session as a whole; all others belong to a booking. */
const sessionCodes: ReadonlySet<TrailCode> = new Set([
  'assigned',
  'roomAsked',
  'roomReady',
  'roomFailed',
  'roomUnowned',
  'roomWithdrawn',
  'roomNotWithdrawn',
  'titleFailed',
])

export function isAboutSession(code: TrailCode): boolean {
  return sessionCodes.has(code)
}

/** A plain sentence for one entry, with times in the given zone and locale. */
export function formatTrailEntry(entry: TrailEntry, zone: string, locale: string): string {
  const time = (instant: number) => formatTime(instant, zone, locale)
  const again = (instant: number | null) => (instant === null ? 'no further try is planned' : `trying again at ${time(instant)}`)
  switch (entry.code) {
    case 'booked':
      return `${entry.values.client} booked ${entry.values.eventType} for ${formatDay(entry.values.start, zone, locale)}, ${time(entry.values.start)} ${formatZone(zone)} time.`
    case 'requested':
      return `${entry.values.client} asked for ${entry.values.eventType} on ${formatDay(entry.values.start, zone, locale)}, ${time(entry.values.start)} ${formatZone(zone)} time.`
    case 'assigned':
      return `${entry.values.host} hosts it: ${assignedBecause[entry.values.code]}${entry.values.able.length > 1 ? ` (${formatList(entry.values.able)} were free)` : ''}.`
    case 'approved':
      return `${entry.values.member} approved it.`
    case 'declined':
      return `${entry.values.member} declined it.`
    case 'cancelled':
      return `${entry.values.name} cancelled${entry.values.reason ? `: “${entry.values.reason}”` : '.'}`
    case 'roomAsked':
      return `Asked ${entry.values.service} for a room under ${entry.values.account}${entry.values.attempt > 1 ? `, try ${entry.values.attempt}` : ''}.`
    case 'roomReady':
      return `${entry.values.service} made ${entry.values.number === null ? 'the room' : `room ${entry.values.number}`}${entry.values.attempt > 1 ? `, at try ${entry.values.attempt}` : ''}.`
    case 'roomFailed':
      return `${entry.values.service} ${describeFault(entry.values.fault)}; ${again(entry.values.nextAt)}.`
    case 'roomUnowned':
      return `No video account is connected for ${formatList(entry.values.hosts)}, so no room can be made.`
    case 'roomWithdrawn':
      return `${entry.values.service} withdrew the room.`
    case 'roomNotWithdrawn':
      return `The room could not be withdrawn: ${entry.values.service} ${describeFault(entry.values.fault)}; ${again(entry.values.nextAt)}.`
    case 'messageSent':
      return `Mailed ${occasionName(entry.values.occasion)} to ${entry.values.address}${entry.values.link === false ? ', saying that the video link follows' : ''}.`
    case 'messageFailed':
      return `Could not mail ${occasionName(entry.values.occasion)} to ${entry.values.address}: ${describeFault(entry.values.fault)}; ${again(entry.values.nextAt)}.`
    case 'messageUnknown':
      return `Sending ${occasionName(entry.values.occasion)} to ${entry.values.address} broke off (${describeFault(entry.values.fault)}). It may or may not have arrived, and ${entry.values.again ? 'is sent once more as the same mail' : 'is not sent again by itself'}.`
    case 'messageOvertaken':
      return `Did not mail ${occasionName(entry.values.occasion)} to ${entry.values.address}: the booking has changed since.`
    case 'messageHeld':
      return `Holding ${occasionName(entry.values.occasion)} to ${entry.values.address} until ${time(entry.values.until)}: the address got several mails within the hour and has opened none.`
    case 'titleFailed':
      return `The calendar title could not be made: ${entry.values.fault}. The standard title is used.`
  }
}
