<script setup lang="ts">
import { VIcon } from 'vuetify/components'
import { mdiCheckCircle, mdiCircleOutline } from '@mdi/js'
import type { SetupStep } from '~~/core/views/desk'

/** What a new workspace has done and has yet to do before clients book. */

defineProps<{ steps: readonly SetupStep[] }>()

const rows: Record<SetupStep['step'], { name: string, text: string, to: string }> = {
  hours: { name: 'Set your hours', text: 'when clients can book you', to: '/desk/hours' },
  open: { name: 'Open an event type', text: 'what clients can book', to: '/desk/event-types' },
  video: { name: 'Connect a video account', text: 'Temporia then makes the link of each session', to: '/desk/connections' },
  booked: { name: 'Try a first booking', text: 'book yourself on your page and see what clients see', to: '/desk/event-types' },
}
</script>

<template>
  <section class="setup" aria-labelledby="setup">
    <h2 id="setup">Left to set up</h2>
    <ul>
      <li v-for="{ step, done } in steps" :key="step" :class="{ done }">
        <VIcon :icon="done ? mdiCheckCircle : mdiCircleOutline" size="18" aria-hidden="true" />
        <span v-if="done">{{ rows[step].name }} <span class="quiet">done</span></span>
        <span v-else><NuxtLink :to="rows[step].to">{{ rows[step].name }}</NuxtLink> <span class="quiet">{{ rows[step].text }}</span></span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.setup {
  background: var(--surface);
  border-left: 3px solid var(--marigold);
  padding: 12px 16px;
  margin-bottom: 14px;
}

h2 {
  font-size: 16px;
  margin-bottom: 6px;
}

ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 4px;
}

li {
  display: flex;
  gap: 8px;
  align-items: center;
}

.done {
  color: var(--quiet);
}
</style>
