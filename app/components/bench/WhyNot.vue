<script setup lang="ts">
import type { Panel } from '~~/core/event-type/panels'
import type { Explanation, EngineQuery } from '~~/core/openings'
import { type ReasonText, formatReasons } from '~~/core/catalogue/reasons'
import { instantToSeconds } from '~~/core/time/civil'
import { formatDay, formatTime } from '~~/core/time/format'
import { firstNames } from '~/composables/first-names'

/** Why a time is not offered, in sentences, each with what would change it. */

const props = defineProps<{
  explanation: Explanation
  query: EngineQuery
  hosts: readonly { id: string, name: string }[]
  zone: string
  locale: string
  now: number
}>()
const emit = defineEmits<{ open: [panel: Panel], save: [], close: [] }>()

const at = computed(() => instantToSeconds(props.explanation.at))
const when = computed(() => `${formatDay(at.value, props.zone, props.locale, props.now)} ${formatTime(at.value, props.zone, props.locale)}`)
const reasons = computed(() => formatReasons(props.explanation, {
  query: props.query,
  names: firstNames(props.hosts),
  zone: props.zone,
  locale: props.locale,
  now: props.now,
}))
/** A way out that several reasons share is offered once, with the last of them. */
const listed = computed(() => reasons.value.map((reason, index) => ({
  ...reason, offersWayOut: !reasons.value.slice(index + 1).some(later => later.setting === reason.setting),
})))

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
</script>

<template>
  <section class="why" aria-labelledby="why" aria-live="polite">
    <h3 id="why">{{ explanation.offered ? `${when} can be booked` : `Why not ${when}?` }}</h3>
    <p v-if="explanation.offered" class="quiet">No problems found.</p>
    <ul v-else>
      <li v-for="(reason, index) in listed" :key="index">
        {{ reason.text }}
        <template v-if="reason.offersWayOut">
          <LinkButton
            v-if="panelOf[reason.setting]"
            @click="emit('open', panelOf[reason.setting] ?? 'hours')"
          >{{ reason.wayOut }}</LinkButton>
          <span v-else class="quiet">{{ reason.wayOut }}.</span>
        </template>
      </li>
    </ul>
    <p class="actions">
      <LinkButton @click="emit('save')">Save this as a case</LinkButton>
      <LinkButton @click="emit('close')">Close</LinkButton>
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

.actions {
  display: flex;
  gap: 18px;
  margin-top: 8px;
  font-size: 13px;
}
</style>
