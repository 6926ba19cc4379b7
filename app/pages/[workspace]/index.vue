<script setup lang="ts">
import { formatDurations } from '~~/core/catalogue/event-type'
import ClientFrame from '~/components/client/ClientFrame.vue'
import type { WorkspacePage } from '~~/core/views/client'
import { pageError } from '~/composables/page-error'

definePageMeta({ ui: 'light' })

const slug = String(useRoute().params['workspace'])
const { data, error } = await useFetch<WorkspacePage>(`/api/public/${encodeURIComponent(slug)}`, { key: `workspace ${slug}` })
if (!data.value) throw pageError(error.value)
useHead({ title: data.value.workspace.name })
</script>

<template>
  <ClientFrame v-if="data" :name="data.workspace.name" :home="`/${slug}`">
    <div class="workspace">
      <h1>{{ data.workspace.name }}</h1>
      <p v-if="data.workspace.about" class="about">{{ data.workspace.about }}</p>
      <p v-if="data.eventTypes.length === 0" class="quiet">Nothing can be booked here at the moment.</p>
      <ul>
        <li v-for="eventType in data.eventTypes" :key="eventType.slug">
          <NuxtLink :to="`/${slug}/${eventType.slug}`">
            <span class="length">{{ formatDurations(eventType.durations) }}</span>
            <span class="what"><strong>{{ eventType.name }}</strong>{{ eventType.summary }}</span>
            <span class="go" aria-hidden="true">See times</span>
          </NuxtLink>
        </li>
      </ul>
    </div>
  </ClientFrame>
</template>

<style scoped>
.workspace {
  max-width: 760px;
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
  grid-template-columns: 8rem 1fr auto;
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
