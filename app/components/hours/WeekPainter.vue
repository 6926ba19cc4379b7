<script setup lang="ts">
import { texts } from '~/locales/hours'
import { VList, VListItem, VMenu } from 'vuetify/components'
import { copyDay, isOpenAt, paintDay } from '~~/core/hours/week'
import { weekdayNames, weekdays } from '~~/core/time/civil'
import { formatHour, formatTimeOfDay } from '~~/core/time/format'
import { formatMinutes, minutesPerDay, type WeeklyWindow } from '~~/core/time/hours-text'
import { useDesk } from '~/stores/desk'

/** A week to paint on: dragging from an empty place opens, from a painted one closes; quarter hours. */

const props = defineProps<{ wide?: boolean, disabled?: boolean }>()
const desk = useDesk()
const windows = defineModel<WeeklyWindow[]>({ required: true })

const SHORT = [texts.mo, texts.tu, texts.we, texts.th, texts.fr, texts.sa, texts.su]
const LONG = weekdays.map(day => weekdayNames[day])
const QUARTER = 15
const DAY_MINUTES = 1440

const week = computed(() => minutesPerDay(windows.value))
/** The stroke under way: from the quarter where it began to the one where it is. */
const stroke = ref<{ day: number, from: number, to: number, open: boolean } | null>(null)
const cursor = ref({ day: 0, minute: 540 })
const announcement = ref('')
const root = useTemplateRef<HTMLElement>('root')

function quarterAt(event: PointerEvent): number {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const share = Math.min(0.9999, Math.max(0, (event.clientX - box.left) / box.width))
  return Math.floor(share * DAY_MINUTES / QUARTER) * QUARTER
}

function begin(event: PointerEvent, day: number): void {
  if (props.disabled || event.button !== 0) return
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  const at = quarterAt(event)
  cursor.value = { day, minute: at }
  stroke.value = { day, from: at, to: at, open: !isOpenAt(windows.value, day, at) }
}

function go(event: PointerEvent): void {
  if (stroke.value) stroke.value = { ...stroke.value, to: quarterAt(event) }
}

function bounds({ from, to }: { from: number, to: number }): [from: number, to: number] {
  return [Math.min(from, to), Math.max(from, to) + QUARTER]
}

function end(): void {
  if (stroke.value) apply()
}

function apply(): void {
  if (!stroke.value) return
  const { day, open } = stroke.value
  const [from, to] = bounds(stroke.value)
  windows.value = paintDay(windows.value, day, from, to, open)
  announcement.value = `${LONG[day]} ${formatMinutes(from, to, desk.locale)} ${open ? 'opened' : 'closed'}`
  stroke.value = null
}

/** Arrows move by a quarter, with Shift by an hour; Space begins a stroke and ends it; Escape drops it. */
function key(event: KeyboardEvent, day: number): void {
  if (props.disabled) return
  const by = event.shiftKey ? 60 : QUARTER
  const moves: Record<string, () => void> = {
    'ArrowRight': () => moveTo(day, cursor.value.minute + by),
    'ArrowLeft': () => moveTo(day, cursor.value.minute - by),
    'Home': () => moveTo(day, 0),
    'End': () => moveTo(day, DAY_MINUTES - QUARTER),
    'ArrowDown': () => stroke.value === null && moveTo(Math.min(6, day + 1), cursor.value.minute),
    'ArrowUp': () => stroke.value === null && moveTo(Math.max(0, day - 1), cursor.value.minute),
    'Escape': () => (stroke.value = null),
    ' ': () => toggle(day),
    'Enter': () => toggle(day),
  }
  const move = moves[event.key]
  if (!move) return
  event.preventDefault()
  move()
}

function moveTo(day: number, minute: number): void {
  const at = Math.min(DAY_MINUTES - QUARTER, Math.max(0, minute))
  cursor.value = { day, minute: at }
  if (stroke.value) stroke.value = { ...stroke.value, to: at }
  root.value?.querySelectorAll<HTMLElement>('.track')[day]?.focus()
}

function toggle(day: number): void {
  const at = cursor.value.minute
  if (stroke.value) apply()
  else stroke.value = { day, from: at, to: at, open: !isOpenAt(windows.value, day, at) }
}

function valueText(day: number): string {
  const at = cursor.value.minute
  const now = isOpenAt(windows.value, day, at) ? 'open' : 'closed'
  return `${formatTimeOfDay(at, desk.locale)}, ${now}${stroke.value ? texts.strokeFrom(stroke.value.open ? 'opening' : 'closing', formatTimeOfDay(stroke.value.from, desk.locale)) : ''}`
}

const strokeStyle = computed(() => {
  if (!stroke.value) return {}
  const [from, to] = bounds(stroke.value)
  return { left: `${from / 14.4}%`, width: `${(to - from) / 14.4}%` }
})

/** Where a day can be copied to, by the indexes of days. */
const targets = (day: number) => [
  { name: texts.mondayToFriday, to: [0, 1, 2, 3, 4] },
  { name: texts.everyDay, to: [0, 1, 2, 3, 4, 5, 6] },
  ...LONG.map((name, index) => ({ name, to: [index] })).filter(({ to: [index] }) => index !== day),
]
function copy(day: number, to: readonly number[]): void {
  windows.value = copyDay(windows.value, day, to)
}

const hours = computed(() => (props.wide ? Array.from({ length: 12 }, (_, i) => i * 2) : [0, 6, 12, 18]))
</script>

<template>
  <div ref="root" class="painter" :class="{ wide }" role="group" :aria-label="texts.hoursOfTheWeek">
    <div class="ruler" aria-hidden="true">
      <span /><span class="scale"><i v-for="hour in hours" :key="hour" :style="{ left: `${hour / 0.24}%` }">{{ formatHour(hour, desk.locale) }}</i></span><span />
    </div>
    <div v-for="(pairs, day) in week" :key="day" class="day">
      <span aria-hidden="true">{{ wide ? LONG[day] : SHORT[day] }}</span>
      <span
        class="track" role="slider" :tabindex="disabled ? -1 : cursor.day === day ? 0 : -1" :aria-label="LONG[day]"
        aria-valuemin="0" :aria-valuemax="DAY_MINUTES" :aria-valuenow="cursor.minute"
        :aria-valuetext="valueText(day)" :aria-disabled="disabled" @pointerdown="begin($event, day)" @pointermove="go"
        @pointerup="end" @pointercancel="stroke = null"
        @focus="cursor = { ...cursor, day }" @keydown="key($event, day)"
      >
        <i
          v-for="[from, to] in pairs" :key="from" class="open"
          :style="{ left: `${from / 14.4}%`, width: `${(to - from) / 14.4}%` }"
        ><b v-if="wide && to - from >= 120">{{ formatMinutes(from, to, desk.locale) }}</b></i>
        <i v-if="stroke?.day === day" class="stroke" :class="{ closing: !stroke.open }" :style="strokeStyle" />
        <i class="cursor" :style="{ left: `${cursor.minute / 14.4}%`, width: `${QUARTER / 14.4}%` }" />
      </span>
      <VMenu v-if="!disabled">
        <template #activator="{ props: activator }">
          <LinkButton v-bind="activator" class="copy" :aria-label="texts.copyTo(LONG[day] ?? '')">{{ wide ? texts.copyToEllipsis : texts.copy }}</LinkButton>
        </template>
        <VList role="menu">
          <VListItem v-for="target in targets(day)" :key="target.name" role="menuitem" :title="target.name" @click="copy(day, target.to)" />
        </VList>
      </VMenu>
    </div>
    <p class="visually-hidden" role="status">{{ announcement }}</p>
  </div>
</template>

<style scoped>
.painter {
  font-size: 13px;
  user-select: none;
}

.day,
.ruler {
  display: grid;
  grid-template-columns: 24px 1fr 46px;
  gap: 6px;
  align-items: center;
  margin-bottom: 3px;
}

.wide .day,
.wide .ruler {
  grid-template-columns: 88px 1fr 92px;
  margin-bottom: 4px;
}

.scale {
  position: relative;
  height: 16px;
  color: var(--quiet);
  font-size: 11.5px;
}

.scale i {
  position: absolute;
  font-style: normal;
}

.track {
  position: relative;
  height: 24px;
  border-radius: 3px;
  background: var(--surface);
  border: 1px solid var(--line);
  cursor: crosshair;
  touch-action: pan-y;
  overflow: hidden;
}

.wide .track {
  height: 30px;
  background: repeating-linear-gradient(to right, var(--surface) 0 calc(100% / 12 - 1px), var(--line) calc(100% / 12 - 1px) calc(100% / 12));
}

.track i {
  position: absolute;
  top: 0;
  bottom: 0;
  pointer-events: none;
}

.open {
  background: var(--aubergine-soft);
}

.open b {
  display: block;
  color: var(--ink);
  font-style: normal;
  font-weight: 600;
  line-height: 28px;
  padding-left: 6px;
  white-space: nowrap;
  overflow: hidden;
}

.stroke {
  background: var(--marigold);
  opacity: 0.75;
}

.stroke.closing {
  background: repeating-linear-gradient(-45deg, var(--surface) 0 4px, var(--hatch) 4px 6px);
  opacity: 0.95;
}

.cursor {
  display: none;
}

.track:focus-visible .cursor {
  display: block;
  border: 2px solid var(--ink);
  min-width: 5px;
}

.copy {
  justify-self: end;
  font-size: 12px;
}
</style>
