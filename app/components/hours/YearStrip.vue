<script setup lang="ts">
import { texts } from '~/locales/hours'
import { VBtn, VTextField } from 'vuetify/components'
import type { HolidayDates, StoredPlan } from '~~/core/hours/plan'
import { exceptionRuns, plannedDays, type PlannedDay, setExceptions } from '~~/core/hours/year'
import { civilOf, daysOf, weekdayIndex } from '~~/core/time/civil'
import { formatHoursTextError } from '~~/core/catalogue/hours'
import { HoursTextError, parseDayHours, formatWindow } from '~~/core/time/hours-text'
import { formatMonthDay, formatList, formatWeekday } from '~~/core/time/format'

/** Twelve months, a row each: dragging over days gives them hours of their own, or none. */

const props = defineProps<{ holidays: HolidayDates, today: number, locale: string, disabled?: boolean }>()
const plan = defineModel<StoredPlan>({ required: true })

const MONTHS = 12
const firstMonth = computed(() => {
  const { year, month } = civilOf(props.today)
  return { year, month }
})
const monthStart = (index: number) =>
  daysOf(firstMonth.value.year + Math.floor((firstMonth.value.month - 1 + index) / 12), ((firstMonth.value.month - 1 + index) % 12) + 1, 1)
const days = computed(() => plannedDays(plan.value, props.holidays, monthStart(0), monthStart(MONTHS) - 1))
const months = computed(() => Array.from({ length: MONTHS }, (_, index) => {
  const first = monthStart(index)
  return {
    first,
    name: new Intl.DateTimeFormat(props.locale, { timeZone: 'UTC', month: 'short', year: '2-digit' }).format(first * 86_400_000),
    days: days.value.filter(day => day.day >= first && day.day < monthStart(index + 1)),
  }
}))

const chosen = ref<{ from: number, to: number } | null>(null)
const dragging = ref(false)
const entry = ref(props.today)
const hours = ref('10:00-13:00')
const fault = ref('')
const root = useTemplateRef<HTMLElement>('root')
const range = computed(() =>
  chosen.value ? { first: Math.min(chosen.value.from, chosen.value.to), last: Math.max(chosen.value.from, chosen.value.to) } : null,
)

function begin(event: PointerEvent, day: number): void {
  if (props.disabled || event.button !== 0) return
  // A finger holds on to the first day it touched; the others must hear of it too.
  if (event.target instanceof Element && event.target.hasPointerCapture(event.pointerId))
    event.target.releasePointerCapture(event.pointerId)
  dragging.value = true
  entry.value = day
  chosen.value = event.shiftKey && chosen.value ? { ...chosen.value, to: day } : { from: day, to: day }
}

function reach(event: PointerEvent): void {
  if (!dragging.value || !chosen.value) return
  const day = Number(document.elementFromPoint(event.clientX, event.clientY)?.closest<HTMLElement>('[data-day]')?.dataset['day'])
  if (day) chosen.value = { ...chosen.value, to: day }
}

const drop = () => (dragging.value = false)
onMounted(() => ['pointerup', 'pointercancel'].forEach(name => window.addEventListener(name, drop)))
onBeforeUnmount(() => ['pointerup', 'pointercancel'].forEach(name => window.removeEventListener(name, drop)))

const steps: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7, PageUp: -30, PageDown: 30 }

/** Where a stretch by keyboard began; null while none is being made. */
let anchor: number | null = null

/** Arrows move by days and weeks; with Shift they choose a stretch. */
async function key(event: KeyboardEvent, day: number): Promise<void> {
  const step = steps[event.key]
  if (step === undefined) return
  event.preventDefault()
  const next = Math.min(monthStart(MONTHS) - 1, Math.max(monthStart(0), day + step))
  entry.value = next
  anchor = event.shiftKey ? anchor ?? day : null
  if (anchor !== null) chosen.value = { from: anchor, to: next }
  await nextTick()
  root.value?.querySelector<HTMLElement>(`[data-day="${next}"]`)?.focus()
}

function choose(day: number, event: MouseEvent): void {
  // Enter and Space arrive as a click without a pointer.
  if (event.detail === 0 && !props.disabled) chosen.value = { from: day, to: day }
}

function set(kind: 'closed' | 'hours' | 'usual'): void {
  if (!range.value) return
  fault.value = ''
  try {
    const windows = kind === 'usual' ? null : kind === 'closed' ? [] : parseDayHours(hours.value)
    plan.value = setExceptions(plan.value, range.value.first, range.value.last, windows)
    chosen.value = null
  } catch (error) {
    if (!(error instanceof HoursTextError)) throw error
    fault.value = formatHoursTextError(error)
  }
}

const kindLabels: Record<PlannedDay['kind'], string> = {
  open: texts.openAsUsual,
  closed: texts.closedAsUsual,
  exceptionOpen: texts.otherHours,
  exceptionClosed: 'closed',
  holiday: texts.closedForAHoliday,
  outside: texts.outsideThePlansDates,
}
const formatRunDay = (day: number) => `${formatWeekday(day, 'short', props.locale)} ${formatMonthDay(day, 'short', props.locale)}`
const formatRun = ({ first, last }: { first: number, last: number }) =>
  (first === last ? formatRunDay(first) : texts.daysFromTo(formatRunDay(first), formatRunDay(last)))
const describeDay = (day: PlannedDay) =>
  `${formatWeekday(day.day, 'long', props.locale)} ${formatMonthDay(day.day, 'long', props.locale)}, ${kindLabels[day.kind]}${day.holiday ? `: ${day.holiday}` : ''}${day.clockChange ? texts.theClocksChange : ''}`
const isChosen = (day: number) => range.value !== null && day >= range.value.first && day <= range.value.last
const runs = computed(() => exceptionRuns(plan.value).filter(run => run.last >= props.today))
</script>

<template>
  <div ref="root" class="year" @pointermove="reach">
    <div v-for="month in months" :key="month.first" class="month" role="group" :aria-label="month.name">
      <span class="name" aria-hidden="true">{{ month.name }}</span>
      <button
        v-for="day in month.days" :key="day.day" type="button" :data-day="day.day"
        :class="[
          day.kind,
          { chosen: isChosen(day.day), today: day.day === today, past: day.day < today, monday: weekdayIndex(day.day) === 0 },
        ]"
        :tabindex="day.day === entry ? 0 : -1" :aria-label="describeDay(day)" :title="describeDay(day)" :aria-pressed="isChosen(day.day)"
        @pointerdown="begin($event, day.day)" @keydown="key($event, day.day)" @click="choose(day.day, $event)"
      >{{ civilOf(day.day).day }}<i v-if="day.clockChange">±</i></button>
    </div>
    <p class="legend quiet" aria-hidden="true"><span class="open" /> {{ texts.open }} <span class="exceptionOpen" /> {{ texts.otherHours }} <span class="exceptionClosed" /> {{ texts.closedByHand }} <span class="holiday" /> {{ texts.holiday }} <b>±</b> {{ texts.clocksChangeKey }}</p>
    <form v-if="range" class="choice" @submit.prevent="set('hours')">
      <strong>{{ formatRun(range) }}</strong>
      <VBtn size="small" @click="set('closed')">{{ texts.closed }}</VBtn>
      <span>{{ texts.orOnly }}</span> <VTextField v-model="hours" class="hours-of-days" :aria-label="texts.hoursOfTheseDays" spellcheck="false" hide-details />
      <LinkButton type="submit">{{ texts.setTheseHours }}</LinkButton>
      <LinkButton @click="set('usual')">{{ texts.asUsual }}</LinkButton>
      <LinkButton @click="chosen = null">{{ texts.cancel }}</LinkButton>
      <span v-if="fault" class="broken" role="alert">{{ fault }}</span>
    </form>
    <p v-else class="quiet hint">{{ texts.yearStripHint }}</p>
    <ul v-if="runs.length > 0">
      <li v-for="run in runs" :key="run.first">
        {{ formatRun(run) }}: {{ run.windows.length === 0 ? texts.closedInList : formatList(run.windows.map(window => formatWindow(window, locale))) }}
        <LinkButton
          v-if="!disabled"
          :aria-label="texts.removeTheExceptionFrom(formatRunDay(run.first))"
          @click="plan = setExceptions(plan, run.first, run.last, null)"
        >{{ texts.remove }}</LinkButton>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.month {
  display: grid;
  grid-template-columns: 56px repeat(31, minmax(24px, 1fr));
  gap: 2px;
  margin-bottom: 2px;
  max-width: 1000px;
}

.name {
  color: var(--quiet);
  font-size: 12.5px;
  align-self: center;
}

.month button {
  position: relative;
  height: 24px;
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 0;
  font-size: 11px;
  background: var(--surface);
  color: var(--quiet);
  cursor: pointer;
  user-select: none;
  touch-action: none;
}

.month button.open,
.legend .open {
  background: var(--aubergine-tint);
  color: var(--ink);
}

.month button.exceptionOpen,
.legend .exceptionOpen {
  background: var(--surface);
  color: var(--ink);
  box-shadow: inset 0 0 0 2px var(--aubergine);
}

.month button.exceptionClosed,
.legend .exceptionClosed {
  background: repeating-linear-gradient(-45deg, var(--surface) 0 3px, var(--hatch) 3px 5px);
  color: var(--ink);
}

.month button.holiday,
.legend .holiday {
  background: var(--line);
  color: var(--ink);
  text-decoration: underline;
}

.month button.past,
.month button.outside {
  background: none;
  border-color: transparent;
  color: var(--quiet);
}

.month button.monday {
  border-left-color: var(--quiet);
}

.month button.today {
  outline: 2px solid var(--marigold);
  outline-offset: -1px;
}

.month button.chosen {
  background: var(--marigold);
  color: var(--on-marigold);
  box-shadow: none;
}

.month i {
  position: absolute;
  right: 1px;
  top: -2px;
  font-style: normal;
  font-weight: 700;
}

.legend {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 8px;
  margin: 8px 0;
  font-size: 12.5px;
}

.legend span {
  width: 18px;
  height: 14px;
  border: 1px solid var(--line);
  border-radius: 3px;
}

.choice {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 6px 14px;
  border-left: 3px solid var(--marigold);
  background: var(--surface);
  padding: 8px 14px;
}

.choice input {
  border: 1px solid var(--quiet);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 3px 6px;
  width: 11rem;
}

ul {
  margin: 8px 0 0;
  padding: 0;
  list-style: none;
}

li {
  padding: 3px 0;
}
</style>
