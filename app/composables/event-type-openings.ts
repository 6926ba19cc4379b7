import { DAY, formatDate, instantToSeconds } from '~~/core/time/civil'

export const VIEW_DAYS = 14
const MOST_DAYS = 92

interface OpeningsAnswer {
  openings: { start: string }[]
}

/** The openings of an event type around a view of days; where the first view has none, the next that has some. */
export function useEventTypeOpenings(path: string, now: number, choice: () => { duration?: number, host?: string }) {
  const today = Math.floor(now / DAY)

  /** Starts from a day before to a day after the view, whatever zone it is read in. */
  async function load(firstDay: number, days: number): Promise<number[]> {
    const answer = await $fetch<OpeningsAnswer>(`${path}/openings`, {
      query: { from: formatDate(firstDay - 1), to: formatDate(firstDay + days), timeZone: 'UTC', ...choice() },
    })
    return answer.openings.map(opening => instantToSeconds(opening.start))
  }

  async function loadFirst(): Promise<{ firstDay: number, starts: number[] }> {
    const starts = await load(today, VIEW_DAYS)
    if (starts.length > 0) return { firstDay: today, starts }
    const [next] = await load(today + VIEW_DAYS, MOST_DAYS - 2)
    if (next === undefined) return { firstDay: today, starts: [] }
    const firstDay = Math.floor(next / DAY)
    return { firstDay, starts: await load(firstDay, VIEW_DAYS) }
  }

  return { today, load, loadFirst }
}
