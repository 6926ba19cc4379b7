<script setup lang="ts">
import { texts } from '~/locales/client'
import { formatDurations } from '~~/core/catalogue/event-type'
import { instantToSeconds } from '~~/core/time/civil'
import { formatRelativeDay, formatTime } from '~~/core/time/format'
import type { WorkspacePage } from '~~/core/views/client'

/** What can be booked, each with its next time. */

const props = defineProps<{
  eventTypes: readonly (WorkspacePage['eventTypes'][number] & { to: { path: string, query?: Record<string, string> } })[]
  zone: string
  locale: string
  now: number
}>()

function formatNext(start: string): string {
  const at = instantToSeconds(start)
  return `${formatRelativeDay(at, props.zone, props.locale, props.now)}, ${formatTime(at, props.zone, props.locale)}`
}
</script>

<template>
  <ul class="event-types">
    <li v-for="eventType in eventTypes" :key="eventType.slug">
      <NuxtLink :to="eventType.to">
        <span class="length">{{ formatDurations(eventType.durations) }}</span>
        <span class="what"><strong>{{ eventType.name }}</strong>{{ eventType.summary }}</span>
        <span class="next">
          <span class="quiet">{{ eventType.nextOpening ? texts.nextTime : texts.noTimesInTheNextWeeks }}</span>
          <strong v-if="eventType.nextOpening">{{ formatNext(eventType.nextOpening) }}</strong>
        </span>
        <span class="go" aria-hidden="true">{{ texts.seeTimes }}</span>
      </NuxtLink>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 28px 0 0;
  padding: 0;
  border-top: 1px solid var(--line);
}

li {
  border-bottom: 1px solid var(--line);
}

li a {
  display: grid;
  grid-template-columns: 9rem minmax(0, 1fr) 17rem auto;
  gap: 16px;
  align-items: baseline;
  padding: 18px 0;
  color: var(--ink);
  text-decoration: none;
}

.length {
  color: var(--quiet);
}

.what strong {
  display: block;
  font-family: var(--heading);
  font-size: 1.2rem;
}

.next {
  font-size: 0.95rem;
}

.next .quiet,
.next strong {
  display: block;
}

.next .quiet {
  font-size: 0.85rem;
}

.go {
  color: var(--aubergine);
  font-weight: 600;
  text-decoration: underline;
  text-underline-offset: 3px;
}

@media (max-width: 720px) {
  li a {
    grid-template-columns: 1fr;
    gap: 2px;
  }
}
</style>
