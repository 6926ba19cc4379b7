import { civilOf, formatDate, parseDate } from './civil'

/** Dates in figures, as people of a locale type them. */

/** The order of day, month and year in the locale. */
function orderOf(locale: string): Intl.DateTimeFormatPartTypes[] {
  return new Intl.DateTimeFormat(locale, { timeZone: 'UTC', day: '2-digit', month: '2-digit', year: 'numeric' })
    .formatToParts(0)
    .map(part => part.type)
    .filter(type => type !== 'literal')
}

/** "14/12/2026", or "12/14/2026" where the locale says so, of days since 1970-01-01. */
export function formatNumericDate(day: number, locale: string): string {
  const { year, month, day: date } = civilOf(day)
  const parts: Partial<Record<Intl.DateTimeFormatPartTypes, number>> = { year, month, day: date }
  return orderOf(locale).map(type => String(parts[type] ?? '').padStart(2, '0')).join('/')
}

/** Days since 1970-01-01 of a date in figures, in the locale's order or as `YYYY-MM-DD`; null for anything else. */
export function readDate(text: string, locale: string): number | null {
  const iso = parseDate(text.trim())
  if (iso !== null) return iso
  const figures = /^(\d{1,4})\D{1,3}(\d{1,4})\D{1,3}(\d{1,4})$/.exec(text.trim().replace(/\.$/, ''))?.slice(1)
  if (!figures) return null
  const part = (type: Intl.DateTimeFormatPartTypes) => figures[orderOf(locale).indexOf(type)] ?? ''
  const year = part('year').length === 2 ? `20${part('year')}` : part('year')
  return parseDate(`${year}-${part('month').padStart(2, '0')}-${part('day').padStart(2, '0')}`)
}

/** "14/12/2026" of a `YYYY-MM-DD`, or what cannot be read as it stands. */
export function showDate(date: string, locale: string): string {
  const day = parseDate(date)
  return day === null ? date : formatNumericDate(day, locale)
}

/** `YYYY-MM-DD` of what was typed; empty for nothing, null for what cannot be read. */
export function dateOfText(text: string, locale: string): string | null {
  if (text.trim() === '') return ''
  const day = readDate(text, locale)
  return day === null ? null : formatDate(day)
}
