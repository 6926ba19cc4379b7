<script setup lang="ts">
import { texts } from '~/locales/client'
import { nameGuest } from '~~/core/booking/guests'
import { withHosts } from '~~/core/messages/with-hosts'
import { instantToSeconds } from '~~/core/time/civil'
import { formatDay, formatList, formatTime } from '~~/core/time/format'
import type { ClientPageView } from '~~/core/views/client'

/** What a booking is about, beside its time: what, where, who, and what was answered. */

const props = defineProps<{ page: ClientPageView, locale: string, now: number }>()
const booking = computed(() => props.page.booking)
const payment = computed(() => booking.value.payment)

const linkWords = computed(() => {
  const { room, hosts } = booking.value
  // Somebody has taken the link away; another one is not being made.
  if (room?.state === 'withdrawn') return texts.noVideoLink(formatList(hosts))
  return room?.state === 'failing' ? texts.linkIsLate : texts.theVideoLinkIsBeingMade
})

const heldUntil = computed(() => {
  const { start, timeZone } = booking.value
  const until = instantToSeconds(props.page.heldUntil ?? start)
  return until < instantToSeconds(start) ? texts.until(formatDay(until, timeZone, props.locale, props.now), formatTime(until, timeZone, props.locale)) : ''
})
</script>

<template>
  <dl>
    <dt>{{ texts.what }}</dt>
    <dd>{{ withHosts(page.eventType.name, booking.hosts) }}</dd>
    <template v-if="booking.state === 'confirmed' && booking.place.kind === 'video'">
      <dt>{{ texts.howToJoin }}</dt>
      <dd v-if="booking.room?.joinUrl">
        <a class="press" :href="booking.room.joinUrl">{{ texts.openTheRoom }}</a>
        <span v-if="booking.room.number" class="numbers">{{ texts.number }} <strong>{{ booking.room.number }}</strong> <template v-if="booking.room.passcode">{{ texts.passcode }} <strong>{{ booking.room.passcode }}</strong></template></span>
      </dd>
      <dd v-else aria-live="polite">{{ linkWords }}</dd>
    </template>
    <template v-else>
      <dt>{{ texts.where }}</dt>
      <dd>{{ booking.place.kind === 'video' ? texts.byVideo : booking.place.detail || booking.place.label }}</dd>
    </template>
    <template v-if="booking.place.note">
      <dt>{{ texts.pleaseNote }}</dt>
      <dd class="answer">{{ booking.place.note }}</dd>
    </template>
    <template v-if="page.suggestion">
      <dt>{{ texts.youSuggested }}</dt>
      <dd dir="auto">{{ page.suggestion }}</dd>
    </template>
    <template v-if="payment && booking.state !== 'held'">
      <dt>{{ texts.payment }}</dt>
      <dd>{{ texts.paymentIs(payment, locale) }}</dd>
    </template>
    <template v-if="booking.state === 'awaitingApproval'">
      <dt>{{ texts.whatHappensNow }}</dt>
      <dd>{{ texts.hostsApproveOrDecline(formatList(booking.hosts), heldUntil) }}</dd>
    </template>
    <dt>{{ texts.forWhom }}</dt>
    <dd dir="auto">{{ page.client.name }} <span class="quiet">{{ page.client.email }}</span></dd>
    <template v-if="booking.people !== undefined">
      <dt>{{ texts.howManyComeNow }}</dt>
      <dd>{{ texts.people(booking.people) }}</dd>
    </template>
    <template v-if="page.guests.length > 0">
      <dt>{{ texts.guests }}</dt>
      <dd dir="auto">{{ formatList(page.guests.map(nameGuest)) }}</dd>
    </template>
    <template v-for="answer in page.answers" :key="answer.label">
      <dt dir="auto">{{ answer.label }}</dt>
      <dd dir="auto" class="answer">{{ answer.text }}</dd>
    </template>
    <template v-if="page.cancelReason">
      <dt>{{ texts.reason }}</dt>
      <dd dir="auto">{{ page.cancelReason }}</dd>
    </template>
  </dl>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: minmax(7rem, auto) 1fr;
  gap: 10px 20px;
  margin: 22px 0;
}

dt {
  color: var(--quiet);
  max-width: 14rem;
  overflow-wrap: anywhere;
}

dd {
  margin: 0;
  overflow-wrap: anywhere;
}

.answer {
  white-space: pre-line;
}

.numbers {
  display: block;
  margin-top: 8px;
}

@media (max-width: 720px) {
  dl {
    grid-template-columns: 1fr;
    gap: 2px;
  }

  dd {
    margin-bottom: 10px;
  }
}
</style>
