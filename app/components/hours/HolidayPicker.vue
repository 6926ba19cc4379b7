<script setup lang="ts">
import { calendarKey, type Holiday, type HolidayCalendar, type HolidayDates, type StoredPlan } from '~~/core/hours/plan'
import { dateToDays } from '~~/core/time/civil'
import { formatMonthDay } from '~~/core/time/format'
import { problemOf } from '~/composables/problem'

/** Public holidays of countries and regions, on which the plan is closed. */

const props = defineProps<{ locale: string, today: number, disabled?: boolean }>()
const plan = defineModel<StoredPlan>({ required: true })
const holidays = defineModel<HolidayDates>('holidays', { required: true })

interface Country { code: string, name: string, regions: { code: string, name: string }[] }
const countries = ref<Country[]>([])
const fault = ref('')

onMounted(async () => {
  try {
    countries.value = await $fetch<Country[]>('/api/desk/holidays')
  } catch (error) {
    fault.value = problemOf(error).message
  }
})

const countryOf = (calendar: HolidayCalendar) => countries.value.find(country => country.code === calendar.country)

function nameOf(calendar: HolidayCalendar): string {
  const country = countryOf(calendar)
  const region = country?.regions.find(candidate => candidate.code === calendar.region)
  return [country?.name ?? calendar.country, region?.name ?? calendar.region].filter(Boolean).join(', ')
}

async function use(calendars: HolidayCalendar[]): Promise<void> {
  fault.value = ''
  try {
    const missing = calendars.filter(calendar => !holidays.value[calendarKey(calendar)])
    const found = await Promise.all(
      missing.map(
        async calendar =>
          [
            calendarKey(calendar),
            await $fetch<Holiday[]>('/api/desk/holidays/dates', { query: { country: calendar.country, region: calendar.region ?? '' } }),
          ] as const,
      ),
    )
    holidays.value = { ...holidays.value, ...Object.fromEntries(found) }
    plan.value = { ...plan.value, holidays: calendars }
  } catch (error) {
    fault.value = problemOf(error).message
  }
}

async function add(event: Event): Promise<void> {
  if (!(event.target instanceof HTMLSelectElement) || !event.target.value) return
  const country = event.target.value
  event.target.value = ''
  if (!plan.value.holidays.some(holiday => holiday.country === country && holiday.region === null))
    await use([...plan.value.holidays, { country, region: null }])
}

async function setRegion(index: number, event: Event): Promise<void> {
  if (!(event.target instanceof HTMLSelectElement)) return
  const region = event.target.value || null
  await use(plan.value.holidays.map((holiday, i) => (i === index ? { ...holiday, region } : holiday)))
}

function nextOf(calendar: HolidayCalendar): string {
  const next = (holidays.value[calendarKey(calendar)] ?? []).find(holiday => dateToDays(holiday.date) >= props.today)
  return next ? `next ${next.name}, ${formatMonthDay(dateToDays(next.date), 'long', props.locale)}` : ''
}
</script>

<template>
  <div>
    <ul v-if="plan.holidays.length > 0">
      <li v-for="(calendar, index) in plan.holidays" :key="calendarKey(calendar)">
        <strong>{{ nameOf(calendar) }}</strong>
        <select
          v-if="!disabled && (countryOf(calendar)?.regions.length ?? 0) > 0" :value="calendar.region ?? ''"
          :aria-label="`Region of ${countryOf(calendar)?.name}`" @change="setRegion(index, $event)"
        >
          <option value="">the whole country</option>
          <option v-for="region in countryOf(calendar)?.regions" :key="region.code" :value="region.code">{{ region.name }}</option>
        </select>
        <span class="quiet">{{ nextOf(calendar) }}</span>
        <LinkButton
          v-if="!disabled" :aria-label="`Remove the holidays of ${nameOf(calendar)}`"
          @click="use(plan.holidays.filter((_, i) => i !== index))"
        >Remove</LinkButton>
      </li>
    </ul>
    <p v-else class="quiet">None: clients can book on public holidays.</p>
    <select v-if="!disabled && plan.holidays.length < 5" aria-label="Add the holidays of a country" value="" @change="add">
      <option value="">Add the holidays of …</option>
      <option v-for="country in countries" :key="country.code" :value="country.code">{{ country.name }}</option>
    </select>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
}

li {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 12px;
  padding: 4px 0;
}

select {
  border: 1px solid var(--quiet);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 4px 6px;
  max-width: 18rem;
}
</style>
