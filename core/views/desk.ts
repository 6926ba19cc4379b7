import type { BookingState, RoomState } from '../booking/states'
import type { TrailEntry } from '../booking/trail'
import type { CheckHost, Finding } from '../checks'
import type { Phrase } from '../event-type/sentence'
import type { BookedSession } from '../event-type/affected-sessions'
import type { Definition } from '../event-type/definition'
import type { HostTime } from '../event-type/host-time'
import type { EventTypeState } from '../event-type/settings'
import type { Fault, FaultBy } from '../faults'
import type { AnswerText } from '../intake'
import type { HolidayDates, StoredPlan } from '../hours/plan'
import type { Occasion } from '../messages/occasions'

/** What the desk's calls answer: shapes only, shared by the server that fills them and the screens that show them. */

export const memberRoles = ['owner', 'coordinator', 'host'] as const
export type MemberRole = (typeof memberRoles)[number]

export interface SignedIn {
  workspaceId: string
  memberId: string
  name: string
  email: string
  /** Whether the member has shown that the address is theirs. */
  confirmed: boolean
  role: MemberRole
  timeZone: string
  workspace: { slug: string, name: string }
}

export interface SessionCard {
  id: string
  eventType: string
  start: number
  end: number
  hosts: { id: string, name: string }[]
  placeKind: string
  room: { state: RoomState, fault: FaultBy | null, nextTryAt: number | null, hostUrl: string | null } | null
  bookings: { id: string, client: string, state: BookingState, createdAt: number, firstAnswers: string[] }[]
}

export interface TodayView {
  now: number
  hosts: { id: string, name: string, timeZone: string, own: boolean }[]
  today: SessionCard[]
  /** The sessions of the seven days after. */
  coming: SessionCard[]
  /** Everything ahead that waits for a person, by session. */
  waiting: SessionCard[]
  /** What went wrong behind the scenes and waits for a person. */
  attention: Attention[]
}

/** Something that did not work and that somebody must look at. Instants in seconds. */
export type Attention =
  | { kind: 'message', id: string, sessionId: string, eventType: string, client: string, start: number, occasion: Occasion, address: string, unknown: boolean, fault: Fault | null, nextTryAt: number | null }
  | { kind: 'room', sessionId: string, eventType: string, start: number, withdrawn: boolean, fault: FaultBy | null, nextTryAt: number | null }
  | { kind: 'title', eventTypeId: string, eventType: string, fault: string }
  | { kind: 'job', id: string, task: string, nextTryAt: number | null }

export interface SessionView {
  id: string
  eventType: { id: string, name: string }
  cancelled: boolean
  start: number
  end: number
  seats: number
  place: { kind: string, words: string }
  hosts: { id: string, name: string, timeZone: string, chair: string }[]
  room: null | {
    state: RoomState
    joinUrl: string | null
    hostUrl: string | null
    number: string | null
    passcode: string | null
    attempts: number
    fault: FaultBy | null
    nextTryAt: number | null
  }
  bookings: {
    id: string
    state: BookingState
    client: { name: string, email: string, phone: string | null, timeZone: string }
    source: string | null
    createdAt: number
    cancelReason: string | null
    answers: AnswerText[]
    page: string
    messages: { id: string, occasion: string, audience: string, address: string, state: string, sentAt: number | null, nextTryAt: number | null, withLink: boolean | null }[]
  }[]
  trail: DatedEntry[]
}

export interface DatedEntry {
  id: number
  at: number
  bookingId: string | null
  entry: TrailEntry
}

export interface EventTypeRow {
  id: string
  slug: string
  name: string
  state: EventTypeState
  listed: boolean
  archived: boolean
  colour: string
  tags: string[]
  sentence: Phrase[]
  /** The worst finding about it, if any. */
  worst: Finding | null
  page: string
  nextOpening: string | null
  /** Bookings on each of the last 30 days, oldest first. */
  bookingsPerDay: number[]
}

export type BenchHost = CheckHost

export interface BenchView {
  id: string
  version: number
  archived: boolean
  definition: Definition
  draft: { basedOn: number, definition: Definition, at: number } | null
  page: string
  /** All hosts of the workspace: any of them may be given a chair. */
  hosts: BenchHost[]
  /** What the worker computes with: hours and taken time of all hosts for the next weeks. */
  time: HostTime[]
  /** Sessions to come with their clients, for those who may publish. */
  booked: BookedSession[]
  holidays: HolidayDates
  /** Names of other event types whose texts lead to this one. */
  linkedFrom: string[]
  now: number
}

export interface HoursRow {
  id: string
  name: string
  plan: StoredPlan
  host: string
  own: boolean
}

export interface HoursView {
  id: string
  name: string
  version: number
  plan: StoredPlan
  host: { id: string, name: string, timeZone: string }
  mayChange: boolean
  /** Event types whose chairs the host sits in. */
  usedBy: { id: string, name: string, narrowed: boolean }[]
  holidays: HolidayDates
  now: number
}

export interface PublishedVersion {
  version: number
  definition: Definition
  by: string
  at: number
}

export interface Connections {
  /** The video services of the installation. */
  services: { key: string, name: string }[]
  hosts: HostConnection[]
}

export interface HostConnection {
  hostId: string
  name: string
  account: { id: string, label: string, state: 'connected' | 'lost', since: number } | null
}
