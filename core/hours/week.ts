import { type WeeklyWindow, minutesPerDay, windowsOfWeek } from '../time/hours-text'
import { subtract, union } from '../time/intervals'

/** Painting on a week; days count from Monday (0), times are minutes past midnight. */

/** Opens or closes a stretch of one day. */
export function paintDay(windows: readonly WeeklyWindow[], day: number, from: number, to: number, open: boolean): WeeklyWindow[] {
  return changeDays(windows, [day], flat => (open ? union([...flat, from, to]) : subtract(flat, [from, to])))
}

/** Gives other days the windows of one. */
export function copyDay(windows: readonly WeeklyWindow[], from: number, to: readonly number[]): WeeklyWindow[] {
  const copied = minutesPerDay(windows)[from]?.flat() ?? []
  return changeDays(windows, to, () => copied)
}

export function isOpenAt(windows: readonly WeeklyWindow[], day: number, minute: number): boolean {
  return minutesPerDay(windows)[day]?.some(([from, to]) => from <= minute && minute < to) ?? false
}

function changeDays(
  windows: readonly WeeklyWindow[],
  days: readonly number[],
  change: (flat: readonly number[]) => readonly number[],
): WeeklyWindow[] {
  return windowsOfWeek(
    minutesPerDay(windows).map((pairs, day) => {
      if (!days.includes(day)) return pairs
      const flat = change(pairs.flat())
      return Array.from({ length: flat.length / 2 }, (_, i): [number, number] => [flat[i * 2] ?? 0, flat[i * 2 + 1] ?? 0])
    }),
  )
}
