import type { AnswerText } from '../intake'
import { formatDay, formatList, formatTime, formatZone, plural } from '../time/format'
import { BLOCKS } from './marked-text'
import { type Audience, type Occasion, occasionTable } from './occasions'
import { formatMoney, type Money } from '../payment/money'
import { type PaymentStanding, standingWords } from '../payment/payment'
import { type Fields, fieldNames } from './template-faults'
import { withHosts } from './with-hosts'

/** What messages can speak of, and by which names a template does so. */

/** What a message can speak of. All of it is plain text from people or from settings; links are absolute. */
export interface MessageFields {
  /** `colour`: `#RRGGBB`, in which the mail is set. */
  workspace: { name: string, colour: string }
  eventType: { name: string, page: string }
  client: { name: string, email: string, phone: string }
  /** `client`: who has booked, whoever reads it. */
  booking: {
    client: string
    people: number
    page: string
    canMove: boolean
    canCancel: boolean
    isRequest: boolean
    heldUntil: number | null
  }
  /** Who made the change that the message is about. */
  actor: string
  /** Whether a member booked it for the client. */
  byTeam: boolean
  session: { page: string }
  hostNames: readonly string[]
  /** Whether other people host it than before a move. */
  hasOtherHosts: boolean
  /** Where the reader of a reminder ends reminders. */
  remindersPage: string
  /** Where a client finds all their bookings, in the mail that gives the link. */
  listPage: string
  /** Who comes along with the client, and who does so or no longer does since the change. */
  guests: { all: readonly string[], added: readonly string[], removed: readonly string[] }
  /** Null where nothing is paid. `until`: until when the time is held for it, in seconds. */
  payment: { amount: Money, standing: PaymentStanding, refunded: Money, isLate: boolean, until: number | null } | null
  reason: string
  place: string
  /** What whoever has booked should know about the place. */
  placeNote: string
  room: {
    expected: boolean
    link: string
    number: string
    passcode: string
    /** Whether it is under the main user of the workspace's account, not under its host. */
    underMainUser: boolean
  }
  /** By key of the question; those that were not asked or not answered are left out. */
  answers: (AnswerText & { key: string })[]
  when: {
    start: number
    end: number
    now: number
    readerZone: string
    otherZone: string
    locale: string
    /** Of a move: the time before it, or to which a client went. */
    other: { start: number, end: number } | null
  }
}

/** A field holds so much of an answer; the block of details has the whole of it. */
const ANSWER_CHARACTERS = 2000

/** The fields of a message by the names that a template uses. */
export function templateFields(fields: MessageFields): Fields {
  const { start, end, readerZone, locale, other } = fields.when
  const { room, guests, booking, client, answers } = fields
  const texts = answers.map(answer => ({ key: answer.key, label: answer.label, text: shorten(answer.text) }))
  return {
    workspace: { name: fields.workspace.name },
    eventType: fields.eventType,
    client: { ...client, firstName: firstName(client.name) },
    booking: { ...booking, people: plural(booking.people, 'person', 'people'), heldUntil: heldUntil(fields) },
    session: { ...fields.session, title: withHosts(fields.eventType.name, fields.hostNames) },
    hosts: formatList(fields.hostNames),
    hasOtherHosts: fields.hasOtherHosts,
    actor: fields.actor,
    byTeam: fields.byTeam,
    when: {
      date: formatDay(start, readerZone, locale),
      time: formatTime(start, readerZone, locale),
      end: formatTime(end, readerZone, locale),
      zone: formatZone(readerZone),
      short: `${formatDay(start, readerZone, locale)} ${formatTime(start, readerZone, locale)}`,
      other: other ? formatSessionTime(other.start, other.end, readerZone, locale) : '',
    },
    place: fields.place,
    placeNote: fields.placeNote,
    room: { link: room.link, number: room.number, passcode: room.passcode, follows: room.expected && room.link === '' },
    guests: { names: guests.all, added: formatList(guests.added), removed: formatList(guests.removed) },
    payment: paymentFields(fields),
    reason: fields.reason,
    answers: Object.fromEntries(texts.map(({ key, text }) => [key, text])),
    answerList: texts.map(({ label, text }) => ({ label, text })),
    remindersPage: fields.remindersPage,
    listPage: fields.listPage,
    ...BLOCKS,
  }
}

/** Fields that only some messages have. */
const only: [field: RegExp, has: (occasion: Occasion, audience: Audience) => boolean][] = [
  [/^session\.page$/, (_, audience) => audience === 'host'],
  [/^(booking\.(page|canMove|canCancel)|manage)$/, (occasion, audience) => audience === 'client' && !occasionTable[occasion].isGeneral],
  [/^(when\.other|hasOtherHosts)$/, occasion => occasion === 'moved' || occasion === 'movedAway' || occasion === 'left'],
  [/^booking\.heldUntil$/, occasion => occasion === 'awaitingApproval'],
  [/^byTeam$/, occasion => occasion === 'booked'],
  [/^guests\.(added|removed)$/, occasion => occasion === 'guestsChanged'],
  [/^remindersPage$/, occasion => occasion === 'before' || occasion === 'own'],
  [/^listPage$/, occasion => occasion === 'bookingsList'],
  [/^payment\.(until)$/, occasion => occasion === 'paymentWanted'],
  [/^payment\.isLate$/, occasion => occasion === 'refunded'],
  [/^reason$/, occasion => occasion === 'cancelled' || occasion === 'declined' || occasion === 'own'],
  [/^(?!client\.|workspace\.|listPage$)/, occasion => !occasionTable[occasion].isGeneral],
]

/** Whether a message has a field. */
export function hasField(occasion: Occasion, audience: Audience, name: string): boolean {
  return only.every(([field, has]) => !field.test(name) || has(occasion, audience))
}

/** The names of the fields of a message that print something, where the event type asks such questions. */
export function fieldsFor(occasion: Occasion, audience: Audience, questionKeys: readonly string[]): string[] {
  return fieldNames(largestFields(occasion, audience, questionKeys))
}

/** As much as the fields of a message can hold. */
export function largestFields(occasion: Occasion, audience: Audience, questionKeys: readonly string[]): Fields {
  const text = (characters: number) => 'W'.repeat(characters)
  const name = text(200)
  const keys = questionKeys.length > 0 ? questionKeys : ['']
  const all = templateFields({
    workspace: { name, colour: '' }, eventType: { name, page: text(300) }, client: { name, email: text(254), phone: text(40) },
    booking: { client: name, people: 1000, page: text(300), canMove: true, canCancel: true, isRequest: true, heldUntil: 1 },
    actor: name, byTeam: true, session: { page: text(300) }, hostNames: Array.from({ length: 20 }, () => name), hasOtherHosts: true,
    remindersPage: text(300), listPage: text(300),
    guests: { all: [name, name], added: Array.from({ length: 10 }, () => name), removed: Array.from({ length: 10 }, () => name) },
    payment: { amount: { amount: 100_000_000, currency: 'EUR' }, standing: 'partlyRefunded', refunded: { amount: 100_000_000, currency: 'EUR' }, isLate: true, until: 1 },
    reason: text(1000), place: text(800), placeNote: text(500),
    room: { expected: true, link: text(1000), number: text(100), passcode: text(100), underMainUser: true },
    answers: keys.map(key => ({ key, label: text(300), text: text(ANSWER_CHARACTERS), kind: 'paragraph' })),
    when: { start: 0, end: 0, now: 0, readerZone: 'UTC', otherZone: 'UTC', locale: 'en-GB', other: { start: 0, end: 0 } },
  })
  const kept = Object.fromEntries(Object.entries(all).flatMap(([group, value]): [string, unknown][] => {
    if (typeof value !== 'object' || value === null || Array.isArray(value)) return hasField(occasion, audience, group) ? [[group, value]] : []
    const inner = Object.entries(value).filter(([field]) => hasField(occasion, audience, `${group}.${field}`))
    return inner.length > 0 ? [[group, Object.fromEntries(inner)]] : []
  }))
  return questionKeys.length > 0 || !('answers' in kept) ? kept : { ...kept, answers: {} }
}

/** The moment in one zone: "Sunday 28 March 2027, 15:20 to 15:40 Kolkata time". */
export function formatSessionTime(start: number, end: number, zone: string, locale: string): string {
  return `${formatDay(start, zone, locale)}, ${formatTime(start, zone, locale)} to ${formatTime(end, zone, locale)} ${formatZone(zone)} time`
}

function paymentFields({ payment, when: { readerZone, locale } }: MessageFields) {
  if (!payment) return { amount: '', state: '', refunded: '', until: '', isLate: false }
  const { amount, standing, refunded, isLate, until } = payment
  return {
    amount: formatMoney(amount, locale), state: standingWords[standing], refunded: refunded.amount > 0 ? formatMoney(refunded, locale) : '', isLate,
    until: until === null ? '' : `${formatTime(until, readerZone, locale)} ${formatZone(readerZone)} time`,
  }
}

/** Until when a request waits, where that is before its start; empty otherwise. */
function heldUntil({ booking, when: { start, readerZone, locale } }: MessageFields): string {
  const until = booking.heldUntil
  if (until === null || until >= start) return ''
  return `${formatDay(until, readerZone, locale)}, ${formatTime(until, readerZone, locale)} ${formatZone(readerZone)} time`
}

const TITLES = /^(dr|prof|mr|mrs|ms|mx|sir|dame|rev|fr)\.?$/i

function firstName(name: string): string {
  const words = name.split(/\s+/).filter(Boolean)
  return words.find(word => !TITLES.test(word)) ?? name
}

function shorten(text: string): string {
  return text.length > ANSWER_CHARACTERS ? `${text.slice(0, ANSWER_CHARACTERS - 1)}…` : text
}
