<script setup lang="ts">
import { texts } from '~/locales/client'
import type { HostPage } from '~~/core/views/client'
import ClientFrame from '~/components/client/ClientFrame.vue'
import EventTypeList from '~/components/client/EventTypeList.vue'
import HostPicture from '~/components/HostPicture.vue'
import ZonePicker from '~/components/client/ZonePicker.vue'
import { useClientZone } from '~/composables/client-zone'
import { pageError } from '~/composables/page-error'
import { useReaderLocale } from '~/composables/reader-locale'

/** What can be booked with one host. */

definePageMeta({ ui: 'light' })

const route = useRoute()
const slug = String(route.params['workspace'])
const path = `/api/public/${encodeURIComponent(slug)}/with/${encodeURIComponent(String(route.params['host']))}`
const { data, error } = await useFetch<HostPage>(path, { key: path })
if (!data.value) throw pageError(error.value)
const { host, workspace } = data.value
useHead({ title: `${host.name} · ${workspace.name}` })

const locale = useReaderLocale()
const now = useState('now', () => Math.floor(Date.now() / 1000))
const { zone, chooseZone } = useClientZone(host.timeZone)
const offered = computed(() => (data.value?.eventTypes ?? []).map(({ isChoice, ...eventType }) => ({
  ...eventType, to: { path: `/${slug}/${eventType.slug}`, ...(isChoice ? { query: { host: host.id } } : {}) },
})))
</script>

<template>
  <ClientFrame v-if="data" :name="workspace.name" :home="`/${slug}`">
    <template #aside>
      <ZonePicker :zone="zone" :host-zones="[host.timeZone]" :now="now" @choose="chooseZone" />
    </template>
    <header class="host-head">
      <HostPicture :name="host.name" :picture="host.picture" :size="128" />
      <div>
        <h1>{{ host.name }}</h1>
        <p v-if="host.about" class="about">{{ host.about }}</p>
      </div>
    </header>
    <h2>{{ texts.bookWith(host.name) }}</h2>
    <p v-if="offered.length === 0" class="quiet">{{ texts.nothingCanBeBookedHere }}</p>
    <EventTypeList :event-types="offered" :zone="zone" :locale="locale" :now="now" />
  </ClientFrame>
</template>

<style scoped>
.host-head {
  display: flex;
  gap: 28px;
  align-items: flex-start;
}

.about {
  max-width: 42rem;
  margin-top: 8px;
  color: var(--quiet);
  font-size: 1.1rem;
  white-space: pre-line;
}

h2 {
  font-size: 1.15rem;
  margin-top: 32px;
}

.event-types {
  margin-top: 10px;
}

@media (max-width: 720px) {
  .host-head {
    flex-direction: column;
    gap: 14px;
  }
}
</style>
