<script setup lang="ts">
import { formatTrailEntry } from '~~/core/catalogue/trail'
import { occasionName } from '~~/core/messages/occasions'
import type { SessionView } from '~~/core/views/desk'

/** What was sent, and all that happened, newest first. */

defineProps<{ session: SessionView, zone: string, locale: string, busy: boolean, stamp: (instant: number) => string }>()
const emit = defineEmits<{ send: [id: string] }>()

const stateWords: Record<string, string> = {
  planned: 'planned',
  sending: 'being sent',
  sent: 'sent',
  unknown: 'broke off: it may or may not have arrived',
  failed: 'not sent',
  overtaken: 'not sent, since the booking changed',
}
const broken = new Set(['roomFailed', 'roomUnowned', 'roomNotWithdrawn', 'messageFailed', 'messageUnknown', 'titleFailed'])
</script>

<template>
  <aside>
    <h2>Messages</h2>
    <ul class="messages">
      <template v-for="booking in session.bookings" :key="booking.id">
        <li v-for="message in booking.messages" :key="message.id">
          <strong>{{ occasionName(message.occasion) }}</strong> to {{ message.address }}
          <span
            class="quiet" :class="{ broken: message.state === 'failed' || message.state === 'unknown' }"
          >{{ stateWords[message.state] }}{{ message.sentAt ? ` ${stamp(message.sentAt)}` : message.nextTryAt ? `, next try ${stamp(message.nextTryAt)}` : '' }}</span>
          <LinkButton
            v-if="message.state === 'failed' || message.state === 'unknown'" :disabled="busy"
            @click="emit('send', message.id)"
          >Send again</LinkButton>
        </li>
      </template>
      <li v-if="session.bookings.every(booking => booking.messages.length === 0)" class="quiet">None.</li>
    </ul>
    <h2>Trail</h2>
    <ol class="trail">
      <li v-for="entry in session.trail" :key="entry.id">
        <time class="quiet" :datetime="new Date(entry.at * 1000).toISOString()">{{ stamp(entry.at) }}</time>
        <bdi :class="{ broken: broken.has(entry.entry.code) }">{{ formatTrailEntry(entry.entry, zone, locale) }}</bdi>
      </li>
    </ol>
  </aside>
</template>
