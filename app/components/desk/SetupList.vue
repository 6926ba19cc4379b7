<script setup lang="ts">
import { texts } from '~/locales/onboarding'
import { VIcon } from 'vuetify/components'
import { mdiCheckCircle, mdiCircleOutline } from '@mdi/js'
import type { SetupStep } from '~~/core/views/desk'

/** What a new workspace has done and has yet to do before clients book. */

defineProps<{ steps: readonly SetupStep[] }>()

const rows: Record<SetupStep['step'], { name: string, text: string, to: string }> = {
  hours: { name: texts.setYourHours, text: texts.whenClientsCanBookYou, to: '/desk/hours' },
  open: { name: texts.openAnEventType, text: texts.whatClientsCanBook, to: '/desk/event-types' },
  calendar: { name: texts.connectYourCalendar, text: texts.whatIsInItBlocks, to: '/desk/connections' },
  video: { name: texts.connectAVideoAccount, text: texts.temporiaThenMakesTheLink, to: '/desk/connections' },
  booked: { name: texts.tryAFirstBooking, text: texts.bookYourself, to: '/desk/event-types' },
}
</script>

<template>
  <section class="setup" aria-labelledby="setup">
    <h2 id="setup">{{ texts.leftToSetUp }}</h2>
    <ul>
      <li v-for="{ step, done } in steps" :key="step" :class="{ done }">
        <VIcon :icon="done ? mdiCheckCircle : mdiCircleOutline" size="18" aria-hidden="true" />
        <span v-if="done">{{ rows[step].name }} <span class="quiet">· {{ texts.done }}</span></span>
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

li a + .quiet {
  display: block;
}

.done {
  color: var(--quiet);
}
</style>
