<script setup lang="ts">
import { texts } from '~/locales/onboarding'
import { formatDurations } from '~~/core/catalogue/event-type'
import type { EventTypePage } from '~~/core/views/client'
import PhoneTimetable from '~/components/timetable/PhoneTimetable.vue'
import { useEventTypeOpenings, VIEW_DAYS } from '~/composables/event-type-openings'
import { useDesk } from '~/stores/desk'

/** An event type's page as a client sees it on a phone, to look at. */

const props = defineProps<{ page: string }>()
const desk = useDesk()
const path = `/api/public${new URL(props.page).pathname}`
const openings = useEventTypeOpenings(path, desk.now, () => ({}))
const shown = shallowRef<{ page: EventTypePage, starts: number[], firstDay: number } | null>(null)

onMounted(async () => {
  const [page, first] = await Promise.all([$fetch<EventTypePage>(path), openings.loadFirst()]).catch(() => [null, null])
  if (page && first) shown.value = { page, ...first }
})
</script>

<template>
  <figure v-if="shown" class="page-preview">
    <figcaption class="quiet">{{ texts.whatClientsSeeOnAPhone }}</figcaption>
    <div inert>
      <p class="quiet">{{ shown.page.workspace.name }}</p>
      <h2 :style="{ borderColor: shown.page.eventType.colour }">{{ shown.page.eventType.name }}</h2>
      <p>{{ formatDurations(shown.page.eventType.durations) }}</p>
      <PhoneTimetable
        :departures="shown.starts.map(at => ({ at, mark: undefined }))" :zone="desk.zone" :other-zone="desk.zone"
        :first-day="shown.firstDay" :days="VIEW_DAYS" :locale="desk.locale" :chosen="null"
      />
    </div>
  </figure>
</template>

<style scoped>
.page-preview {
  margin: 0;
}

.page-preview > div {
  margin-top: 6px;
  padding: 16px;
  border: 1px solid var(--line);
  border-radius: var(--corner);
  background: var(--paper);
  max-height: 520px;
  overflow: hidden;
}

h2 {
  font-size: 24px;
  padding-left: 10px;
  border-left: 4px solid;
}
</style>
