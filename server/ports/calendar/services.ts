import type { Outside } from '../outside'
import type { AccountDetails, CalendarAccess } from '.'
import { consentUrl, exchangeCode, makeVerifier, renewTokens, type Tokens } from './consent'
import type { CalendarServer } from './servers'
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
  makeVerifier: () => string
  consentUrl: (server: CalendarServer, redirectUri: string, state: string, verifier: string) => Promise<string>
  exchangeCode: (server: CalendarServer, asked: { code: string, verifier: string, redirectUri: string }, now: number) => Promise<Tokens>
  renewTokens: (server: CalendarServer, refreshToken: string, now: number) => Promise<Tokens>
}

export function createCalendarPort(outside: Outside): CalendarPort {
  return {
    discover: typed => discover(outside, typed),
    openCalDav: (start, user, authorize) => openAccount(outside, start, user, authorize),
    calDav: (place, account, authorize) => calDavAccess(outside, place, account, authorize),
    makeVerifier,
    consentUrl,
    exchangeCode: (server, asked, now) => exchangeCode(outside, server, asked, now),
    renewTokens: (server, refreshToken, now) => renewTokens(outside, server, refreshToken, now),
    feed: address => feedAccess(outside, address),
  }
}
