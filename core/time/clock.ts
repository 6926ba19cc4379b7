import { parseClock } from './civil'

/**
 * Minutes past midnight of a time of day as people type it: "9", "9:30", "9.30", "17h", "0930", "5 pm"; "24:00" only
 * `asEnd`. Null for anything else.
 */
export function readClock(text: string, asEnd = false): number | null {
  const match = /^(\d{1,2})(?:[:.h]?(\d{2})|h)?\s*(?:([ap])\.?m\.?)?$/i.exec(text.trim())
  if (!match) return null
  const [, hours = '', minutes = '00', half] = match
  const hour = Number(hours)
  if (half && (hour < 1 || hour > 12)) return null
  const shown = half ? hour % 12 + (half.toLowerCase() === 'p' ? 12 : 0) : hour
  // As an end, midnight is the end of its day.
  if (asEnd && half && shown === 0 && minutes === '00') return 1440
  return parseClock(`${String(shown).padStart(2, '0')}:${minutes}`, asEnd)
}
