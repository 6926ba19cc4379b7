import { changeTable, type Recipient } from '../booking/change-table'
import type { Reminder } from '../event-type/reminders'
import { parseClock } from '../time/civil'
import type { Audience, Channel, Occasion } from './occasions'
import type { OwnMessage, OwnMoment, OwnReader } from './own'

/** Which messages go out when, in the order of a booking’s life. */

export type Reader = Recipient | OwnReader

type GroupKind = 'paying' | 'requested' | 'booked' | 'before' | 'changed' | 'link' | 'missed' | 'refunded' | 'asked'

export type Moment =
  { kind: GroupKind } | { kind: 'reminder', reminder: Reminder }
  | { kind: 'own', moment: Exclude<OwnMoment, { kind: 'on' }> }

export interface TimelineRow {
  occasion: Occasion
  /** Who gets it, by whose words. */
  readers: Record<Audience, Reader[]>
  /** Of one that was added: which. */
  own: { id: string, name: string, by: Channel } | null
}

export interface TimelineMoment {
  moment: Moment
  rows: TimelineRow[]
}

/** A message that was added, with its id. */
export type Added = OwnMessage & { id: string }

interface SentFor {
  isEventType: boolean
  reminders: readonly Reminder[]
  approval: boolean
  guests: boolean
  /** Whether it is paid before it is confirmed. */
  paid: boolean
  /** Whether a booking may be for several people. */
  people: boolean
  video: boolean
  observers: boolean
  own: readonly Added[]
}

const hostSide: readonly Reader[] = ['hosts', 'newHosts', 'formerHosts', 'observers', 'coordinators']

export function messageTimeline(sent: SentFor): TimelineMoment[] {
  const { isEventType, approval, guests, people, paid, video, own } = sent
  const moment = (kind: GroupKind, ...standard: Occasion[]): TimelineMoment => ({
    moment: { kind },
    rows: [
      ...standard.map(occasion => standardRow(occasion, sent)),
      ...own.filter(message => groupOf(message, approval) === kind).map(ownRow),
    ],
  })
  const timed = own.flatMap((message) => {
    const { moment: at } = message
    return at.kind === 'on' ? [] : [{ lead: leadOf(at), moment: { kind: 'own' as const, moment: at }, rows: [ownRow(message)] }]
  })
  const reminders = sent.reminders.map(reminder => ({ lead: leadOf(reminder), moment: { kind: 'reminder' as const, reminder }, rows: [standardRow('before', sent)] }))
  const ordered = [...reminders, ...timed].toSorted((a, b) => b.lead - a.lead)
  return [
    moment('paying', ...paid ? ['paymentWanted', 'unpaid'] as const : []),
    moment('requested', ...approval ? ['awaitingApproval', 'declined', 'expired'] as const : []),
    moment('booked', 'booked'),
    moment('link', ...video ? ['linkFollows', 'linkMissing', 'newLink', 'linkRemoved'] as const : []),
    moment('before', ...isEventType ? [] : ['before'] as const),
    ...ordered,
    moment('missed'),
    moment('changed', 'moved', 'movedAway', 'left', 'handedOver', 'handedAway', 'placeChanged', ...people ? ['peopleChanged'] as const : [],
      ...guests ? ['guestAdded', 'guestRemoved', 'guestsChanged'] as const : [], 'cancelled'),
    moment('refunded', ...paid ? ['refunded'] as const : []),
    moment('asked', ...isEventType ? [] : ['bookingsList'] as const),
  ].filter(({ rows }) => rows.length > 0)
}

/** Where one stands that was added to an occasion. */
function groupOf({ moment }: Added, approval: boolean): Moment['kind'] | null {
  if (moment.kind !== 'on') return null
  switch (moment.occasion) {
    case 'requested':
    case 'declined':
    case 'expired': return approval ? 'requested' : null
    case 'booked': return 'booked'
    case 'missed': return 'missed'
    default: return 'changed'
  }
}

/** Minutes before the start; negative after the end. */
function leadOf(moment: Reminder | Exclude<OwnMoment, { kind: 'on' }>): number {
  switch (moment.kind) {
    case 'before': return moment.minutes
    case 'after': return -moment.minutes - 1
    // As if sessions began at noon.
    case 'dayBefore': return 36 * 60 - (parseClock(moment.at) ?? 0)
  }
}

function ownRow({ id, name, by, to }: Added): TimelineRow {
  return {
    occasion: 'own', own: { id, name, by },
    readers: { client: to.filter(reader => !hostSide.includes(reader)), host: to.filter(reader => hostSide.includes(reader)) },
  }
}

function standardRow(occasion: Occasion, { guests, observers }: SentFor): TimelineRow {
  const all = readersOf(occasion)
  // A new host is one of the hosts.
  const readers = all.filter(reader => (guests || !/guests/i.test(reader)) && !(reader === 'newHosts' && all.includes('hosts')))
  const hosts = readers.filter(reader => hostSide.includes(reader))
  return {
    occasion, own: null,
    readers: {
      client: readers.filter(reader => !hostSide.includes(reader)),
      host: observers && hosts.includes('hosts') && occasion !== 'linkMissing' ? [...hosts, 'observers'] : hosts,
    },
  }
}

/** Whom an occasion’s message goes to, whichever change plans it. */
function readersOf(occasion: Occasion): Reader[] {
  if (occasion === 'before') return ['client', 'guests']
  if (occasion === 'bookingsList') return ['client']
  return [...new Set(Object.values(changeTable).flatMap(({ messages }) =>
    messages.filter(message => message.occasion === occasion).flatMap(message => message.to)))]
}
