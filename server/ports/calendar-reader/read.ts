import { goesBeyond, NotACalendar, readCalendar, readZone, takenInstances, type Unread } from '../../../core/calendar/taken'
import { zoneOf } from '../../../core/time/zone'

/** From the text of calendar objects to the rows that are stored of them: what may take long, and therefore runs in a thread of its own. */

export interface ReadRequest {
  objects: { href: string, text: string }[]
  /** What the calendar's floating times are in: a zone's name or a VTIMEZONE; null where nothing says so. */
  zone: string | null
  hostZone: string
  addresses: string[]
  /** Seconds since the epoch. */
  from: number
  to: number
}

/** The times of one entry in one month. */
export interface ReadTime {
  /** Starts and ends one after another, in seconds. */
  times: number[]
  isWholeDay: boolean
  isUnconfirmed: boolean
  uid: string
  title: string
}

export interface ReadObject {
  href: string
  entries: number
  unread: Unread[]
  /** It may take time after the span. */
  goesOn: boolean
  taken: ReadTime[]
}

const MONTH = 32 * 24 * 3600
const MOST_UNREAD = 50
/** Times of one object: a calendar of 10,000 entries as one text has as many. */
const MOST_TIMES = 400_000

export function readObjects({ objects, zone, hostZone, addresses, from, to }: ReadRequest): ReadObject[] {
  const own = new Set(addresses)
  const home = zoneOf(hostZone)
  const named = zone === null ? null : readZone(zone)
  return objects.map(({ href, text }) => readObject(href, text))

  function readObject(href: string, text: string): ReadObject {
    let file
    try {
      file = readCalendar(text)
    } catch (error) {
      if (!(error instanceof NotACalendar)) throw error
      return { href, entries: 0, unread: [{ uid: '', code: 'cutOff', text: '' }], goesOn: false, taken: [] }
    }
    const unread = [...file.unread]
    const rows = new Map<string, ReadTime>()
    let count = 0
    const instances = takenInstances(file, { from, to }, { zone: named, hostZone: home, addresses: own }, unread)
    for (const { start, end, isWholeDay, isUnconfirmed, uid, title } of instances) {
      if (++count > MOST_TIMES) {
        unread.push({ uid, code: 'tooMuch', text: '' })
        break
      }
      const key = `${Math.floor(start / MONTH)} ${isWholeDay} ${isUnconfirmed} ${uid} ${title}`
      const known = rows.get(key)
      if (known) known.times.push(start, end)
      else rows.set(key, { times: [start, end], isWholeDay, isUnconfirmed, uid, title })
    }
    return {
      href,
      entries: file.series.reduce((sum, { masters }) => sum + Math.max(1, masters.length), file.periods.length),
      unread: unread.slice(0, MOST_UNREAD),
      goesOn: goesBeyond(file, to, named ?? file.zone ?? home),
      taken: [...rows.values()],
    }
  }
}

/** Nobody's appointment is later: the year 2100. */
const LATEST = 4_102_444_800

/** When the one entry of an object takes place, in seconds; null where it cannot be read. */
export function spanOf(text: string): { start: number, end: number } | null {
  const utc = zoneOf('UTC')
  try {
    const settings = { zone: null, hostZone: utc, addresses: new Set<string>() }
    for (const { start, end } of takenInstances(readCalendar(text), { from: 0, to: LATEST }, settings)) return { start, end }
    return null
  } catch (error) {
    if (error instanceof NotACalendar) return null
    throw error
  }
}
