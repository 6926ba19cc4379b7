<script setup lang="ts">
import { texts } from '~/locales/hours'
import { VBtn, VCheckbox, VNumberInput, VSelect } from 'vuetify/components'
import { capitalise } from '~~/core/catalogue/capitalise'
import type { StoredPlan } from '~~/core/hours/plan'
import { type CommonRule, monthPlaces, formatOrdinal, describeRule, writeRule } from '~~/core/hours/rule'
import { dateToDays, formatDate, parseClock, parseDate, type Weekday, weekdayNames, weekdays } from '~~/core/time/civil'
import { formatMonthDay, formatWeekday } from '~~/core/time/format'
import { recurringDays } from '~~/core/openings/recurring'
import { formatWindow } from '~~/core/time/hours-text'
import DateField from '~/components/fields/DateField.vue'
import ClockField from '~/components/desk/ClockField.vue'

/** Hours that recur otherwise than every week, built without knowing how such rules are written. */

const props = defineProps<{ today: number, locale: string, disabled?: boolean }>()
const plan = defineModel<StoredPlan>({ required: true })

const adding = ref(false)
const kind = ref<CommonRule['kind']>('weeks')
const every = ref(2)
const days = ref<Weekday[]>(['TH'])
const nth = ref<number>(1)
const monthDay = ref(1)
const start = ref(formatDate(props.today))
const from = ref('14:00')
const to = ref('16:00')
const fault = ref('')

const rule = computed<CommonRule>(() => ({
  weeks: { kind: 'weeks' as const, every: every.value, days: days.value },
  monthWeekday: { kind: 'monthWeekday' as const, nth: nth.value, day: days.value[0] ?? 'MO' },
  monthDay: { kind: 'monthDay' as const, day: monthDay.value },
  days: { kind: 'days' as const, every: every.value },
}[kind.value]))

/** The first dates that a window names, so that everybody sees what the rule means. */
function datesOf(window: { rrule: string, start: string }): string {
  const dates = [...recurringDays(window.rrule, dateToDays(window.start), props.today, props.today + 400)].slice(0, 3)
  return dates.length === 0
    ? texts.noDateWithinAYear
    : texts.nextDates(dates.map(day => `${formatWeekday(day, 'short', props.locale)} ${formatMonthDay(day, 'short', props.locale)}`).join(', '))
}

function faultOf(): string {
  if (kind.value === 'weeks' && days.value.length === 0) return texts.chooseAtLeastOneDay
  if ((kind.value === 'weeks' || kind.value === 'days') && !(Number.isInteger(every.value) && every.value >= 1 && every.value <= 52))
    return texts.numberOfWeeksFault
  if (kind.value === 'monthDay' && !(monthDay.value >= 1 && monthDay.value <= 31)) return texts.dayOfMonthFault
  if (parseDate(start.value) === null) return texts.countedFromFault
  const [begins, ends] = [parseClock(from.value), parseClock(to.value, true)]
  if (begins === null || ends === null) return texts.enterWhenItBeginsAndEnds
  return ends <= begins ? texts.itEndsBeforeItBegins : ''
}

function add(): void {
  fault.value = faultOf()
  if (fault.value) return
  plan.value = {
    ...plan.value,
    recurring: [...plan.value.recurring, { rrule: writeRule(rule.value), start: start.value, from: from.value, to: to.value }],
  }
  adding.value = false
}

const remove = (index: number) => (plan.value = { ...plan.value, recurring: plan.value.recurring.filter((_, i) => i !== index) })

const kinds: { value: CommonRule['kind'], title: string }[] = [
  { value: 'weeks', title: texts.everyFewWeeks },
  { value: 'monthWeekday', title: texts.onAWeekdayOfTheMonth },
  { value: 'monthDay', title: texts.onADayOfTheMonth },
  { value: 'days', title: texts.everyFewDays },
]
const places = monthPlaces.map(place => ({ value: place, title: formatOrdinal(place) }))
const dayNames = weekdays.map(day => ({ value: day, title: weekdayNames[day] }))
const firstDay = computed({ get: () => days.value[0] ?? 'MO', set: day => (days.value = [day]) })
</script>

<template>
  <div class="recurring">
    <ul v-if="plan.recurring.length > 0">
      <li v-for="(window, index) in plan.recurring" :key="index">
        <span><strong>{{ capitalise(describeRule(window.rrule)) }}, {{ formatWindow(window, locale) }}</strong> <span class="quiet">{{ datesOf(window) }}</span></span>
        <LinkButton
          v-if="!disabled" :aria-label="texts.removeNamed(describeRule(window.rrule))"
          @click="remove(index)"
        >{{ texts.remove }}</LinkButton>
      </li>
    </ul>
    <p v-else class="quiet">{{ texts.none }}</p>
    <form v-if="adding" class="builder" @submit.prevent="add">
      <VSelect v-model="kind" class="wide" :label="texts.repeats" :items="kinds" hide-details />
      <VNumberInput
        v-if="kind === 'weeks' || kind === 'days'" v-model="every" class="number" control-variant="stacked"
        :label="kind === 'weeks' ? texts.everyWeeks : texts.everyDays" :min="1" :max="52" hide-details
      />
      <div v-if="kind === 'weeks'" class="days" role="group" :aria-label="texts.daysOfTheWeek">
        <VCheckbox v-for="day in weekdays" :key="day" v-model="days" :value="day" :label="weekdayNames[day]" hide-details />
      </div>
      <template v-if="kind === 'monthWeekday'">
        <VSelect v-model="nth" class="short" :label="texts.whichOne" :items="places" hide-details />
        <VSelect v-model="firstDay" class="short" :label="texts.weekday" :items="dayNames" hide-details />
      </template>
      <VNumberInput
        v-if="kind === 'monthDay'" v-model="monthDay" class="number" control-variant="stacked" :label="texts.day" :min="1" :max="31" hide-details
      />
      <DateField v-model="start" class="wide" :label="texts.countedFrom" :locale="locale" />
      <ClockField v-model="from" :label="texts.from" :locale="locale" />
      <ClockField v-model="to" :label="texts.to" :locale="locale" as-end />
      <p class="result">{{ capitalise(describeRule(writeRule(rule))) }}: <span class="quiet">{{ faultOf() || datesOf({ rrule: writeRule(rule), start }) }}</span></p>
      <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
      <span class="actions"><VBtn type="submit" size="small">{{ texts.addTheseHours }}</VBtn> <LinkButton @click="adding = false">{{ texts.cancel }}</LinkButton></span>
    </form>
    <LinkButton v-else-if="!disabled" @click="adding = true">{{ texts.addRecurringHours }}</LinkButton>
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
  justify-content: space-between;
  gap: 16px;
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}

.builder {
  margin-top: 8px;
  display: flex;
  flex-wrap: wrap;
  align-items: flex-start;
  gap: 8px 14px;
  border-left: 3px solid var(--marigold);
  background: var(--surface);
  padding: 10px 14px;
}

.wide {
  flex: 0 0 230px;
}

.short {
  flex: 0 0 150px;
}

.number {
  flex: 0 0 160px;
}

.days {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
  flex-basis: 100%;
}

.result {
  flex-basis: 100%;
}

.actions {
  display: flex;
  gap: 16px;
  align-items: baseline;
}
</style>
