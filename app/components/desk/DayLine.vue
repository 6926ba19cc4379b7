<script setup lang="ts">
import { NuxtLink } from '#components'
import { texts } from '~/locales/desk'
import { formatHour, formatShortDifference, formatTime, formatZone, zoneDifference } from '~~/core/time/format'
import { zoneOf } from '~~/core/time/zone'
import { isFailing } from '~~/core/booking/waiting'
import type { SessionCard, TodayView } from '~~/core/views/desk'
import ShowAll from '~/components/ShowAll.vue'
import { useFirstRows } from '~/composables/first-rows'

/** The day as a vertical time line with a lane per host. */

const props = defineProps<{
  hosts: TodayView['hosts']
  cards: readonly SessionCard[]
  /** Shown among the others, and marked as such. */
  cancelled: readonly SessionCard[]
  /** The local date, in days since 1970-01-01. */
  day: number
  zone: string
  locale: string
  now: number
}>()

const HOUR_PIXELS = 61
const SHORTEST_PIXELS = 19
const [USUAL_START, USUAL_END] = [8, 18]

const dayStart = computed(() => zoneOf(props.zone).startOfDay(props.day))
const all = computed(() => [...props.cards, ...props.cancelled])
const hoursInto = (instant: number) => (instant - dayStart.value) / 3600
const first = computed(() => Math.floor(Math.min(USUAL_START, ...all.value.map(card => hoursInto(card.start)))))
const last = computed(() => Math.min(24, Math.ceil(Math.max(USUAL_END, ...all.value.map(card => hoursInto(card.end))))))
const hours = computed(() => Array.from({ length: last.value - first.value + 1 }, (_, i) => first.value + i))
const top = (instant: number) => (hoursInto(instant) - first.value) * HOUR_PIXELS
const isShown = computed(() => hoursInto(props.now) >= first.value && hoursInto(props.now) <= last.value)

/** In a large team one's own lane and those with sessions come first, and the rest once somebody asks. */
const MOST_LANES = 8
const byDay = computed(() => {
  if (props.hosts.length <= MOST_LANES) return props.hosts
  const busy = new Set(all.value.flatMap(card => card.hosts.map(host => host.id)))
  const rank = (host: TodayView['hosts'][number]) => (host.own ? 0 : busy.has(host.id) ? 1 : 2)
  return [...props.hosts].sort((a, b) => rank(a) - rank(b))
})
const shown = useFirstRows(() => byDay.value, MOST_LANES)

const lanes = computed(() => shown.shown.map(host => ({
  ...host,
  where: `${host.own ? 'you · ' : ''}${formatZone(host.timeZone)}${difference(host.timeZone)}`,
  cards: all.value.filter(card => card.hosts.some(candidate => candidate.id === host.id)),
})))

function difference(zone: string): string {
  const minutes = zoneDifference(zone, props.zone, props.now)
  return minutes === 0 ? '' : ` ${formatShortDifference(minutes)}`
}

function stateOf(card: SessionCard): { kind: string, text: string } {
  if (props.cancelled.includes(card)) return { kind: 'cancelled', text: 'cancelled' }
  if (card.end <= props.now) return { kind: 'past', text: '' }
  if (card.room && isFailing(card.room)) return { kind: 'failing', text: texts.noLinkYet }
  if (card.bookings.some(booking => booking.state === 'awaitingApproval')) return { kind: 'asked', text: texts.toApproveState }
  if (card.start <= props.now) return { kind: 'now', text: 'now' }
  return { kind: 'ahead', text: '' }
}

function describe(card: SessionCard): string {
  return [...card.bookings.map(booking => booking.client), card.eventType, stateOf(card).text].filter(Boolean).join(' · ')
}
</script>

<template>
  <ShowAll :total="shown.total" @show="shown.showAll" />
  <div class="day-line" :style="{ '--lanes': lanes.length, '--lane': lanes.length > MOST_LANES ? '120px' : '0px' }">
    <div class="heads">
      <span />
      <h3
        v-for="lane in lanes" :key="lane.id" :title="`${lane.name}, ${lane.where}`"
      >{{ lane.name.split(' ')[0] }} <small>{{ lane.where }}</small></h3>
    </div>
    <div class="body" :style="{ height: `${(last - first) * HOUR_PIXELS + 8}px` }">
      <div class="clock" aria-hidden="true">
        <span
          v-for="hour in hours" :key="hour" :style="{ top: `${(hour - first) * HOUR_PIXELS}px` }"
        >{{ formatHour(hour % 24, locale) }}</span>
      </div>
      <ol
        v-for="lane in lanes" :key="lane.id" class="lane" :aria-label="texts.sessionsOf(lane.name)"
        :style="{ '--hour': `${HOUR_PIXELS}px` }"
      >
        <li
          v-for="card in lane.cards" :key="card.id" :class="[stateOf(card).kind, { short: card.end - card.start < 2400 }]"
          :style="{ top: `${top(card.start)}px`, height: `${Math.max(SHORTEST_PIXELS, (card.end - card.start) / 3600 * HOUR_PIXELS - 1)}px` }"
        >
          <component :is="card.open ? NuxtLink : 'div'" v-bind="card.open ? { to: `/desk/sessions/${card.id}` } : {}" class="card" :title="describe(card)">
            <strong>{{ formatTime(card.start, zone, locale) }}</strong> <bdi>{{ describe(card) }}</bdi>
          </component>
        </li>
      </ol>
      <div v-if="isShown" class="now-line" :style="{ top: `${top(now)}px` }"><span>{{ formatTime(now, zone, locale) }}</span></div>
    </div>
  </div>
</template>

<style scoped>
.day-line {
  overflow-x: auto;
}

.heads,
.body {
  display: grid;
  grid-template-columns: 44px repeat(var(--lanes), minmax(var(--lane), 1fr));
  gap: 8px;
}

.heads {
  margin-bottom: 6px;
}

.heads h3 {
  font-family: var(--body);
  font-size: 14px;
  font-weight: 600;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}

.heads small {
  font-weight: 400;
  font-size: 12px;
  color: var(--quiet);
}

.body {
  position: relative;
}

.clock span {
  position: absolute;
  left: 0;
  width: 40px;
  text-align: right;
  font-size: 12px;
  color: var(--quiet);
  transform: translateY(-8px);
}

.lane {
  position: relative;
  list-style: none;
  margin: 0;
  padding: 0;
  background: repeating-linear-gradient(to bottom, var(--line) 0 1px, var(--surface) 1px var(--hour));
}

.lane li {
  position: absolute;
  /* Words stand before the line of the present. */
  z-index: 1;
  left: 4px;
  right: 4px;
  border-left: 3px solid var(--aubergine);
  background: var(--aubergine-tint);
  border-radius: 0 var(--corner) var(--corner) 0;
  overflow: hidden;
}

.lane .card {
  display: block;
  height: 100%;
  padding: 0 8px;
  font-size: 12.5px;
  line-height: 18px;
  color: var(--ink);
  text-decoration: none;
  overflow: hidden;
}

.lane .short .card {
  white-space: nowrap;
  text-overflow: ellipsis;
}

.lane .past {
  border-left-color: var(--hatch);
  background: var(--paper);
}

.lane .past .card {
  color: var(--quiet);
}

.lane .now {
  border-left-color: var(--marigold);
  background: var(--marigold-tint);
}

.lane .failing {
  border-left-color: var(--brick);
  background: var(--brick-tint);
}

.lane .cancelled {
  border-left-style: dashed;
  border-left-color: var(--hatch);
  background: var(--paper);
}

.lane .cancelled bdi {
  text-decoration: line-through;
  color: var(--quiet);
}

.lane .asked {
  border-left-style: dashed;
  background: var(--surface);
  box-shadow: inset 0 0 0 1px var(--line);
}

.now-line {
  position: absolute;
  left: 0;
  right: 0;
  border-top: 2px solid var(--marigold);
  pointer-events: none;
}

.now-line span {
  position: absolute;
  left: 0;
  top: -10px;
  background: var(--marigold);
  color: var(--on-marigold);
  border-radius: 3px;
  padding: 0 5px;
  font-size: 12px;
  font-weight: 700;
}
</style>
