<script setup lang="ts">
import { texts } from '~/locales/client'
import type { ClientPageView } from '~~/core/views/client'

/** The ways of a booking into the client's calendar: a file, an address that stays true, calendars on the web. */

const props = defineProps<{ path: string, links: ClientPageView['calendarLinks'] }>()
/** Calendar programs that read this address again now and then show what the booking has become. */
const subscription = `webcal://${useRequestURL().host}${props.path}/calendar.ics`
</script>

<template>
  <details class="calendars">
    <summary class="press light">{{ texts.addToCalendar }}</summary>
    <ul>
      <li><a :href="`${path}/calendar.ics`">{{ texts.asAFile }}</a></li>
      <li><a :href="subscription">{{ texts.bySubscription }}</a> <span class="quiet">{{ texts.bySubscriptionHint }}</span></li>
      <li v-for="link in links" :key="link.address"><a :href="link.address" target="_blank" rel="noopener noreferrer">{{ link.name }}</a></li>
    </ul>
  </details>
</template>

<style scoped>
.calendars summary {
  list-style: none;
}

.calendars summary::-webkit-details-marker {
  display: none;
}

.calendars[open] {
  flex-basis: 100%;
}

.calendars ul {
  list-style: none;
  margin: 10px 0 4px;
  padding: 0 0 0 14px;
  border-left: 2px solid var(--line);
  display: grid;
  gap: 8px;
}
</style>
