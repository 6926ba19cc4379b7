import { texts } from '~/locales/common'
import { DAY, formatDate, instantToSeconds } from '~~/core/time/civil'
import { problemOf } from '~/composables/problem'

export const VIEW_DAYS = 14
/** How far ahead a first opening is looked for. */
const SEARCHED_DAYS = 98
/** Days that one answer holds at any step. */
const PART_DAYS = 5

interface OpeningsAnswer {
  openings: { start: string, sameHosts?: boolean }[]
}

interface View {
  /** In days since 1970-01-01. */
  firstDay: number
  /** Instants in seconds. */
  starts: number[]
}

/** The openings of an event type, or for a booking that moves, around a view of days; at first those of the first view that has any. */
export function useEventTypeOpenings(
  path: string, now: number, choice: () => Record<string, string | number | undefined>,
) {
  // On the server, whoever is signed in sees their own pages before others do.
  const request = useRequestFetch()
  const today = Math.floor(now / DAY)
  /** Starts at which others than the present hosts would take a session that moves there. */
  const withOtherHosts = shallowReactive(new Set<number>())

  /** Starts from a day before to a day after the view, whatever zone it is read in. */
  async function load(firstDay: number, days: number): Promise<number[]> {
    try {
      return await loadBetween(firstDay - 1, firstDay + days)
    } catch (error) {
      // More than one answer holds: the finest steps are asked for in parts.
      if (days <= 1 || !isTooMany(error)) throw error
      const [first, last] = [firstDay - 1, firstDay + days]
      const begins = Array.from({ length: Math.ceil((last - first + 1) / PART_DAYS) }, (_, part) => first + part * PART_DAYS)
      return (await Promise.all(begins.map(begin => loadBetween(begin, Math.min(last, begin + PART_DAYS - 1))))).flat()
    }
  }

  async function loadBetween(first: number, last: number): Promise<number[]> {
    const answer = await request<OpeningsAnswer>(`${path}/openings`, {
      query: { from: formatDate(first), to: formatDate(last), timeZone: 'UTC', ...choice() },
    })
    return answer.openings.map(({ start, sameHosts }) => {
      const at = instantToSeconds(start)
      if (sameHosts === false) withOtherHosts.add(at)
      return at
    })
  }

  async function loadFirst(): Promise<View> {
    for (let firstDay = today; firstDay < today + SEARCHED_DAYS; firstDay += VIEW_DAYS) {
      const starts = await load(firstDay, VIEW_DAYS)
      const [first] = starts
      if (first === undefined) continue
      const day = Math.floor(first / DAY)
      return firstDay === today || day <= firstDay ? { firstDay, starts } : { firstDay: day, starts: await load(day, VIEW_DAYS) }
    }
    return { firstDay: today, starts: [] }
  }

  return { today, load, loadFirst, withOtherHosts }
}

/** One view of days with its openings, which the timetable turns. `first`: the view that has been loaded already. */
export function useTurnedOpenings({ today, load, loadFirst }: ReturnType<typeof useEventTypeOpenings>, first: View | null = null) {
  const starts = ref(first?.starts ?? null)
  const firstDay = ref(first?.firstDay ?? today)
  const earliest = ref(firstDay.value)
  /** Before the first opening there is nothing to turn to. */
  const isAtStart = computed(() => firstDay.value <= earliest.value)
  const fault = ref('')

  async function show(find: () => Promise<View>): Promise<View | null> {
    try {
      const view = await find()
      starts.value = view.starts
      firstDay.value = view.firstDay
      fault.value = ''
      return view
    } catch {
      fault.value = texts.theTimesCouldNotBeLoaded
      return null
    }
  }

  async function begin(): Promise<View | null> {
    const view = await show(loadFirst)
    if (view) earliest.value = view.firstDay
    return view
  }

  async function turn(views: number): Promise<void> {
    const day = Math.max(today, firstDay.value + views * VIEW_DAYS)
    await show(async () => ({ firstDay: day, starts: await load(day, VIEW_DAYS) }))
  }

  /** As they are by now, where somebody was quicker. */
  async function reload(): Promise<void> {
    starts.value = await load(firstDay.value, VIEW_DAYS).catch(() => starts.value)
  }

  return { starts, firstDay, isAtStart, fault, begin, turn, reload }
}

function isTooMany(error: unknown): boolean {
  const { document } = problemOf(error)
  return document?.status === 400 && document.errors?.some(candidate => candidate.path === 'to') === true
}
