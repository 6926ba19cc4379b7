import type { AnswerText, Question } from '../intake'

/** What the clients' calls answer: never a host link, never a member's address. */

export interface Looks {
  colour: string
}

export interface WorkspacePage {
  workspace: { slug: string, name: string, about: string, looks: Looks }
  eventTypes: { slug: string, name: string, summary: string, durations: number[] }[]
}

export interface EventTypePage {
  eventType: {
    slug: string
    name: string
    /** Markdown as it was written, and as safe HTML. */
    description: string
    descriptionHtml: string
    colour: string
    guests: boolean
    durations: number[]
    timeZone: string
    seats: number
    approval: boolean
    leadTimeMinutes: number
    places: { key: string, kind: string, label: string }[]
    questions: Question[]
    hosts?: { id: string, name: string }[]
  }
  workspace: { slug: string, name: string, looks: Looks }
  /** Zones the hosts are in, most hosts first. */
  hostZones: string[]
  version: number
}

/** What the client's side of the HTTP interface says of a booking. */
export interface BookingView {
  id: string
  state: string
  start: string
  end: string
  timeZone: string
  place: { key: string, kind: string, label: string, detail?: string }
  hosts: string[]
  room: null | { state: string, joinUrl?: string, number?: string, passcode?: string }
}

/** What the client's own page shows, in one piece. */
export interface ClientPageView {
  booking: BookingView
  workspace: { slug: string, name: string, colour: string }
  eventType: { slug: string, name: string }
  client: { name: string, email: string }
  hostZone: string
  answers: AnswerText[]
  cancelReason: string | null
  /** What the event type says to those who have booked. */
  afterwards: { text: string, address: string }
  mayCancel: boolean
}
