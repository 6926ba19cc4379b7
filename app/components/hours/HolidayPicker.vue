<script setup lang="ts">
import { texts } from '~/locales/hours'
import { VAutocomplete, VSelect } from 'vuetify/components'
import { calendarKey, type Holiday, type HolidayCalendar, type HolidayDates } from '~~/core/hours/plan'
import { dateToDays } from '~~/core/time/civil'
import { formatMonthDay } from '~~/core/time/format'
import { countryName } from '~~/core/time/zone-choices'
import type { CountryChoice } from '~~/core/views/hours'
import { problemOf } from '~/composables/problem'

/** Holiday calendars of countries and regions. */

const props = defineProps<{ locale: string, today: number, none: string, disabled?: boolean }>()
const calendars = defineModel<readonly HolidayCalendar[]>({ required: true })
const holidays = defineModel<HolidayDates>('holidays', { required: true })

const MOST_CALENDARS = 5
const countries = ref<CountryChoice[]>([])
const fault = ref('')

onMounted(async () => {
  try {
    countries.value = await $fetch<CountryChoice[]>('/api/desk/holidays')
  } catch (error) {
    fault.value = problemOf(error).message
  }
})

const offered = computed(() => countries.value
  .map(({ code }) => ({ value: code, title: countryName(code, props.locale) }))
  .sort((a, b) => a.title.localeCompare(b.title, props.locale)))

const countryOf = (calendar: HolidayCalendar) => countries.value.find(country => country.code === calendar.country)
const regionsOf = (calendar: HolidayCalendar) => [
  { value: '', title: texts.theWholeCountry }, ...(countryOf(calendar)?.regions ?? []).map(({ code, name }) => ({ value: code, title: name })),
]

function nameOf(calendar: HolidayCalendar): string {
  const region = countryOf(calendar)?.regions.find(candidate => candidate.code === calendar.region)
  return [countryName(calendar.country, props.locale), region?.name ?? calendar.region].filter(Boolean).join(', ')
}

async function use(chosen: readonly HolidayCalendar[]): Promise<void> {
  fault.value = ''
  try {
    const missing = chosen.filter(calendar => !holidays.value[calendarKey(calendar)])
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
    calendars.value = chosen
  } catch (error) {
    fault.value = problemOf(error).message
  }
}

async function add(country: string | null): Promise<void> {
  if (country && !calendars.value.some(holiday => holiday.country === country && holiday.region === null))
    await use([...calendars.value, { country, region: null }])
}

const setRegion = (index: number, region: string) =>
  use(calendars.value.map((calendar, i) => (i === index ? { ...calendar, region: region || null } : calendar)))

function nextOf(calendar: HolidayCalendar): string {
  const next = (holidays.value[calendarKey(calendar)] ?? []).find(holiday => dateToDays(holiday.date) >= props.today)
  return next ? texts.next(next.name, formatMonthDay(dateToDays(next.date), 'long', props.locale)) : ''
}
</script>

<template>
  <div class="holidays">
    <ul v-if="calendars.length > 0">
      <li v-for="(calendar, index) in calendars" :key="calendarKey(calendar)">
        <strong>{{ nameOf(calendar) }}</strong>
        <VSelect
          v-if="!disabled && (countryOf(calendar)?.regions.length ?? 0) > 0" :model-value="calendar.region ?? ''" class="region"
          :items="regionsOf(calendar)" :aria-label="texts.regionOf(countryName(calendar.country, locale))" hide-details
          @update:model-value="setRegion(index, $event)"
        />
        <span class="quiet">{{ nextOf(calendar) }}</span>
        <LinkButton
          v-if="!disabled" :aria-label="texts.removeTheHolidaysOf(nameOf(calendar))"
          @click="use(calendars.filter((_, i) => i !== index))"
        >{{ texts.remove }}</LinkButton>
      </li>
    </ul>
    <p v-else class="quiet">{{ none }}</p>
    <VAutocomplete
      v-if="!disabled && calendars.length < MOST_CALENDARS" class="country" :label="texts.addTheHolidaysOfACountry" :model-value="null"
      :items="offered" auto-select-first hide-details @update:model-value="add"
    />
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

.region {
  flex: 0 0 220px;
}

.country {
  max-width: 360px;
  margin-top: 6px;
}
</style>
