import { Temporal } from 'temporal-polyfill'
import type { Explanation, HoursPlan, Opening, OpeningsQuery, Reason } from '../../core/openings'
import { ruleDates } from './rule'

/**
 * The rules of openings once more, minute by minute: as slow and as plain as can be, sharing no line with the engine.
 * Time is a row of ticks (a minute, or less where the query names odd seconds); each set of times is a row of marks.
 */

type Host = OpeningsQuery['hosts'][number]
type Marks = Uint8Array

export const secondsOf = (text: string) => Date.parse(text) / 1000
export const textOf = (seconds: number) => new Date(seconds * 1000).toISOString().replace('.000Z', 'Z')
const compareDates = Temporal.PlainDate.compare
const byId = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0)

const calendars = new Map<string, Intl.DateTimeFormat>()
const dates = new Map<string, Temporal.PlainDate>()

function dateIn(seconds: number, zone: string): Temporal.PlainDate {
  let calendar = calendars.get(zone)
  // Swedish dates are written 2027-03-08.
  if (!calendar) calendars.set(zone, calendar = new Intl.DateTimeFormat('sv-SE', { timeZone: zone }))
  const text = calendar.format(seconds * 1000)
  let date = dates.get(text)
  if (!date) dates.set(text, date = Temporal.PlainDate.from(text))
  return date
}

export interface OracleAnswer {
  openings: Opening[]
  explanations?: Explanation[]
}

export function oracleAnswer(query: OpeningsQuery): OracleAnswer {
  const { eventType } = query
  const zone = eventType.timeZone
  const [now, from, to] = [secondsOf(query.now), secondsOf(query.from), secondsOf(query.to)]
  const explained = (query.explain ?? []).map(secondsOf)
  const duration = eventType.durationMinutes * 60
  const step = eventType.startEveryMinutes * 60
  const [before, after] = [eventType.bufferBeforeMinutes * 60, eventType.bufferAfterMinutes * 60]
  const earliest = now + eventType.leadTimeMinutes * 60
  const hosts = new Map(query.hosts.map(host => [host.id, host]))
  const pools = eventType.chairs.map(chair => chair.hosts.map(id => hosts.get(id) as Host))

  const tick = tickOf(query)
  const base = Math.floor(Math.min(from, ...explained) / 86_400 - 2) * 86_400
  const ticks = Math.ceil((Math.max(to, ...explained) + 3 * 86_400 - base) / tick)
  const place = (seconds: number) => Math.min(ticks, Math.max(0, (seconds - base) / tick))

  // Rules 1 to 3.
  const made = new Map<HoursPlan, Marks>()
  const hours = new Map(
    query.hosts.map(host => [host.id, host.plans.map(planMarks).reduce((all, next) => all.map((mark, i) => mark & (next[i] ?? 0)))]),
  )
  const joint = pools
    .map(pool => pool.map(host => hours.get(host.id) as Marks).reduce((all, next) => all.map((mark, i) => mark | (next[i] ?? 0))))
    .reduce((all, next) => all.map((mark, i) => mark & (next[i] ?? 0)))
  const openedOver = (host: Host) =>
    query.openedOver
      .filter(entry => entry.hosts.includes(host.id))
      .map(entry => ({ start: secondsOf(entry.start), end: secondsOf(entry.end) }))
  const open = new Map(query.hosts.map((host) => {
    const marks = Uint8Array.from(hours.get(host.id) as Marks)
    for (const { start, end } of openedOver(host)) marks.fill(1, place(start), place(end))
    return [host.id, marks]
  }))
  const busy = new Map(query.hosts.map(host => [host.id, marked(host.busy.map(block => [secondsOf(block.start), secondsOf(block.end)]))]))
  const sessions = new Map(
    query.hosts.map(host => [
      host.id,
      marked(
        host.sessions.map(session => [
          secondsOf(session.start) - session.bufferBeforeMinutes * 60,
          secondsOf(session.end) + session.bufferAfterMinutes * 60,
        ]),
      ),
    ]),
  )
  const counted = new Map(
    query.hosts.map(host => [
      host.id,
      host.sessions.filter(session => session.sameEventType).map(session => dateIn(secondsOf(session.start), zone)),
    ]),
  )

  const blocks = new Map(query.hosts.map(host => [host.id, { busy: sorted(host.busy), sessions: sorted(host.sessions) }]))

  const grid = gridStarts()
  const onGrid = new Set(grid)

  function marked(intervals: [number, number][]): Marks {
    const marks = new Uint8Array(ticks)
    for (const [start, end] of intervals) if (start < end) marks.fill(1, place(start), place(end))
    return marks
  }

  function planMarks(plan: HoursPlan): Marks {
    const known = made.get(plan)
    if (known) return known
    const marks = new Uint8Array(ticks)
    made.set(plan, marks)
    const last = dateIn(base + ticks * tick, plan.timeZone).add({ days: 1 })
    const recurring = plan.recurring.map(window => ({ window, dates: ruleDates(window.rrule, window.start, last.toString()) }))
    for (let date = dateIn(base, plan.timeZone).subtract({ days: 1 }); compareDates(date, last) <= 0; date = date.add({ days: 1 })) {
      const text = date.toString()
      if ((plan.valid.from && text < plan.valid.from) || (plan.valid.to && text > plan.valid.to)) continue
      const exception = plan.exceptions.find(candidate => candidate.date === text)
      const weekday = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'][date.dayOfWeek - 1]
      const windows = exception?.windows ?? [
        ...plan.weekly.filter(window => window.days.some(day => day === weekday)),
        ...recurring.filter(rule => rule.dates.has(text)).map(rule => rule.window),
      ]
      if (windows.length === 0 || !date.toZonedDateTime(plan.timeZone).toPlainDate().equals(date)) continue
      const minutes = new Uint8Array(1441)
      for (const window of windows) minutes.fill(1, minuteOf(window.from), minuteOf(window.to))
      for (let minute = 0; minute < 1440; minute++) {
        if (!minutes[minute] || minutes[minute - 1]) continue
        let end = minute
        while (minutes[end]) end++
        const [start, stop] = [wallClock(date, minute, plan.timeZone), wallClock(date, end, plan.timeZone)]
        if (start < stop) marks.fill(1, place(start), place(stop))
      }
    }
    return marks
  }

  /** Rule 4. */
  function gridStarts(): number[] {
    const midnights = new Set<number>()
    for (let date = dateIn(base, zone); compareDates(date, dateIn(base + ticks * tick, zone)) <= 0; date = date.add({ days: 1 })) {
      midnights.add(date.toZonedDateTime(zone).epochMilliseconds / 1000)
    }
    const starts = new Set<number>()
    let pieceStart = 0
    for (let i = 0; i < ticks; i++) {
      const at = base + i * tick
      if (!joint[i]) continue
      if (!joint[i - 1] || midnights.has(at)) pieceStart = at
      if ((at - pieceStart) % step === 0) starts.add(at)
    }
    for (const entry of query.openedOver) for (let at = secondsOf(entry.start); at < secondsOf(entry.end); at += step) starts.add(at)
    return [...starts].sort((a, b) => a - b)
  }

  /** Rule 5 for one host: every reason against, or some where nobody asks for all. */
  function against(host: Host, at: number, explaining: boolean): Reason[] {
    const reasons: Reason[] = []
    const anyTick = (marks: Marks, start: number, end: number, mark: number) => {
      for (let i = place(start); i < place(end); i++) if (marks[i] === mark) return true
      return false
    }
    const [start, end] = [at - before, at + duration + after]
    if (anyTick(open.get(host.id) as Marks, at, at + duration, 0)) {
      const exception =
        explaining && host.plans.some(plan => anyTick(planMarks(plan), at, at + duration, 0) && touchesException(plan, at, at + duration))
      reasons.push({ code: 'closed', host: host.id, ...(exception ? { exception: true as const } : {}) })
    }
    const single = query.openedOver.length > 0 && openedOver(host).some(entry => entry.start <= at && at + duration <= entry.end)
    if (!explaining && reasons.length > 0) return reasons
    if (!single && anyTick(busy.get(host.id) as Marks, start, end, 1)) {
      for (const block of blocks.get(host.id)?.busy ?? []) {
        if (block.from < block.to && block.from < end && start < block.to)
          reasons.push({ code: 'busy', host: host.id, start: block.start, end: block.end })
        if (!explaining && reasons.length > 0) return reasons
      }
    }
    if (anyTick(sessions.get(host.id) as Marks, start, end, 1)) {
      for (const session of blocks.get(host.id)?.sessions ?? []) {
        if (session.from - session.bufferBeforeMinutes * 60 >= end || start >= session.to + session.bufferAfterMinutes * 60) continue
        const apart = session.from >= at + duration || at >= session.to
        reasons.push({
          code: 'session',
          host: host.id,
          start: session.start,
          end: session.end,
          ...(apart ? { bufferOnly: true as const } : {}),
        })
      }
    }
    if (eventType.dailyLimit !== null) {
      const count = (counted.get(host.id) ?? []).filter(rule => rule.equals(dateIn(at, zone))).length
      if (count >= eventType.dailyLimit) reasons.push({ code: 'dailyLimit', host: host.id, count, limit: eventType.dailyLimit })
    }
    if (eventType.weeklyLimit !== null) {
      const week = ({ yearOfWeek, weekOfYear }: Temporal.PlainDate) => `${yearOfWeek} ${weekOfYear}`
      const count = (counted.get(host.id) ?? []).filter(rule => week(rule) === week(dateIn(at, zone))).length
      if (count >= eventType.weeklyLimit) reasons.push({ code: 'weeklyLimit', host: host.id, count, limit: eventType.weeklyLimit })
    }
    return reasons
  }

  function touchesException(plan: HoursPlan, start: number, end: number): boolean {
    return plan.exceptions.some(({ date }) => {
      if ((plan.valid.from && date < plan.valid.from) || (plan.valid.to && date > plan.valid.to)) return false
      for (let at = start; at < end; at = Math.min(at + 60, Math.max(at + 1, end - 1)))
        if (dateIn(at, plan.timeZone).toString() === date) return true
      return false
    })
  }

  /** Rule 6: every reason against. */
  function againstStart(at: number): Reason[] {
    const reasons: Reason[] = []
    if (at < earliest) reasons.push({ code: 'leadTime', earliest: textOf(earliest) })
    const [first, last] = horizon()
    const date = dateIn(at, zone)
    if (first && compareDates(date, first) < 0) reasons.push({ code: 'beforeHorizon', limit: first.toString() })
    if (last && compareDates(date, last) > 0) reasons.push({ code: 'beyondHorizon', limit: last.toString() })
    return reasons
  }

  /** Limits over all hosts: a session that several of them list is one. */
  function againstTotals(at: number): Reason[] {
    const date = dateIn(at, zone)
    const countWhere = (holds: (other: Temporal.PlainDate) => boolean) => new Set(query.hosts.flatMap(host => host.sessions)
      .filter(session => session.sameEventType && holds(dateIn(secondsOf(session.start), zone))).map(session => session.id)).size
    const reasons: Reason[] = []
    const [daily, weekly] = [eventType.totalDailyLimit, eventType.totalWeeklyLimit]
    const inDay = countWhere(other => other.equals(date))
    const inWeek = countWhere(other => other.yearOfWeek === date.yearOfWeek && other.weekOfYear === date.weekOfYear)
    if (daily !== null && inDay >= daily) reasons.push({ code: 'totalDailyLimit', count: inDay, limit: daily })
    if (weekly !== null && inWeek >= weekly) reasons.push({ code: 'totalWeeklyLimit', count: inWeek, limit: weekly })
    return reasons
  }

  function horizon(): [Temporal.PlainDate | null, Temporal.PlainDate | null] {
    const rule = eventType.horizon
    const today = dateIn(now, zone)
    if (rule.kind === 'open') return [null, null]
    if (rule.kind === 'dates')
      return [rule.from ? Temporal.PlainDate.from(rule.from) : null, rule.to ? Temporal.PlainDate.from(rule.to) : null]
    if (rule.kind === 'rolling') return [null, today.add({ days: rule.days })]
    let date = today
    for (let counted = 0; counted < rule.days;) {
      date = date.add({ days: 1 })
      if (date.dayOfWeek <= 5 && !rule.holidays.includes(date.toString())) counted++
    }
    return [null, date]
  }

  /** Rule 8. */
  function sharedAt(at: number): { joinable: { id: string, left: number } | null, full: boolean } {
    if (eventType.seats === 1) return { joinable: null, full: false }
    const same = query.hosts
      .flatMap(host => host.sessions)
      .filter(item => item.sameEventType && secondsOf(item.start) === at && secondsOf(item.end) === at + duration)
    const joinable = same.map(item => ({ id: item.id, left: eventType.seats - item.seatsTaken })).filter(item => item.left > 0)
      .sort((a, b) => b.left - a.left || byId(a.id, b.id))[0] ?? null
    return { joinable, full: joinable === null && same.length > 0 }
  }

  function decide(at: number, explaining = false): { opening: Opening | null, reasons: Reason[] } {
    const common = againstStart(at)
    const { joinable, full } = sharedAt(at)
    const span = { start: textOf(at), end: textOf(at + duration) }
    if (joinable)
      return {
        opening: common.length === 0 ? { ...span, able: {}, seatsLeft: joinable.left, session: joinable.id } : null,
        reasons: common,
      }
    common.push(...againstTotals(at))
    const reasons = [...common]
    if (!onGrid.has(at)) {
      const sameDate = grid.filter(item => dateIn(item, zone).equals(dateIn(at, zone)))
      const [earlier, later] = [sameDate.filter(item => item < at).at(-1), sameDate.find(item => item > at)]
      reasons.push({
        code: 'offGrid',
        before: earlier === undefined ? null : textOf(earlier),
        after: later === undefined ? null : textOf(later),
      })
    }
    const unable = new Set<string>()
    const heard = new Set<string>()
    for (const host of pools.flat()) {
      if (heard.has(host.id)) continue
      heard.add(host.id)
      const found = against(host, at, explaining)
      if (found.length > 0) unable.add(host.id)
      reasons.push(...found)
    }
    const able = pools.map(pool => pool.map(host => host.id).filter(id => !unable.has(id)).sort(byId))
    if (full) reasons.push({ code: 'full' })
    if (able.every(ids => ids.length > 0) && !canFill(able)) reasons.push({ code: 'noDistinctHosts' })
    const offered = common.length === 0 && onGrid.has(at) && canFill(able)
    if (!offered) return { opening: null, reasons }
    return {
      opening: {
        ...span,
        able: Object.fromEntries(eventType.chairs.map((chair, i) => [chair.id, able[i] ?? []])),
        seatsLeft: eventType.seats,
      },
      reasons: [],
    }
  }

  const joinableStarts = query.hosts.flatMap(host => host.sessions).map(item => secondsOf(item.start)).filter(at => sharedAt(at).joinable)
  const asked = [...new Set([...grid, ...joinableStarts])].filter(at => at >= from && at < to).sort((a, b) => a - b)
  const openings = asked.map(at => decide(at).opening).filter(item => item !== null)
  if (!query.explain) return { openings }
  return {
    openings,
    explanations: explained.map((at) => {
      const { opening, reasons } = decide(at, true)
      return { at: textOf(at), offered: opening !== null, reasons }
    }),
  }
}

/** Rule 7 by trying everything. */
function canFill(able: string[][], taken: string[] = []): boolean {
  const [first, ...rest] = able
  return first === undefined || first.some(host => !taken.includes(host) && canFill(rest, [...taken, host]))
}

function minuteOf(clock: string): number {
  const [hour = 0, minute = 0] = clock.split(':').map(Number)
  return hour * 60 + minute
}

function wallClock(date: Temporal.PlainDate, minute: number, zone: string): number {
  const day = minute === 1440 ? date.add({ days: 1 }) : date
  const clock = new Temporal.PlainTime(Math.floor(minute / 60) % 24, minute % 60)
  return day.toPlainDateTime(clock).toZonedDateTime(zone, { disambiguation: 'compatible' }).epochMilliseconds / 1000
}

function sorted<Block extends { start: string, end: string }>(blocks: readonly Block[]): (Block & { from: number, to: number })[] {
  return blocks
    .map(block => ({ ...block, from: secondsOf(block.start), to: secondsOf(block.end) }))
    .sort((a, b) => a.from - b.from || a.to - b.to)
}

/** The largest step that meets every instant of the query. */
function tickOf(query: OpeningsQuery): number {
  const instants = [query.openedOver, query.hosts.flatMap(host => host.busy), query.hosts.flatMap(host => host.sessions)]
    .flat()
    .flatMap(item => [item.start, item.end])
  const divisor = (a: number, b: number): number => (b === 0 ? a : divisor(b, a % b))
  return [...instants, ...(query.explain ?? [])].reduce((tick, text) => divisor(tick, secondsOf(text) % 60), 60)
}
