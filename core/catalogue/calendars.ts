import type { Unread } from '../calendar/taken'
import type { AccountFault, AccountFaultCode } from '../views/calendar-account'

/** Sentences about calendars. */

const unread: Readonly<Record<Unread['code'], (text: string) => string>> = {
  cutOff: () => 'The text ends in the middle of it.',
  noStart: () => 'It does not say when it starts.',
  time: text => `“${text}” is no date or time.`,
  duration: text => `“${text}” is no duration.`,
  rule: text => `Its recurrence rule cannot be read: ${text}.`,
  tooMuch: () => 'It comes round too often to be worked out.',
  unknownZone: text => `Its time zone “${text}” is not known; it was read in the calendar’s own zone.`,
}

export function formatUnread({ code, text }: Unread): string {
  return unread[code](text)
}

const accountFaults: Readonly<Record<AccountFaultCode, (host: string, status: number | null) => string>> = {
  noAddress: host => `“${host}” is no web address. A calendar’s address begins with https:// or webcal://.`,
  notAllowed: host => `${host} is not on the public internet. Whoever runs this installation can allow it (ALLOWED_HOSTS).`,
  unknownHost: host => `There is no server called ${host}. Check the address for typing errors.`,
  unreachable: host => `${host} cannot be reached.`,
  timedOut: host => `${host} did not answer in time.`,
  certificate: host => `The certificate of ${host} is not valid, so the connection is not safe.`,
  noEncryption: host => `${host} does not answer over https. Where it really has no encryption, write http:// before its address.`,
  tooLarge: host => `${host} sends more than 20 MB.`,
  manyRedirects: host => `${host} sends us on and on, and never to a calendar.`,
  insecureRedirect: host => `The address leads to ${host} without encryption.`,
  wrongPassword: host => `${host} refuses the user or the password. Many servers want an app password of their own.`,
  consentLost: host => `${host} no longer lets Temporia in. Connect the account again.`,
  notCalDav: host => `${host} speaks no CalDAV at this address. Use the address that your calendar’s settings show for CalDAV.`,
  noCalendars: host => `${host} has no calendar in this account.`,
  notACalendar: host => `What ${host} sends is no iCalendar file.`,
  notFound: host => `${host} has nothing at this address any more.`,
  refused: (host, status) => `${host} refuses to show this${status === null ? '' : ` (${status})`}.`,
  serverError: (host, status) => `${host} has a problem of its own${status === null ? '' : ` (${status})`}.`,
  unreadableAnswer: host => `The answer of ${host} cannot be read.`,
  tooMuch: host => `What ${host} sends takes too long to be worked out.`,
  unreadableAccess: () => 'The stored access cannot be read any more. Connect the account again.',
  internal: () => 'Something went wrong on our side. It will be tried again.',
}

export function formatAccountFault({ code, host, status }: AccountFault): string {
  return accountFaults[code](host, status)
}
