<script setup lang="ts">
import { texts } from '~/locales/client'
import { formatDurations } from '~~/core/catalogue/event-type'
import { instantToSeconds } from '~~/core/time/civil'
import { formatRelativeDay, formatTime } from '~~/core/time/format'
import ClientFrame from '~/components/client/ClientFrame.vue'
import ZonePicker from '~/components/client/ZonePicker.vue'
import { useClientZone } from '~/composables/client-zone'
import { useReaderLocale } from '~/composables/reader-locale'
import type { WorkspacePage } from '~~/core/views/client'
import { pageError } from '~/composables/page-error'

definePageMeta({ ui: 'light' })

const slug = String(useRoute().params['workspace'])
const { data, error } = await useFetch<WorkspacePage>(`/api/public/${encodeURIComponent(slug)}`, { key: `workspace ${slug}` })
if (!data.value) throw pageError(error.value)
useHead({ title: data.value.workspace.name })

const locale = useReaderLocale()
const now = useState('now', () => Math.floor(Date.now() / 1000))
const { zone, chooseZone } = useClientZone(data.value.workspace.timeZone)

function formatNext(start: string): string {
  const at = instantToSeconds(start)
  return `${formatRelativeDay(at, zone.value, locale.value, now.value)}, ${formatTime(at, zone.value, locale.value)}`
}
</script>

<template>
  <ClientFrame v-if="data" :name="data.workspace.name" :home="`/${slug}`">
    <template #aside>
      <ZonePicker :zone="zone" :host-zones="[]" :now="now" @choose="chooseZone" />
    </template>
    <div class="workspace">
      <h1>{{ data.workspace.name }}</h1>
      <p v-if="data.workspace.about" class="about">{{ data.workspace.about }}</p>
      <p v-if="data.eventTypes.length === 0" class="quiet">{{ texts.nothingCanBeBookedHere }}</p>
      <ul>
        <li v-for="eventType in data.eventTypes" :key="eventType.slug">
          <NuxtLink :to="`/${slug}/${eventType.slug}`">
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
    </div>
  </ClientFrame>
</template>

<style scoped>
.about {
  max-width: 46rem;
}

.about {
  margin-top: 8px;
  color: var(--quiet);
  font-size: 1.1rem;
  white-space: pre-line;
}

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
