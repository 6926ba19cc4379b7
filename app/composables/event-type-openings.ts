import { DAY, formatDate, instantToSeconds } from '~~/core/time/civil'

export const VIEW_DAYS = 14
/** How far ahead a first opening is looked for. An answer holds a few weeks of the finest steps. */
const SEARCHED_DAYS = 98

interface OpeningsAnswer {
  openings: { start: string }[]
}

/** The openings of an event type around a view of days; where the first view has none, the next that has some. */
export function useEventTypeOpenings(path: string, now: number, choice: () => { duration?: number, host?: string }) {
  // On the server, whoever is signed in sees their own pages before others do.
  const request = useRequestFetch()
  const today = Math.floor(now / DAY)

  /** Starts from a day before to a day after the view, whatever zone it is read in. */
  async function load(firstDay: number, days: number): Promise<number[]> {
    const answer = await request<OpeningsAnswer>(`${path}/openings`, {
      query: { from: formatDate(firstDay - 1), to: formatDate(firstDay + days), timeZone: 'UTC', ...choice() },
    })
    return answer.openings.map(opening => instantToSeconds(opening.start))
  }

  async function loadFirst(): Promise<{ firstDay: number, starts: number[] }> {
    for (let firstDay = today; firstDay < today + SEARCHED_DAYS; firstDay += VIEW_DAYS) {
      const starts = await load(firstDay, VIEW_DAYS)
      const [first] = starts
      if (first === undefined) continue
      const day = Math.floor(first / DAY)
      return firstDay === today || day <= firstDay ? { firstDay, starts } : { firstDay: day, starts: await load(day, VIEW_DAYS) }
    }
    return { firstDay: today, starts: [] }
  }

  return { today, load, loadFirst }
}
