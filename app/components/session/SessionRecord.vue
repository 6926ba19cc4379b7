<script setup lang="ts">
import { texts } from '~/locales/session'
import { formatTrailEntry } from '~~/core/catalogue/trail'
import { occasionName } from '~~/core/messages/occasions'
import type { SessionView } from '~~/core/views/desk'
import { capitalise } from '~~/core/catalogue/capitalise'

/** What was sent, and all that happened, newest first. */

defineProps<{ session: SessionView, zone: string, locale: string, busy: boolean, stamp: (instant: number) => string }>()
const emit = defineEmits<{ send: [id: string] }>()

const stateWords: Record<string, string> = {
  planned: 'planned',
  sending: texts.beingSent,
  sent: 'sent',
  unknown: texts.brokeOff,
  failed: texts.notSent,
  overtaken: texts.notSentSinceTheBookingChanged,
}
const broken = new Set(['roomFailed', 'roomUnowned', 'roomNotWithdrawn', 'messageFailed', 'messageUnknown', 'messageReturned', 'titleFailed', 'entryFailed', 'entryNoticed'])
</script>

<template>
  <aside>
    <h2>{{ texts.messages }}</h2>
    <ul class="messages">
      <template v-for="booking in session.bookings" :key="booking.id">
        <li v-for="message in booking.messages" :key="message.id">
          <strong>{{ message.name ?? occasionName(message.occasion) }}</strong> {{ texts.to(message.address) }}
          <span
            class="quiet" :class="{ broken: message.state === 'failed' || message.state === 'unknown' }"
          >{{ message.isQuiet ? texts.notSentQuietHours : stateWords[message.state] }}{{ message.sentAt ? ` ${stamp(message.sentAt)}` : message.nextTryAt ? texts.nextTry(stamp(message.nextTryAt)) : '' }}</span>
          <LinkButton
            v-if="session.mayChange && (message.state === 'failed' || message.state === 'unknown')" :disabled="busy"
            @click="emit('send', message.id)"
          >{{ texts.sendAgain }}</LinkButton>
        </li>
      </template>
      <li v-if="session.bookings.every(booking => booking.messages.length === 0)" class="quiet">{{ texts.none }}</li>
    </ul>
    <h2>{{ texts.trail }}</h2>
    <ol class="trail">
      <li v-for="entry in session.trail" :key="entry.id">
        <time class="quiet" :datetime="new Date(entry.at * 1000).toISOString()">{{ capitalise(stamp(entry.at)) }}</time>
        <bdi :class="{ broken: broken.has(entry.entry.code) }">{{ formatTrailEntry(entry.entry, zone, locale, session.reader) }}</bdi>
      </li>
    </ol>
  </aside>
</template>
