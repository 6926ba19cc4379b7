/** RFC 5545 rules over whole dates, date by date: as slow and as plain as can be. */

const names = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU']
const DAY = 86_400_000

/** A date as the calendar shows it; `days` counts from 1970-01-01. */
function dateOf(days: number) {
  const date = new Date(days * DAY)
  const [year, month] = [date.getUTCFullYear(), date.getUTCMonth() + 1]
  return {
    days, year, month,
    day: date.getUTCDate(),
    weekday: (date.getUTCDay() + 6) % 7,
    dayOfYear: days - Date.UTC(year, 0, 1) / DAY + 1,
    daysInMonth: new Date(Date.UTC(year, month, 0)).getUTCDate(),
    daysInYear: (Date.UTC(year + 1, 0, 1) - Date.UTC(year, 0, 1)) / DAY,
  }
}
const daysOf = (text: string) => Date.parse(`${text}T00:00:00Z`) / DAY

/** The dates that a rule yields from its start date to a last one. */
export function ruleDates(rule: string, start: string, last: string): Set<string> {
  const parts = new Map(rule.split(';').map(part => part.split('=') as [string, string]))
  const numbers = (name: string) => parts.get(name)?.split(',').map(Number)
  const [freq = '', interval] = [parts.get('FREQ'), Number(parts.get('INTERVAL') ?? 1)]
  const [byMonth, byMonthDay, byYearDay, bySetPos] = [numbers('BYMONTH'), numbers('BYMONTHDAY'), numbers('BYYEARDAY'), numbers('BYSETPOS')]
  const byDay = parts.get('BYDAY')?.split(',').map(text => ({ nth: Number(text.slice(0, -2)), weekday: names.indexOf(text.slice(-2)) }))
  const first = dateOf(daysOf(start))
  const until = parts.has('UNTIL') ? daysOf((parts.get('UNTIL') ?? '').replace(/(....)(..)(..)/, '$1-$2-$3')) : Infinity
  const weekStart = names.indexOf(parts.get('WKST') ?? 'MO')

  function matches(date: ReturnType<typeof dateOf>): boolean {
    if (byMonth && !byMonth.includes(date.month)) return false
    if (byMonthDay && !byMonthDay.some(day => date.day === (day > 0 ? day : date.daysInMonth + 1 + day))) return false
    if (byYearDay && !byYearDay.some(day => date.dayOfYear === (day > 0 ? day : date.daysInYear + 1 + day))) return false
    if (byDay && !byDay.some(({ nth, weekday }) => date.weekday === weekday && (nth === 0 || isNth(date, nth)))) return false
    if (byDay || byMonthDay || byYearDay) return true
    // What the rule leaves open comes from its start.
    if (freq === 'WEEKLY') return date.weekday === first.weekday
    if (freq === 'MONTHLY') return date.day === first.day
    return freq === 'DAILY' || (date.day === first.day && (byMonth !== undefined || date.month === first.month))
  }

  function isNth(date: ReturnType<typeof dateOf>, nth: number): boolean {
    const inYear = freq === 'YEARLY' && !byMonth
    const [day, many] = inYear ? [date.dayOfYear, date.daysInYear] : [date.day, date.daysInMonth]
    return nth > 0 ? Math.ceil(day / 7) === nth : Math.ceil((many + 1 - day) / 7) === -nth
  }

  /** Which period a date belongs to, counted from anywhere. */
  function periodOf({ year, month, days }: { year: number, month: number, days: number }): number {
    if (freq === 'YEARLY') return year
    if (freq === 'MONTHLY') return year * 12 + month
    return freq === 'WEEKLY' ? Math.floor((days + 3 - weekStart) / 7) : days
  }

  const found = new Set<string>()
  let left = Number(parts.get('COUNT') ?? Infinity)
  let set: number[] = []
  // From well before the start, since a period begins before it; to well after the last, since a period ends after it.
  const around = freq === 'YEARLY' ? 367 : 32
  let date = dateOf(first.days - around)
  for (let next; date.days <= daysOf(last) + around; date = next) {
    next = dateOf(date.days + 1)
    if ((periodOf(date) - periodOf(first)) % interval === 0 && periodOf(date) >= periodOf(first) && matches(date)) set.push(date.days)
    if (periodOf(next) === periodOf(date)) continue
    const picked = bySetPos ? set.filter((_, index) => bySetPos.includes(index + 1) || bySetPos.includes(index - set.length)) : set
    for (const day of picked) {
      if (day < first.days || day > until || left === 0) continue
      left--
      found.add(new Date(day * DAY).toISOString().slice(0, 10))
    }
    set = []
  }
  return found
}
