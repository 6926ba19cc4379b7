import type { FindingCode, FindingValues, Person, Severity } from '../checks/finding'
import { formatCount, formatDuration, formatList, formatMonthDay, formatRepeatInterval, formatZone, plural } from '../time/format'
import { occasionName } from '../messages/occasions'
import { DAY } from '../time/civil'
import { placeWords } from './event-type'
import { abilityWords } from './rooms'
import { capitalise } from './capitalise'
import { has, isOneOther, listPeople, named, whose } from './people'

/** What checks find, in words: one or two sentences that say what was found and why it matters, and the way out on a button. */

export const severityWords: Record<Severity, string> = { stops: 'Stops bookings', risky: 'Risky', look: 'Worth a look' }

interface Words<Code extends FindingCode> {
  text: (values: FindingValues[Code], day: (date: number) => string) => string
  wayOut: (values: FindingValues[Code]) => string
}

const is = (person: Person) => (person.own ? 'you are' : `${person.name} is`)
const troubleWords: Record<FindingValues['accountTroubled']['state'], string> = {
  works: 'works', waiting: 'waits for its owner’s approval', lost: 'needs to be connected again', refused: 'is refused at present',
  full: 'allows no more rooms',
}
const zone = (name: string) => `${formatZone(name)} time`

const causes: Record<FindingValues['noOpening']['cause'], { text: string, wayOut: string }> = {
  leadTime: { text: 'how long before its start it must be booked', wayOut: 'Change how soon' },
  horizon: { text: 'how far ahead it may be booked', wayOut: 'Change how far ahead' },
  hours: { text: 'the hours it is narrowed to', wayOut: 'Change the hours' },
  limits: { text: 'the limit of sessions', wayOut: 'Change the limit' },
  buffers: { text: 'the time kept free around it', wayOut: 'Change the buffers' },
  startEvery: { text: 'the few starts that are offered', wayOut: 'Change when it starts' },
  taken: { text: '', wayOut: 'Add a host' },
  noHours: { text: '', wayOut: 'Change the hours' },
  severalRules: { text: '', wayOut: 'Change the hours' },
}

function noOpening({ days, cause, hosts }: FindingValues['noOpening']): string {
  const text = `There is no opening in the next ${days} days`
  if (cause === 'taken') return `${text}: the hosts’ time is all taken.`
  if (cause === 'noHours') return `${text}: ${has(...hosts)} no open hours for it.`
  if (cause === 'severalRules') return `${text}. Several rules together leave none.`
  return `${text}. The cause is ${causes[cause].text}: without it there would be some.`
}

function withoutCommonHours({ hosts, chair, otherChairs, isWholeChair }: FindingValues['hostWithoutCommonHours']): string {
  const rest = isWholeChair ? '.' : ', so clients never meet them here.'
  return capitalise(chair === null
    ? `${has(...hosts)} no open hours that this event type allows${rest}`
    : `${listPeople(hosts)} (${chair}) ${isOneOther(hosts) ? 'has' : 'have'} no open hours in common with the other ${otherChairs === 1 ? 'chair' : 'chairs'}${rest}`)
}

const withoutHolidays = ({ hosts, whose: affected }: FindingValues['holidaysNotChosen']) => ({
  eventType: 'No holiday calendar is chosen for its hours',
  allHosts: 'No host has chosen a holiday calendar',
  someHosts: `${capitalise(has(...hosts))} not chosen a holiday calendar`,
})[affected]

const secretPlaces: Record<FindingValues['secretInPublic']['where'], string> = {
  description: 'the description', place: 'what clients read about the place', question: 'a question',
}
const asked: Record<FindingValues['asksAgain']['what'], string> = { name: 'name', email: 'e-mail address', phone: 'phone number' }

const words: { [Code in FindingCode]: Words<Code> } = {
  noOpening: { text: noOpening, wayOut: ({ cause }) => causes[cause].wayOut },
  nextOpeningFar: {
    text: ({ weeks, ...values }, day) => `The next opening is on ${day(values.day)}, more than ${plural(weeks, 'week')} ahead.`,
    wayOut: () => 'Change the hours',
  },
  neverFits: {
    text: ({ durations, longest }) =>
      `${formatList(durations.map(formatDuration))} never ${durations.length === 1 ? 'fits' : 'fit'}: the longest open hours are ${formatDuration(longest)} in one piece.`,
    wayOut: () => 'Change the duration',
  },
  startsHideSessions: {
    text: ({ startEvery, duration, share }) =>
      `Starting ${formatRepeatInterval(startEvery)} hides ${share === 0.5 ? 'half' : `${Math.round(share * 100)} %`} of the sessions of ${formatDuration(duration)} that would fit.`,
    wayOut: ({ needed }) => `Start ${formatRepeatInterval(needed)}`,
  },
  timeBetweenSessions: {
    text: ({ startEvery, duration, unused }) =>
      `Starting ${formatRepeatInterval(startEvery)} leaves ${formatDuration(unused)} unused between consecutive sessions of ${formatDuration(duration)}.`,
    wayOut: ({ needed }) => `Start ${formatRepeatInterval(needed)}`,
  },
  bufferBeyondGap: {
    text: ({ buffer, unused }) =>
      `${formatDuration(buffer)} kept free ${buffer === 1 ? 'does' : 'do'} not fit between starts, so each session blocks the next one: ${formatDuration(unused)} go unused.`,
    wayOut: () => 'Change when it starts',
  },
  leadBeyondHorizon: {
    text: ({ leadTime }) =>
      `It must be booked at least ${formatDuration(leadTime)} before, but cannot be booked that far ahead: the two rules leave nothing.`,
    wayOut: () => 'Change how far ahead',
  },
  datesPast: { text: (values, day) => `The last date it can be booked for, ${day(values.day)}, has passed.`, wayOut: () => 'Change how far ahead' },
  limitNeverReached: {
    text: ({ limit, per, most }) =>
      per === 'day'
        ? `The limit of ${limit} a day is never reached before the hours are full: at most ${plural(most, 'session')} ${most === 1 ? 'fits' : 'fit'} into a day.`
        : `The limit of ${limit} a week is never reached, with at most ${most} a day.`,
    wayOut: ({ per }) => (per === 'day' ? 'Remove the daily limit' : 'Remove the weekly limit'),
  },
  limitByOneHour: {
    text: ({ limit }) => `A single hour reaches the limit of ${limit} a day: the rest of the day is then closed.`,
    wayOut: () => 'Change the limit',
  },
  planZone: {
    text: ({ plan, timeZone, host, hostTimeZone }) => `“${plan}” is in ${zone(timeZone)}, but ${host.own ? 'you live' : `${host.name} lives`} in ${zone(hostTimeZone)}.`,
    wayOut: () => 'Open these hours',
  },
  hoursInAnotherZone: {
    text: ({ timeZone, hosts }) =>
      `The hours that replace the hosts’ own are in ${zone(timeZone)}; ${listPeople(hosts)} ${isOneOther(hosts) ? 'lives' : 'live'} in other zones and may be booked at night.`,
    wayOut: () => 'Change the hours',
  },
  clockChange: {
    text: ({ timeZone, host, from, to, minutes, ...values }, day) =>
      `On ${day(values.day)} the clocks in ${formatZone(timeZone)} change within ${`${host === null ? 'its' : whose(host)} hours`} from ${from} to ${to}: they last ${formatDuration(minutes)} that day.`,
    wayOut: ({ host }) => (host === null ? 'Change the hours' : 'Open these hours'),
  },
  ruleNeverHappens: {
    text: (values, day) => `A recurring window that starts on ${day(values.day)} has no date within the next two years.`,
    wayOut: () => 'Change the hours',
  },
  planRunsOut: {
    text: ({ isOver, ...values }, day) =>
      isOver ? `Its hours ended on ${day(values.day)}.` : `Its hours end on ${day(values.day)}; after that nothing can be booked.`,
    wayOut: () => 'Change the hours',
  },
  holidaysNotChosen: {
    text: values => `${withoutHolidays(values)}: clients can book on public holidays.`,
    wayOut: ({ hosts: [first] }) => (first && !first.own ? `Choose holidays for ${first.name}` : 'Choose holidays'),
  },
  hostWithoutCommonHours: { text: withoutCommonHours, wayOut: () => 'Change the hosts' },
  onlyHost: {
    text: ({ host, policy }) => `${policy === 'client' ? 'Clients choose their host' : 'Hosts are asked in order'}, but ${is(host)} the only one.`,
    wayOut: () => 'Change the hosts',
  },
  poolOfOne: {
    text: ({ host, hosts }) =>
      `Of ${formatCount(hosts)} hosts only ${named(host)} can be booked in the next two weeks, so every session goes to ${named(host)}.`,
    wayOut: () => 'Change the hosts',
  },
  noPaymentAccount: {
    text: () => 'Clients are to pay when they book, but no payment account is connected: they cannot book it.',
    wayOut: () => 'Connect a payment account',
  },
  withoutVideo: {
    text: ({ hosts, isEverybody }) => `${capitalise(has(...hosts))} no video account and no other way to a room: ${isEverybody && hosts.length > 1 ? 'no session gets a' : `sessions with ${hosts.length > 1 ? 'these hosts' : hosts[0]?.own ? 'you' : 'this host'} get no`} link automatically.`,
    wayOut: ({ hosts: [first, ...others] }) => (first?.own && others.length === 0 ? 'Connect your account' : 'Connect accounts'),
  },
  accountTroubled: {
    text: ({ host, service, state }) => `${host ? capitalise(whose(host)) : 'The workspace’s'} account at ${service} ${troubleWords[state]}.`,
    wayOut: () => 'See the connections',
  },
  optionsNotPossible: {
    text: ({ service, abilities }) => `${service} cannot ${formatList(abilities.map(ability => abilityWords[ability]))}: rooms made there are without it.`,
    wayOut: () => 'Change the rooms',
  },
  planTooSmall: {
    text: ({ service, host, what, most, needed }) => `${host ? capitalise(whose(host)) : 'The workspace’s'} account at ${service} allows ${what === 'minutes' ? `sessions of ${formatDuration(most)}` : `${most} people in a room`}; this event type needs ${what === 'minutes' ? formatDuration(needed) : needed}.`,
    wayOut: () => 'See the connections',
  },
  underMainUser: {
    text: ({ service, hosts }) => `${hosts.length === 1 && hosts[0] ? `${capitalise(is(hosts[0]))} no user` : `${capitalise(listPeople(hosts))} are no users`} of the workspace’s ${service} account: rooms are made under its main user, who alone opens them as host.`,
    wayOut: () => 'Invite them',
  },
  secondLink: {
    text: ({ link }) => `Clients read a second link after booking, ${link}, beside the one of their session.`,
    wayOut: () => 'Change the text',
  },
  withoutCalendar: {
    text: ({ hosts }) => `${capitalise(has(...hosts))} no calendar that blocks: clients can book whatever else there is at that time.`,
    wayOut: ({ hosts: [first, ...others] }) => (first?.own && others.length === 0 ? 'Connect your calendar' : 'Connect calendars'),
  },
  silentCalendar: {
    text: ({ host, since }, day) =>
      `${capitalise(whose(host))} calendar has not answered since ${day(Math.floor(since / DAY))}: what was last read of it counts.`,
    wayOut: () => 'See the connections',
  },
  wholeDaysBlocked: {
    text: ({ host, calendar, days, count }, day) =>
      `Entries of whole days in “${calendar}” block ${plural(count, 'day')} of ${host.own ? 'yours' : `${host.name}’s`} in the next four weeks: ${formatList([...days.map(day), ...(count > days.length ? ['more'] : [])])}.`,
    wayOut: () => 'Choose what counts',
  },
  unusedHolds: {
    text: ({ words: [first = '', ...others] }) => (others.length === 0
      ? `No calendar entry of its hosts has “${first}” in its title.`
      : `No calendar entries of its hosts have these in their titles: ${formatList([first, ...others].map(word => `“${word}”`))}.`),
    wayOut: () => 'Change the words',
  },
  samePersonTwice: {
    text: ({ host }) => `${capitalise(is(host))} the only host of two chairs and cannot sit in both at once.`,
    wayOut: () => 'Change the hosts',
  },
  hastyApproval: {
    text: () => 'Each booking waits for approval, but it can be made so late that nobody has answered when the session begins.',
    wayOut: () => 'Require a day’s notice',
  },
  secretInPublic: {
    text: ({ found, where }) =>
      `“${found.length > 60 ? `${found.slice(0, 57)}…` : found}” stands in ${secretPlaces[where]}, where strangers can read it and walk in.`,
    wayOut: () => 'Take it out',
  },
  contradictingPlace: {
    text: ({ kind, label }) => `The place is “${placeWords[kind]}”, but clients read “${label}”: the two contradict each other.`,
    wayOut: () => 'Change the place',
  },
  equalPlaces: {
    text: ({ kind, label }) => `Clients choose between two places that read the same, “${label || placeWords[kind]}”.`,
    wayOut: () => 'Change the place',
  },
  suggestedOrAgreed: {
    text: () => 'Clients may suggest a place or leave it to be agreed: the two mean nearly the same, and you cannot tell which was meant.',
    wayOut: () => 'Change the place',
  },
  fixedRoomBackToBack: {
    text: () => 'All sessions share one room address and may follow each other at once: the next clients walk in on those before.',
    wayOut: () => 'Keep 10 minutes free after',
  },
  asksAgain: {
    text: ({ question, what }) => `“${question}” asks for the ${asked[what]}, which every client gives anyway.`,
    wayOut: () => 'Change the questions',
  },
  answerNotAsked: {
    text: ({ occasion, own, key }) =>
      `${own === null ? capitalise(occasionName(occasion)) : `“${own}”`} names the answer “${key}”, which no question asks: nothing stands there.`,
    wayOut: () => 'Change the message',
  },
  closedButLinked: {
    text: ({ first, others, state }) =>
      `“${first}”${others > 0 ? ` and ${others} more still lead` : ' still leads'} here, but it is ${state}: whoever follows the link finds nothing.`,
    wayOut: () => 'Open it',
  },
}

export function formatFinding<Code extends FindingCode>(
  { code, values }: { code: Code, values: FindingValues[Code] }, locale: string,
): { text: string, wayOut: string } {
  const day = (date: number) => formatMonthDay(date, 'long', locale)
  return { text: words[code].text(values, day), wayOut: words[code].wayOut(values) }
}
