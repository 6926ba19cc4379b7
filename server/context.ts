import type pg from 'pg'
import type { Database } from './database/connection'
import type { SessionChanges } from './database/session-changes'
import type { CalendarReader } from './ports/calendar-reader'
import type { CalendarPort } from './ports/calendar/services'
import type { MailPort } from './ports/mail'
import type { Outside } from './ports/outside'
import type { PaymentServices } from './ports/payment'
import type { PhoneTextPort } from './ports/phone-text'
import type { VideoServices } from './ports/video'
import type { ServerSettings } from './settings'

/** What every use case is given: the database, the ways out, the settings and the clock. */
export interface Context {
  db: Database
  pool: pg.Pool
  settings: ServerSettings
  sessionChanges: SessionChanges
  mail: MailPort
  payments: PaymentServices
  /** Null where the operator has set up no service for phone texts. */
  phoneTexts: PhoneTextPort | null
  video: VideoServices
  /** The way to addresses that people give. */
  outside: Outside
  calendars: CalendarPort
  calendarReader: CalendarReader
  /** Seconds since the epoch. */
  now: () => number
}

export function secondsOf(date: Date): number {
  return Math.floor(date.getTime() / 1000)
}

export function dateOf(seconds: number): Date {
  return new Date(seconds * 1000)
}
