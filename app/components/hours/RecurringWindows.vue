<script setup lang="ts">
import { VBtn } from 'vuetify/components'
import type { StoredPlan } from '~~/core/hours/plan'
import { type CommonRule, monthPlaces, formatOrdinal, describeRule, writeRule } from '~~/core/hours/rule'
import { dateToDays, formatDate, parseClock, parseDate, type Weekday, weekdayNames, weekdays } from '~~/core/time/civil'
import { formatMonthDay, formatWeekday } from '~~/core/time/format'
import { recurringDays } from '~~/core/openings/recurring'
import ClockField from '~/components/desk/ClockField.vue'

/** Windows that come back otherwise than every week, built without knowing how such rules are written. */

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
    ? 'no date within a year'
    : `next ${dates.map(day => `${formatWeekday(day, 'short', props.locale)} ${formatMonthDay(day, 'short', props.locale)}`).join(', ')}`
}

function faultOf(): string {
  if (kind.value === 'weeks' && days.value.length === 0) return 'Choose at least one day'
  if ((kind.value === 'weeks' || kind.value === 'days') && !(Number.isInteger(every.value) && every.value >= 1 && every.value <= 52))
    return 'Every 1 to 52'
  if (kind.value === 'monthDay' && !(monthDay.value >= 1 && monthDay.value <= 31)) return 'A day from 1 to 31'
  if (parseDate(start.value) === null) return 'Write the date it is counted from'
  const [begins, ends] = [parseClock(from.value), parseClock(to.value, true)]
  if (begins === null || ends === null) return 'Write when it begins and ends'
  return ends <= begins ? 'It ends before it begins' : ''
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

function chooseDay(day: Weekday, event: Event): void {
  const on = event.target instanceof HTMLInputElement && event.target.checked
  days.value = on ? [...days.value, day] : days.value.filter(other => other !== day)
}
</script>

<template>
  <div class="recurring">
    <ul v-if="plan.recurring.length > 0">
      <li v-for="(window, index) in plan.recurring" :key="index">
        <span><strong>{{ describeRule(window.rrule) }}, {{ window.from }}–{{ window.to }}</strong> <span class="quiet">{{ datesOf(window) }}</span></span>
        <LinkButton
          v-if="!disabled" :aria-label="`Remove ${describeRule(window.rrule)}`"
          @click="remove(index)"
        >Remove</LinkButton>
      </li>
    </ul>
    <p v-else class="quiet">None.</p>
    <form v-if="adding" class="builder" @submit.prevent="add">
      <label>It comes back
        <select v-model="kind">
          <option value="weeks">every few weeks</option>
          <option value="monthWeekday">on a weekday of the month</option>
          <option value="monthDay">on a day of the month</option>
          <option value="days">every few days</option>
        </select>
      </label>
      <label v-if="kind === 'weeks' || kind === 'days'">every <input v-model.number="every" type="number" min="1" max="52"> {{ kind === 'weeks' ? 'weeks' : 'days' }}</label>
      <span v-if="kind === 'weeks'" class="days" role="group" aria-label="Days of the week">
        <label v-for="day in weekdays" :key="day"><input type="checkbox" :checked="days.includes(day)" @change="chooseDay(day, $event)"> {{ weekdayNames[day].slice(0, 2) }}<span class="visually-hidden">{{ weekdayNames[day].slice(2) }}</span></label>
      </span>
      <template v-if="kind === 'monthWeekday'">
        <label>the <select v-model.number="nth"><option v-for="place in monthPlaces" :key="place" :value="place">{{ formatOrdinal(place) }}</option></select></label>
        <label><span class="visually-hidden">weekday</span><select :value="days[0]" @change="days = [($event.target as HTMLSelectElement).value as Weekday]"><option v-for="day in weekdays" :key="day" :value="day">{{ weekdayNames[day] }}</option></select></label>
      </template>
      <label v-if="kind === 'monthDay'">day <input v-model.number="monthDay" type="number" min="1" max="31"></label>
      <label>counted from <input v-model="start" type="date"></label>
      <label>from <ClockField v-model="from" :locale="locale" /></label>
      <label>to <ClockField v-model="to" :locale="locale" as-end /></label>
      <p class="result">{{ describeRule(writeRule(rule)) }}: <span class="quiet">{{ faultOf() || datesOf({ rrule: writeRule(rule), start }) }}</span></p>
      <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
      <span class="actions"><VBtn type="submit" size="small">Add this window</VBtn> <LinkButton @click="adding = false">Cancel</LinkButton></span>
    </form>
    <LinkButton v-else-if="!disabled" @click="adding = true">Add a recurring window</LinkButton>
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

li strong::first-letter {
  text-transform: uppercase;
}

.builder {
  margin-top: 8px;
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 8px 14px;
  border-left: 3px solid var(--marigold);
  background: var(--surface);
  padding: 10px 14px;
}

.builder select,
.builder input:not([type='checkbox']) {
  border: 1px solid var(--quiet);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 4px 6px;
}

.builder input[type='number'] {
  width: 4rem;
}

.days {
  display: flex;
  gap: 10px;
}

.result {
  flex-basis: 100%;
}

.result::first-letter {
  text-transform: uppercase;
}

.actions {
  display: flex;
  gap: 16px;
  align-items: baseline;
}
</style>
