import { WINDOWS_TO_IANA_MAP } from 'windows-iana'
import { isZoneName, zoneOf } from '../../time/zone'
import type { Block } from './blocks'
import type { ClockZone } from './moments'
import { observedZone } from './observed-zone'

/** The zones that an iCalendar text names. */

/** By the table of CLDR, the zone that stands for each where no territory is named (001). */
const windowsZones = new Map(WINDOWS_TO_IANA_MAP.filter(({ territory }) => territory === '001')
  .map(({ windowsName, iana: [zone] }) => [windowsName.toLowerCase(), String(zone)]))

export class FileZones {
  private readonly found = new Map<string, ClockZone | null>()
  private readonly described: ReadonlyMap<string, Block>

  constructor(blocks: readonly Block[], tzidOf: (block: Block) => string) {
    this.described = new Map(blocks.map(block => [tzidOf(block), block]))
  }

  /** The only zone that the file describes, if it is one. */
  get only(): ClockZone | null {
    const [tzid] = this.described.keys()
    return this.described.size === 1 && tzid !== undefined ? this.find(tzid) : null
  }

  /**
   * The zone that a TZID means: an IANA name, one at the end of a path, a Windows name (by the table of CLDR), or what the
   * file says of it. Null where none of these is known.
   */
  find(tzid: string): ClockZone | null {
    let zone = this.found.get(tzid)
    if (zone === undefined) this.found.set(tzid, zone = this.named(tzid) ?? this.describedAs(tzid))
    return zone
  }

  private named(tzid: string): ClockZone | null {
    const name = tzid.trim()
    if (isZoneName(name)) return zoneOf(name)
    const parts = name.split('/')
    // The longest end that is a name: America/Argentina/Salta has three parts.
    for (let from = Math.max(1, parts.length - 3); from < parts.length; from++) {
      const end = parts.slice(from).join('/')
      if (isZoneName(end)) return zoneOf(end)
    }
    const windows = windowsZones.get(name.toLowerCase())
    return windows !== undefined && isZoneName(windows) ? zoneOf(windows) : null
  }

  private describedAs(tzid: string): ClockZone | null {
    const block = this.described.get(tzid)
    return block ? observedZone(block) : null
  }
}
