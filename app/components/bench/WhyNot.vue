<script setup lang="ts">
import { texts } from '~/locales/bench'
import type { Panel } from '~~/core/event-type/panels'
import { type ReasonText, formatReasons, formatSpanReasons } from '~~/core/catalogue/reasons'
import type { Explanation } from '~~/core/openings'
import { instantToSeconds } from '~~/core/time/civil'
import { formatDay, formatShortDay, formatTime } from '~~/core/time/format'
import { zoneOf } from '~~/core/time/zone'
import { firstNames } from '~/composables/first-names'
import type { Asked } from '~/composables/why-not'
import { useBench } from '~/stores/bench'
import { useDesk } from '~/stores/desk'

/** Why a time is not offered, in sentences, each with what would change it; of a span a summary, and its times to choose one. */

const props = defineProps<{ asked: Asked }>()
const emit = defineEmits<{ open: [panel: Panel], ask: [at: number], save: [instants: string[]], close: [] }>()
const bench = useBench()
const desk = useDesk()

const MOST_TIMES = 24

const time = (instant: number) => formatTime(instant, desk.zone, desk.locale)
const day = (instant: number) => formatDay(instant, desk.zone, desk.locale, bench.now)
const dayOf = (instant: number) => zoneOf(desk.zone).dayOf(instant)

const explanation = computed(() => (props.asked.kind === 'time' ? props.asked.explanation : null))
const summary = computed(() => (props.asked.kind === 'span' ? props.asked.summary : null))
const isOffered = computed(() => explanation.value?.offered ?? (summary.value?.offered === summary.value?.times))

const when = computed(() => {
  const { asked } = props
  if (asked.kind === 'time') return `${day(instantToSeconds(asked.explanation.at))} ${time(instantToSeconds(asked.explanation.at))}`
  const last = asked.to - 1
  const isMidnight = (instant: number) => zoneOf(desk.zone).startOfDay(dayOf(instant)) === instant
  if (isMidnight(asked.from) && isMidnight(asked.to))
    return dayOf(last) === dayOf(asked.from) ? texts.on(day(asked.from)) : texts.fromTo(day(asked.from), day(last))
  return texts.dayFromTo(day(asked.from), time(asked.from), time(asked.to))
})

const reader = computed(() => ({ names: firstNames(bench.hosts), ownHost: bench.ownHost, time: bench.view?.time ?? [] }))
const reasons = computed((): ReasonText[] => {
  if (summary.value) return formatSpanReasons(summary.value, reader.value)
  if (!explanation.value || !bench.draft) return []
  return formatReasons(explanation.value, {
    query: bench.caseQuery(bench.draft, [explanation.value.at]),
    ...reader.value,
    zone: desk.zone,
    locale: desk.locale,
    now: bench.now,
  })
})
/** A way out that several reasons share is offered once, with the last of them. */
const listed = computed(() => reasons.value.map((reason, index) => ({
  ...reason,
  offersWayOut: !reasons.value
    .slice(index + 1)
    .some(later => later.setting === reason.setting && later.sessionId === reason.sessionId),
})))

/** Some of the times of a span, evenly, so that one can be asked about. */
const times = computed(() => {
  const all = summary.value?.explanations ?? []
  const every = Math.ceil(all.length / MOST_TIMES)
  return all.filter((_, index) => index % every === 0)
})
const spansDays = computed(() => props.asked.kind === 'span' && dayOf(props.asked.from) !== dayOf(props.asked.to - 1))
function nameOf({ at }: Explanation): string {
  const instant = instantToSeconds(at)
  return spansDays.value ? `${formatShortDay(instant, desk.zone, desk.locale, bench.now)} ${time(instant)}` : time(instant)
}

const panelOf: Partial<Record<ReasonText['setting'], Panel>> = {
  leadTime: 'leadTime',
  horizon: 'horizon',
  startEvery: 'startEvery',
  hours: 'hours',
  buffers: 'buffers',
  limits: 'limits',
  seats: 'seats',
  chairs: 'chairs',
}
const instants = computed(() => (explanation.value ? [explanation.value.at] : times.value.map(item => item.at)))
</script>

<template>
  <section class="why" aria-labelledby="why" aria-live="polite">
    <h3 id="why">{{ isOffered ? texts.canBeBooked(when) : texts.whyNot(when) }}</h3>
    <p v-if="isOffered" class="quiet">{{ texts.noProblemsFound }}</p>
    <p v-else-if="summary && summary.offered > 0">{{ texts.timesThatCanBeBooked(summary.offered, summary.times) }}</p>
    <ul v-if="!isOffered">
      <li v-for="(reason, index) in listed" :key="index">
        {{ reason.text }}
        <template v-if="reason.offersWayOut">
          <NuxtLink v-if="reason.sessionId && reason.setting === 'sessions'" :to="`/desk/sessions/${reason.sessionId}`">{{ reason.wayOut }}</NuxtLink>
          <NuxtLink v-else-if="reason.setting === 'calendar'" to="/desk/connections">{{ reason.wayOut }}</NuxtLink>
          <LinkButton
            v-else-if="panelOf[reason.setting]" @click="emit('open', panelOf[reason.setting] ?? 'hours')"
          >{{ reason.wayOut }}</LinkButton>
        </template>
      </li>
    </ul>
    <div v-if="summary" class="times">
      <span class="quiet">{{ texts.askAboutOneTime }}</span>
      <LinkButton v-for="item in times" :key="item.at" @click="emit('ask', instantToSeconds(item.at))">{{ nameOf(item) }}</LinkButton>
    </div>
    <p class="actions">
      <LinkButton
        :title="texts.caseOfAnswer"
        @click="emit('save', instants)"
      >{{ texts.saveThisAsACase }}</LinkButton>
      <LinkButton @click="emit('close')">{{ texts.close }}</LinkButton>
    </p>
  </section>
</template>

<style scoped>
.why {
  border-left: 3px solid var(--marigold);
  border-radius: 0 var(--corner) var(--corner) 0;
  background: var(--surface);
  padding: 12px 16px;
  margin-bottom: 14px;
}

h3 {
  font-size: 15px;
}

ul {
  margin: 6px 0 0;
  padding-left: 18px;
}

li {
  padding: 2px 0;
}

.times {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 2px 8px;
  margin-top: 8px;
  font-size: 13px;
}

.actions {
  display: flex;
  gap: 18px;
  margin-top: 8px;
  font-size: 13px;
}
</style>
