<script setup lang="ts">
import { texts } from '~/locales/client'
import AskForBookings from '~/components/client/AskForBookings.vue'
import ClientFrame from '~/components/client/ClientFrame.vue'
import EventTypeList from '~/components/client/EventTypeList.vue'
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
      <EventTypeList
        :event-types="data.eventTypes.map(eventType => ({ ...eventType, to: { path: `/${slug}/${eventType.slug}` } }))" :zone="zone" :locale="locale" :now="now"
      />
      <details class="known">
        <summary>{{ texts.alreadyBooked }} <span class="word">{{ texts.haveMyBookingsMailed }}</span></summary>
        <AskForBookings :workspace="slug" />
      </details>
    </div>
  </ClientFrame>
</template>

<style scoped>
.known {
  margin-top: 28px;
}

.known summary {
  cursor: pointer;
  width: fit-content;
  margin-bottom: 10px;
}

.about {
  max-width: 46rem;
  margin-top: 8px;
  color: var(--quiet);
  font-size: 1.1rem;
  white-space: pre-line;
}
</style>
