import { DAY } from '../../time/civil'
import { type Block, readBlocks } from './blocks'
import { type Entry, EntryError, readEntry, type Unread } from './entry'
import { type ClockZone, instantOf, readDuration, readMoment, utc } from './moments'
import { parameterOf, propertiesOf } from './properties'
import { FileZones } from './zones'

/** A calendar as it was read, before it is known for which span and whose it is. */

/** The entries of one UID. */
export interface Series {
  masters: Entry[]
  /** Those that stand for instances of a master, the last revision of each. */
  overrides: Entry[]
}

/** A time that is taken without any entry (VFREEBUSY). Instants in seconds. */
export interface Period {
  start: number
  end: number
  isTentative: boolean
}

export interface CalendarFile {
  series: Series[]
  periods: Period[]
  /** The zone that the file says its floating times are in. */
  zone: ClockZone | null
  unread: Unread[]
}

/** Thrown for a text that holds no calendar. */
export class NotACalendar extends Error {}

/** Reads iCalendar text (RFC 5545). What cannot be read of it is told in `unread`. Throws NotACalendar. */
export function readCalendar(text: string): CalendarFile {
  const found = readBlocks(text)
  if (!found) throw new NotACalendar()
  const named = (name: string) => found.blocks.filter(block => block.name === name)
  const zones = new FileZones(named('VTIMEZONE'), block => lineValue(block, 'TZID'))
  const own = lineValue({ lines: found.lines }, 'X-WR-TIMEZONE')
  const unread: Unread[] = []
  const entries = named('VEVENT').flatMap(block => entryOf(block, zones, unread))
  return {
    series: seriesOf(entries),
    periods: named('VFREEBUSY').flatMap(block => periodsOf(block, unread)),
    zone: (own === '' ? null : zones.find(own)) ?? zones.only,
    unread,
  }
}

function entryOf(block: Block, zones: FileZones, unread: Unread[]): Entry[] {
  const unknown = new Set<string>()
  const uid = lineValue(block, 'UID')
  try {
    if (block.isCutOff) throw new EntryError('cutOff')
    const entry = readEntry(block, (tzid) => {
      const zone = zones.find(tzid)
      if (!zone) unknown.add(tzid)
      return zone
    })
    unread.push(...[...unknown].map((tzid): Unread => ({ uid, code: 'unknownZone', text: tzid.slice(0, 100) })))
    return [entry]
  } catch (error) {
    if (!(error instanceof EntryError)) throw error
    unread.push({ uid, code: error.code, text: error.text })
    return []
  } finally {
    // What has been read of a large file need not be kept beside what is still to be read.
    block.lines = []
  }
}

/** The text of a line, for what is needed of entries that cannot be read too. */
function lineValue({ lines }: Pick<Block, 'lines'>, name: string): string {
  const line = lines.find(candidate => candidate.slice(0, name.length).toUpperCase() === name && /[:;]/.test(candidate[name.length] ?? ''))
  return line === undefined ? '' : line.slice(line.indexOf(':') + 1).trim()
}

function periodsOf(block: Block, unread: Unread[]): Period[] {
  return propertiesOf(block).filter(({ name }) => name === 'freebusy').flatMap((property) => {
    const kind = parameterOf(property, 'fbtype').toUpperCase()
    if (kind === 'FREE') return []
    return property.values.flatMap((value): Period[] => {
      const [from, to] = Array.isArray(value) ? value.map(String) : []
      const start = readMoment(from ?? '', utc)
      const end = readMoment(to ?? '', utc)
      const lasting = readDuration(to ?? '')
      if (!start || !(end || lasting)) {
        unread.push({ uid: lineValue(block, 'UID'), code: 'time', text: String(value).slice(0, 100) })
        return []
      }
      const at = instantOf(start, utc)
      return [{ start: at, end: end ? instantOf(end, utc) : at + (lasting ? lasting.days * DAY + lasting.seconds : 0), isTentative: kind === 'BUSY-TENTATIVE' }]
    })
  })
}

/** Entries by their UIDs; those without one stand alone. */
function seriesOf(entries: readonly Entry[]): Series[] {
  const found = new Map<string, Entry[]>()
  for (const [index, entry] of entries.entries()) {
    const key = entry.uid === '' ? `${index}` : ` ${entry.uid}`
    const known = found.get(key)
    if (known) known.push(entry)
    else found.set(key, [entry])
  }
  return [...found.values()].map(of => ({
    masters: latest(of.filter(entry => !entry.replaces), () => ''),
    overrides: latest(of.filter(entry => entry.replaces), ({ replaces }) =>
      (replaces?.kind === 'date' ? `${replaces.day}` : `T${replaces ? instantOf(replaces, utc) : 0}`)),
  }))
}

/** The last revision of each: by SEQUENCE, then by DTSTAMP. Of several alike all count, as some programs give one UID to many. */
function latest(entries: readonly Entry[], keyOf: (entry: Entry) => string): Entry[] {
  if (entries.length < 2) return [...entries]
  const best = new Map<string, Entry[]>()
  for (const entry of entries) {
    const [known] = best.get(keyOf(entry)) ?? []
    const order = known ? entry.sequence - known.sequence || (entry.stamp < known.stamp ? -1 : entry.stamp > known.stamp ? 1 : 0) : 1
    if (order > 0) best.set(keyOf(entry), [entry])
    else if (order === 0) best.get(keyOf(entry))?.push(entry)
  }
  return [...best.values()].flat()
}
