import type { AccountFault, AccountFaultCode } from '../../../core/views/calendar-account'

/** The way out to calendars: what synchronization needs of any of them. */

/** A calendar as its server describes it. */
export interface FoundCalendar {
  /** Names it within its account. */
  href: string
  name: string
  writable: boolean
  /** A zone's name or a VTIMEZONE; null where the server says nothing. */
  timeZone: string | null
  /** Changes whenever anything in it does; null where the server has no such mark. */
  mark: string | null
}

export interface ListedObject {
  href: string
  etag: string
  /** Where the listing brings it along. */
  text: string | null
}

/** What has changed in a calendar since a state, or one part of that. */
export interface Listing {
  /** Everything that there is, so that whatever is not listed is gone. */
  isWhole: boolean
  objects: ListedObject[]
  removed: string[]
  /** What a later listing goes on from. */
  state: string
  hasMore: boolean
}

export interface CalendarObject {
  href: string
  etag: string
  text: string
}

export interface AccountDetails {
  /** The server and the user, or what else people call the account by. */
  label: string
  /** The host's own addresses, in small letters. */
  addresses: string[]
  calendars: FoundCalendar[]
}

/** An account that can be looked at. All of it throws CalendarFault. */
export interface CalendarAccess {
  describe: () => Promise<AccountDetails>
  /** Whether the description shows already that nothing has changed since a state. */
  isUnchanged: (calendar: FoundCalendar, state: string | null) => boolean
  /** Null where nothing has changed since the state. `plain`: a list of all that there is, whatever else the server offers. */
  changesSince: (calendar: FoundCalendar, state: string | null, plain?: boolean) => Promise<Listing | null>
  /** The objects that are still there. */
  load: (calendar: Pick<FoundCalendar, 'href'>, hrefs: readonly string[]) => Promise<CalendarObject[]>
  /** What a server knows of within a span, without its text; null for what has to be looked at as a whole. */
  listWithin: ((calendar: Pick<FoundCalendar, 'href'>, from: number, to: number) => Promise<ListedObject[]>) | null
  /** Null where nothing can be written. */
  writing: CalendarWriting | null
}

/** How objects are written, each only over the state that it was last known in. Throws CalendarFault. */
export interface CalendarWriting {
  /**
   * Over the version with an etag, or as a new one where that is null. `stale`: it is another one by now, or gone. `conflict`:
   * another object of the calendar has its UID.
   */
  put: (
    calendar: Pick<FoundCalendar, 'href'>, href: string, text: string, etag: string | null,
  ) => Promise<{ kind: 'written', etag: string | null } | { kind: 'stale' } | { kind: 'conflict', href: string }>
  remove: (calendar: Pick<FoundCalendar, 'href'>, href: string, etag: string | null) => Promise<'removed' | 'gone' | 'stale'>
}

/** Why an account cannot be looked at. */
export class CalendarFault extends Error {
  readonly fault: AccountFault
  constructor(code: AccountFaultCode, host: string, status: number | null = null) {
    super(`${code} ${host}${status === null ? '' : ` ${status}`}`)
    this.name = 'CalendarFault'
    this.fault = { code, host, status }
  }

  /** Nothing but a person can mend it. */
  get isLasting(): boolean {
    return lasting.has(this.fault.code)
  }
}

/** What only a person here can mend; a server that sends a page of its own today may be itself again in a minute. */
const lasting: ReadonlySet<AccountFaultCode> = new Set<AccountFaultCode>([
  'noAddress', 'notAllowed', 'wrongPassword', 'consentLost', 'insecureRedirect', 'unreadableAccess',
])
