import type { Outside } from '../outside'
import type { AccountDetails, CalendarAccess } from '.'
import { type Authorize, calDavAccess, type CalDavPlace } from './caldav'
import { type CalDavStart, discover, type FoundAccount, openAccount } from './caldav/discover'
import { feedAccess } from './feed'

/** Calendars of any kind that this installation can reach. All of it throws CalendarFault. */
export interface CalendarPort {
  /** Where CalDAV answers for what a person types, found without credentials. */
  discover: (typed: string) => Promise<CalDavStart>
  openCalDav: (start: CalDavStart, user: string | null, authorize: Authorize) => Promise<FoundAccount>
  calDav: (place: CalDavPlace, account: Pick<AccountDetails, 'label' | 'addresses'>, authorize: Authorize) => CalendarAccess
  feed: (address: string) => CalendarAccess
}

export function createCalendarPort(outside: Outside): CalendarPort {
  return {
    discover: typed => discover(outside, typed),
    openCalDav: (start, user, authorize) => openAccount(outside, start, user, authorize),
    calDav: (place, account, authorize) => calDavAccess(outside, place, account, authorize),
    feed: address => feedAccess(outside, address),
  }
}
