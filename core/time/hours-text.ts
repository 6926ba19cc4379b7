import { formatClock, parseClock, type Weekday, weekdayNames, weekdays } from './civil'
import { union } from './intervals'
import { formatEndOfWindow, formatList, formatTimeOfDay } from './format'

/** Weekly windows as typed text, in the weekday part of the public opening_hours notation, and as people say them. */

export interface WeeklyWindow {
  days: Weekday[]
  from: string
  to: string
}

export type HoursTextCode = 'notWeekly' | 'notDaysAndHours' | 'notADay' | 'notHours' | 'notATime' | 'endsBeforeStart' | 'overlap'

/** What cannot be read, by its code and the piece of text. */
export class HoursTextError extends Error {
  constructor(readonly code: HoursTextCode, readonly text: string) {
    super(code)
    this.name = 'HoursTextError'
  }
}

const names = ['Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa', 'Su']
const longNames = weekdays.map(day => weekdayNames[day])

/**
 * Reads "Mo-Th 09:00-12:30,13:30-17:00; Fr 10:00-13:00", "24/7", and hours without days for every day. A later rule for a
 * day replaces an earlier one, "off" or "closed" closes it.
 * Throws HoursTextError.
 */
export function parseHours(text: string): WeeklyWindow[] {
  const perDay: [number, number][][] = weekdays.map(() => [])
  for (const rule of text
    .split(';')
    .map(part =>
      part
        .trim()
        .replace(/^24\/7$/, 'Mo-Su 00:00-24:00')
        .replace(/^(?=\d)/, 'Mo-Su '),
    )
    .filter(Boolean)) {
    if (/\b(?:PH|SH|week|sunrise|sunset)\b|\[/.test(rule))
      throw new HoursTextError('notWeekly', rule)
    const match = /^([A-Za-z]{2}(?:\s*[-,]\s*[A-Za-z]{2})*)\s+(.+)$/.exec(rule)
    if (!match?.[1] || !match[2]) throw new HoursTextError('notDaysAndHours', rule)
    const windows = readWindows(match[2])
    for (const day of readDays(match[1])) perDay[day] = windows
  }
  return windowsOfWeek(perDay)
}

/** The windows of one day: "9:00-12:30,14:00-16:00". Throws HoursTextError. */
export function parseDayHours(text: string): { from: string, to: string }[] {
  return readWindows(text).map(([from, to]) => ({ from: formatClock(from), to: formatClock(to) }))
}

/** The inverse of `parseHours`; days with equal windows share one rule. */
export function formatHours(windows: readonly WeeklyWindow[]): string {
  return daysByWindows(windows)
    .map(({ days, hours }) => `${runsOf(days).map(([a, b]) => (a === b ? names[a] : `${names[a]}-${names[b]}`)).join(',')} ${hours
      .map(([from, to]) => `${formatClock(from)}-${formatClock(to)}`).join(',')}`)
    .join('; ')
}

/** "Tuesday to Thursday 9:00–12:00 and 13:00–14:00". */
export function describeWeek(windows: readonly WeeklyWindow[], locale: string): string {
  const groups = daysByWindows(windows).map(({ days, hours }) => {
    const names = runsOf(days).flatMap(([a, b]) =>
      b - a < 2 ? longNames.slice(a, b + 1) : [`${longNames[a]} to ${longNames[b]}`])
    return `${formatList(names)} ${formatList(hours.map(([from, to]) => formatMinutes(from, to, locale)))}`
  })
  return groups.length === 0 ? 'at no time' : groups.join('; ')
}

/** The merged windows of each weekday (Monday first), in minutes past midnight. */
export function minutesPerDay(windows: readonly WeeklyWindow[]): [number, number][][] {
  return weekdays.map((day) => {
    const flat = union(windows.filter(window => window.days.includes(day))
      .flatMap(window => [parseClock(window.from) ?? 0, parseClock(window.to, true) ?? 0]))
    return Array.from({ length: flat.length / 2 }, (_, i) => [flat[i * 2] ?? 0, flat[i * 2 + 1] ?? 0])
  })
}

/** "9:00–12:30", or "9:00 am–12:30 pm" where the locale says so. */
export function formatWindow(window: { from: string, to: string }, locale: string): string {
  return formatMinutes(parseClock(window.from) ?? 0, parseClock(window.to, true) ?? 0, locale)
}

/** As `formatWindow`, of minutes past midnight. */
export function formatMinutes(from: number, to: number, locale: string): string {
  return `${formatTimeOfDay(from, locale)}–${formatEndOfWindow(to, locale)}`
}

function readDays(text: string): number[] {
  return text.split(',').flatMap((part) => {
    const [first = -1, last = first] = part.split('-').map((name) => {
      const index = names.findIndex(known => known.toLowerCase() === name.trim().toLowerCase())
      if (index < 0) throw new HoursTextError('notADay', name.trim())
      return index
    })
    const length = ((last - first + 7) % 7) + 1
    return Array.from({ length }, (_, i) => (first + i) % 7)
  })
}

function readWindow(text: string): [number, number] {
  const match = /^(\d{1,2}:\d{2})\s*[-–]\s*(\d{1,2}:\d{2})$/.exec(text.trim())
  if (!match?.[1] || !match[2]) throw new HoursTextError('notHours', text.trim())
  const from = parseClock(match[1].padStart(5, '0'))
  const to = parseClock(match[2].padStart(5, '0'), true)
  if (from === null) throw new HoursTextError('notATime', match[1])
  if (to === null) throw new HoursTextError('notATime', match[2])
  if (to <= from) throw new HoursTextError('endsBeforeStart', text.trim())
  return [from, to]
}

function readWindows(text: string): [number, number][] {
  const sorted = /^(?:off|closed)$/.test(text.trim()) ? [] : text.split(',').map(readWindow).sort((a, b) => a[0] - b[0])
  sorted.forEach(([from], i) => {
    const before = sorted[i - 1]
    if (before && from < before[1]) throw new HoursTextError('overlap', text.trim())
  })
  return sorted
}

/** The inverse of `minutesPerDay`: days with an equal window share it. */
export function windowsOfWeek(perDay: readonly [number, number][][]): WeeklyWindow[] {
  const groups = new Map<string, WeeklyWindow>()
  perDay.forEach((windows, index) => {
    const day = weekdays[index]
    if (!day) return
    for (const [from, to] of windows) {
      const key = `${from}-${to}`
      const group = groups.get(key) ?? { days: [], from: formatClock(from), to: formatClock(to) }
      group.days.push(day)
      groups.set(key, group)
    }
  })
  return [...groups.values()].sort((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0))
}

function daysByWindows(windows: readonly WeeklyWindow[]): { days: number[], hours: [number, number][] }[] {
  const groups = new Map<string, { days: number[], hours: [number, number][] }>()
  minutesPerDay(windows).forEach((hours, day) => {
    if (hours.length === 0) return
    const key = JSON.stringify(hours)
    const group = groups.get(key) ?? { days: [], hours }
    group.days.push(day)
    groups.set(key, group)
  })
  return [...groups.values()]
}

/** Runs of days that follow each other. */
function runsOf(days: readonly number[]): [number, number][] {
  const runs: [number, number][] = []
  for (const day of days) {
    const last = runs.at(-1)
    if (last && last[1] === day - 1) last[1] = day
    else runs.push([day, day])
  }
  return runs
}
