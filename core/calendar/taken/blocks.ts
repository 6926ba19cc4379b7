/**
 * The parts of an iCalendar text that tell of taken time, however broken the rest of it is: lines are unfolded (RFC 5545 §3.1)
 * and kept by the names of their properties; a missing END is made up for by what follows it.
 */

export interface Block {
  /** `VEVENT`, `VFREEBUSY`, `VTIMEZONE`, or `STANDARD` and `DAYLIGHT` in one of the last. */
  name: string
  /** Unfolded content lines of the properties that matter. */
  lines: string[]
  blocks: Block[]
  /** The text ended in the middle of a line of it. */
  isCutOff: boolean
}

const kept: Readonly<Record<string, ReadonlySet<string>>> = {
  VCALENDAR: new Set(['X-WR-TIMEZONE']),
  VEVENT: new Set([
    'UID', 'DTSTART', 'DTEND', 'DURATION', 'RRULE', 'EXRULE', 'RDATE', 'EXDATE', 'RECURRENCE-ID', 'SEQUENCE', 'DTSTAMP', 'STATUS', 'TRANSP',
    'ATTENDEE', 'SUMMARY',
  ]),
  VFREEBUSY: new Set(['UID', 'FREEBUSY']),
  VTIMEZONE: new Set(['TZID']),
  STANDARD: new Set(['DTSTART', 'TZOFFSETFROM', 'TZOFFSETTO', 'RRULE', 'RDATE']),
  DAYLIGHT: new Set(['DTSTART', 'TZOFFSETFROM', 'TZOFFSETTO', 'RRULE', 'RDATE']),
}
const inCalendar = new Set(['VEVENT', 'VFREEBUSY', 'VTIMEZONE'])
const inZone = new Set(['STANDARD', 'DAYLIGHT'])

/** No property that matters is longer; what is, is cut. Characters. */
const MOST_IN_LINE = 1_000_000

/** The calendar's own lines and its blocks, in their order; null where the text holds no calendar. */
export function readBlocks(text: string): { lines: string[], blocks: Block[] } | null {
  const calendar: Block = makeBlock('VCALENDAR')
  let hasCalendar = false
  /** The block that lines belong to, the ones around it, and blocks of no interest that have begun within it. */
  let path: Block[] = [calendar]
  let ignored: string[] = []
  const matters = (name: string) => name === 'BEGIN' || name === 'END' || (ignored.length === 0 && (kept[last(path).name]?.has(name) ?? false))
  for (const line of linesOf(text, matters)) {
    const mark = /^(BEGIN|END)\s*:\s*([A-Za-z0-9-]+)\s*$/i.exec(line)
    if (!mark) {
      last(path).lines.push(line)
      continue
    }
    const name = (mark[2] ?? '').toUpperCase()
    if ((mark[1] ?? '').toUpperCase() === 'BEGIN') begin(name)
    else end(name)
  }
  last(path).isCutOff = !/[\r\n]$/.test(text.slice(-1))
  return hasCalendar ? { lines: calendar.lines, blocks: calendar.blocks } : null

  function begin(name: string): void {
    if (name === 'VCALENDAR') hasCalendar = true
    if (name === 'VCALENDAR' || inCalendar.has(name)) {
      // Whatever was open has not been ended.
      path = [calendar]
      ignored = []
    }
    if (name === 'VCALENDAR') return
    const parent = last(path)
    if (ignored.length === 0 && (inCalendar.has(name) || (inZone.has(name) && path[1]?.name === 'VTIMEZONE'))) {
      const block = makeBlock(name)
      if (inZone.has(parent.name)) path.pop()
      last(path).blocks.push(block)
      path.push(block)
    } else if (ignored.length < MOST_NESTED) {
      ignored.push(name)
    }
  }

  function end(name: string): void {
    const hidden = ignored.lastIndexOf(name)
    if (hidden >= 0) {
      ignored.length = hidden
      return
    }
    const open = path.findLastIndex(block => block.name === name)
    if (open < 1) return
    path.length = open
    ignored = []
  }
}

const MOST_NESTED = 100

function makeBlock(name: string): Block {
  return { name, lines: [], blocks: [], isCutOff: false }
}

function last(path: readonly Block[]): Block {
  const block = path.at(-1)
  if (!block) throw new Error('No block is open')
  return block
}

/** The name of a property, in capitals. */
export function nameOf(line: string): string {
  const found = /^[A-Za-z0-9-]+/.exec(line.length > 100 ? line.slice(0, 100) : line)
  return found ? found[0].toUpperCase() : ''
}

/** Unfolded lines of the wanted properties. They end with CRLF, LF, or CR where there is no LF. */
function* linesOf(text: string, isWanted: (name: string) => boolean): Generator<string> {
  const mark = text.includes('\n') ? '\n' : '\r'
  let at = text.charCodeAt(0) === 0xFEFF ? 1 : 0
  while (at < text.length) {
    let next = endOf(at)
    const first = lineAt(at, next)
    const wanted = isWanted(nameOf(first))
    const parts = [first]
    at = next + 1
    for (let size = first.length; at < text.length && (text[at] === ' ' || text[at] === '\t'); at = next + 1) {
      next = endOf(at)
      if (!wanted || size > MOST_IN_LINE) continue
      const more = lineAt(at + 1, next)
      size += more.length
      parts.push(more)
    }
    if (wanted) yield parts.length === 1 ? first : parts.join('')
  }

  function endOf(from: number): number {
    const found = text.indexOf(mark, from)
    return found < 0 ? text.length : found
  }

  function lineAt(from: number, to: number): string {
    return text.slice(from, text[to - 1] === '\r' && mark === '\n' ? to - 1 : to)
  }
}
