import type { Tellable } from '../booking/told'
import type { TitleFault, TrailEntry, TrailValues } from '../booking/trail'
import { occasionName } from '../messages/occasions'
import { formatMoney } from '../payment/money'
import type { RoomWay } from '../rooms/ways'
import { formatAlternatives, formatDay, formatList, formatTime, formatZone } from '../time/format'
import { readFault } from '../validation'
import { formatAccountFault } from './calendars'
import { placeWords } from './event-type'
import { describeFault } from './faults'
import { formatInputFault } from './input'

/** The trail in sentences. */

const assignedBecause = {
  onlyOne: 'nobody else was free',
  soonest: 'next in turn by fair share',
  mostOwed: 'most owed by fair share',
  first: 'first of the list who was free',
  chosen: 'chosen by the client',
}

const PICKED = 'picked by hand'

const tellableWords: Record<Tellable, string> = { client: 'client', guests: 'guests', hosts: 'hosts' }

/** A message within a sentence. */
function messageName({ occasion, name }: { occasion: string, name?: string | undefined }): string {
  return name === undefined ? occasionName(occasion) : `“${name}”`
}

/** A plain sentence for one entry, with times in the given zone and locale; the member called `reader` is spoken to. */
export function formatTrailEntry(entry: TrailEntry, zone: string, locale: string, reader: string | null = null): string {
  const named = (name: string) => (name === reader ? 'you' : name)
  const capital = (name: string) => (name === reader ? 'You' : name)
  const time = (instant: number) => formatTime(instant, zone, locale)
  const day = (instant: number) => `${formatDay(instant, zone, locale)}, ${time(instant)}`
  const again = (instant: number | null) => (instant === null ? 'no further try is planned' : `trying again at ${time(instant)}`)
  switch (entry.code) {
    case 'booked': {
      const { client, eventType, start, member, untold = [] } = entry.values
      const when = `${day(start)} ${formatZone(zone)} time`
      if (member === undefined) return `${client} booked ${eventType} for ${when}.`
      const without = untold.length > 0 ? ` No mail went to the ${formatAlternatives(untold.map(group => tellableWords[group]))}.` : ''
      return `${capital(member)} booked ${eventType} for ${client}: ${when}.${without}`
    }
    case 'requested':
      return `${entry.values.client} asked for ${entry.values.eventType} on ${formatDay(entry.values.start, zone, locale)}, ${time(entry.values.start)} ${formatZone(zone)} time.`
    case 'assigned':
      return `${entry.values.host === reader ? 'You host' : `${entry.values.host} hosts`} it: ${entry.values.byHand ? PICKED : assignedBecause[entry.values.code]}${entry.values.able.length > 1 ? ` (${formatList(entry.values.able.map(named))} were free)` : ''}.`
    case 'handedOver': {
      const { member, from, to, code, able } = entry.values
      const why = code === 'chosen' ? PICKED : assignedBecause[code]
      const free = code !== 'chosen' && able.length > 1 ? ` (${formatList(able.map(named))} were free)` : ''
      return `${capital(member)} handed it over from ${named(from)} to ${named(to)}: ${why}${free}.`
    }
    case 'heldForPayment':
      return `${entry.values.client} chose ${entry.values.eventType} for ${formatDay(entry.values.start, zone, locale)}, ${time(entry.values.start)} ${formatZone(zone)} time. It is held until ${time(entry.values.until)} while they pay.`
    case 'paid':
      return `${formatMoney(entry.values, locale)} came in through ${entry.values.service}.`
    case 'holdReleased':
      return `${entry.values.client} gave up the held time before paying.`
    case 'holdEnded':
      return 'It was not paid in time, so the time is free again.'
    case 'paidLate':
      return `${formatMoney(entry.values, locale)} came in through ${entry.values.service} when the time was no longer held, and is paid back.`
    case 'refunded':
      return `${entry.values.service} paid ${formatMoney(entry.values, locale)} back.`
    case 'refundFailed':
      return `${formatMoney(entry.values, locale)} could not be paid back: ${entry.values.service} ${describeFault(entry.values.fault)}; ${again(entry.values.nextAt)}.`
    case 'paymentMarked':
      return `${capital(entry.values.member)} marked ${formatMoney(entry.values, locale)} as ${entry.values.isPaid ? 'paid' : 'not paid'}.`
    case 'approved':
      return `${capital(entry.values.member)} approved it.`
    case 'declined':
      return `${capital(entry.values.member)} declined it.`
    case 'expired':
      return 'Nobody answered the request in time, so it has expired.'
    case 'moved': {
      const { by, name, from, to, hosts } = entry.values
      const who = by === 'member' ? capital(name) : name
      const others = hosts ? `, from ${formatList(hosts.from.map(named))} to ${formatList(hosts.to.map(named))}` : ''
      return `${who} moved it from ${day(from)} to ${day(to)}${others}.`
    }
    case 'left':
      return `${entry.values.client} moved to ${day(entry.values.to)}.`
    case 'guestsChanged': {
      const { by, name, added, removed } = entry.values
      const who = by === 'member' ? capital(name) : name
      const did = [...added.length > 0 ? [`invited ${formatList(added)}`] : [], ...removed.length > 0 ? [`took ${formatList(removed)} off the guests`] : []]
      return `${who} ${did.join(' and ')}.`
    }
    case 'peopleChanged': {
      const { by, name, from, to } = entry.values
      return `${by === 'client' ? name : capital(name)} changed for how many it is booked: ${to} instead of ${from}.`
    }
    case 'attended':
      return `${capital(entry.values.member)} marked it as attended.`
    case 'missed':
      return `${capital(entry.values.member)} marked it as missed.`
    case 'cancelled':
      return `${entry.values.by === 'member' ? capital(entry.values.name) : entry.values.name} cancelled${entry.values.reason ? `: “${entry.values.reason}”` : '.'}`
    case 'roomAsked':
      return `Asked ${entry.values.service} for a room under ${entry.values.account}${entry.values.attempt > 1 ? `, try ${entry.values.attempt}` : ''}.`
    case 'roomReady':
      return describeRoom(entry.values, named)
    case 'roomFailed': {
      const { service, fault, nextAt, next } = entry.values
      return `${service} ${describeFault(fault)}; ${next ? `going on to ${describeWay(next)}` : again(nextAt)}.`
    }
    case 'roomRenewed':
      return `${capital(entry.values.member)} asked for a new link.`
    case 'roomRemoved':
      return `${capital(entry.values.member)} removed the video link.`
    case 'placeChanged':
      return `${capital(entry.values.member)} changed where it takes place: ${placeWords[entry.values.kind]}${entry.values.detail ? `, ${entry.values.detail}` : ''}.`
    case 'linkMissing':
      return `There is still no video link, ${entry.values.hours === 1 ? 'an hour' : `${entry.values.hours} hours`} or less before the start: the hosts are told.`
    case 'roomLost':
      return `${entry.values.service} no longer has the room, so another one is made.`
    case 'roomChanged':
      return `${entry.values.service} brought the room up to date.`
    case 'roomNotChanged':
      return `The room could not be brought up to date: ${entry.values.service} ${describeFault(entry.values.fault)}; ${again(entry.values.nextAt)}.`
    case 'roomWaits':
      return `No room can be made under ${entry.values.account} at present: ${entry.values.service} ${describeFault(entry.values.fault)}. It is made as soon as that is over.`
    case 'roomUnowned':
      return `No video account is connected for ${formatList(entry.values.hosts.map(named))}, so no room can be made.`
    case 'roomWithdrawn':
      return `${entry.values.service} withdrew the room.`
    case 'roomNotWithdrawn':
      return `The room could not be withdrawn: ${entry.values.service} ${describeFault(entry.values.fault)}; ${again(entry.values.nextAt)}.`
    case 'messageSent':
      return `${entry.values.channel === 'phone' ? 'Texted' : 'Mailed'} ${messageName(entry.values)} to ${entry.values.address}${entry.values.link === false ? ', saying that the video link follows' : ''}.`
    case 'messageFailed':
      return `Could not ${entry.values.channel === 'phone' ? 'text' : 'mail'} ${messageName(entry.values)} to ${entry.values.address}: ${describeFault(entry.values.fault)}; ${again(entry.values.nextAt)}.`
    case 'messageUnknown':
      return `Sending ${messageName(entry.values)} to ${entry.values.address} broke off (${describeFault(entry.values.fault)}). It may or may not have arrived, and ${entry.values.again ? `is sent once more as the same ${entry.values.channel === 'phone' ? 'text' : 'mail'}` : 'is not sent again by itself'}.`
    case 'messageReturned':
      return `${messageName(entry.values).replace(/^./, letter => letter.toUpperCase())} did not reach ${entry.values.address}: ${describeFault(entry.values.fault)}.`
    case 'messageOvertaken':
      return `Did not ${entry.values.channel === 'phone' ? 'text' : 'mail'} ${messageName(entry.values)} to ${entry.values.address}: the booking has changed since.`
    case 'messageHeld':
      return `Holding ${messageName(entry.values)} to ${entry.values.address} until ${time(entry.values.until)}: the address got several messages within the hour and has opened none.`
    case 'messageQuiet': {
      const { until, address } = entry.values
      return until === null ? `Did not text ${messageName(entry.values)} to ${address}: it would have come too late after the quiet hours.`
        : `Holding ${messageName(entry.values)} to ${address} until the quiet hours end at ${time(until)}.`
    }
    case 'entryWritten':
      return `${entry.values.isNew ? 'Wrote it into' : 'Changed it in'} ${entry.values.host === reader ? 'your' : `${entry.values.host}’s`} calendar “${entry.values.calendar}”.`
    case 'entryRemoved':
      return `Took it out of ${entry.values.host === reader ? 'your' : `${entry.values.host}’s`} calendar “${entry.values.calendar}”.`
    case 'entryFailed':
      return `It could not be written into ${entry.values.host === reader ? 'your' : `${entry.values.host}’s`} calendar “${entry.values.calendar}”: ${formatAccountFault(entry.values.fault).replace(/\.$/, '')}; ${again(entry.values.nextAt)}.`
    case 'entryNoticed': {
      const { host, what, start } = entry.values
      const where = `in ${host === reader ? 'your' : `${host}’s`} calendar`
      return what === 'deleted' ? `Somebody deleted its entry ${where}.` : `Somebody moved its entry ${where}${start === null ? '' : ` to ${time(start)}`}.`
    }
    case 'titleFailed':
      return `The calendar title could not be made: ${formatTitleFault(entry.values.fault)}. The standard title is used.`
    case 'wordingFailed': {
      const { occasion, part, line, fault } = entry.values
      return `The workspace’s own words of ${occasionName(occasion)} could not be used (${part}, line ${line}: ${formatTitleFault(fault)}). The standard words were sent.`
    }
  }
}

function describeRoom({ way = 'own', service, number, attempt }: TrailValues<'roomReady'>, named: (name: string) => string): string {
  switch (way) {
    case 'own':
    case 'workspace':
      return `${service} made ${number === null ? 'the room' : `room ${number}`}${attempt > 1 ? `, at try ${attempt}` : ''}.`
    case 'pattern': return 'The room is on the workspace’s own meeting server.'
    case 'fixed': return `The room is ${named(service) === 'you' ? 'your' : `${service}’s`} fixed one.`
    case 'link': return `The room is the one that ${service} always has.`
    case 'byHand': return `${named(service) === 'you' ? 'You' : service} gave it a link by hand.`
  }
}

function describeWay({ way, name }: { way: RoomWay, name: string }): string {
  switch (way) {
    case 'own': return `${name}, under a host’s own account`
    case 'workspace': return `${name}, under the workspace’s account`
    case 'pattern': return 'the workspace’s own meeting server'
    case 'fixed': return `${name}’s fixed room`
    case 'link': return `the room that ${name} always has`
    case 'byHand': return 'a link by hand'
  }
}

export function formatTitleFault(stored: TitleFault): string {
  if (typeof stored === 'string') return stored
  const fault = readFault(stored)
  return fault ? formatInputFault(fault) : 'the template cannot be used'
}
