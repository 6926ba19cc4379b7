import { DAY, parseClock, parseDate } from '~~/core/time/civil'
import { zoneOf } from '~~/core/time/zone'

/** An instant in seconds, typed as a date and a time of day in a zone; null until both can be read. */
export function useTypedTime(zone: () => string) {
  const date = ref('')
  const clock = ref('')
  const typed = computed(() => {
    const [day, minutes] = [parseDate(date.value), parseClock(clock.value.trim())]
    return day === null || minutes === null ? null : zoneOf(zone()).toInstant(day * DAY + minutes * 60)
  })
  return { date, clock, typed }
}
