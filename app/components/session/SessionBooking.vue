<script setup lang="ts">
import { texts } from '~/locales/session'
import { VBtn } from 'vuetify/components'
import { nameGuest } from '~~/core/booking/guests'
import { bookingStateWords, isConfirmed } from '~~/core/booking/states'
import { formatList } from '~~/core/time/format'
import type { SessionView } from '~~/core/views/desk'
import { capitalise } from '~~/core/catalogue/capitalise'
import { useDecisions } from '~/stores/decisions'

/** One client's booking: who, what they answered, and what can be done with it. */

defineProps<{ booking: SessionView['bookings'][number], sessionId: string, mayChange: boolean, begun: boolean, over: boolean, busy: boolean, locale: string, stamp: (instant: number) => string }>()
const decisions = useDecisions()
const emit = defineEmits<{ approve: [], move: [], paid: [isPaid: boolean], people: [], guests: [], attendance: [state: 'attended' | 'missed'], close: [state: 'cancelled' | 'declined'] }>()
</script>

<template>
  <article class="booking">
    <h2 dir="auto">{{ booking.client.name }}, {{ bookingStateWords[booking.state] }}</h2>
    <dl>
      <dt>{{ texts.eMail }}</dt>
      <dd><a :href="`mailto:${booking.client.email}`">{{ booking.client.email }}</a></dd>
      <template v-if="booking.client.phone">
        <dt>{{ texts.phone }}</dt>
        <dd><a :href="`tel:${booking.client.phone}`">{{ booking.client.phone }}</a></dd>
      </template>
      <dt>{{ texts.booked }}</dt>
      <dd>{{ capitalise(stamp(booking.createdAt)) }}{{ booking.source ? texts.from(booking.source) : '' }}</dd>
      <template v-if="booking.expiresAt">
        <dt>{{ texts.answerBy }}</dt>
        <dd>{{ capitalise(stamp(booking.expiresAt)) }}</dd>
      </template>
      <template v-if="booking.payment">
        <dt>{{ texts.payment }}</dt>
        <dd>
          {{ texts.paymentIs(booking.payment, locale) }}
          <LinkButton
            v-if="mayChange && booking.payment.byHand && isConfirmed(booking.state)" :disabled="busy" @click="emit('paid', booking.payment.standing !== 'paid')"
          >{{ booking.payment.standing === 'paid' ? texts.markUnpaid : texts.markPaid }}</LinkButton>
        </dd>
      </template>
      <template v-if="booking.countsPeople">
        <dt>{{ texts.people }}</dt>
        <dd>{{ booking.people }}</dd>
      </template>
      <template v-if="booking.guests.length > 0">
        <dt>{{ texts.guests }}</dt>
        <dd dir="auto">{{ formatList(booking.guests.map(nameGuest)) }}</dd>
      </template>
      <template v-if="booking.suggestion">
        <dt>{{ texts.suggests }}</dt>
        <dd dir="auto">{{ booking.suggestion }}</dd>
      </template>
      <template v-for="answer in booking.answers" :key="answer.label">
        <dt dir="auto">{{ answer.label }}</dt>
        <dd dir="auto" class="answer"><a v-if="answer.kind === 'phone'" :href="`tel:${answer.text}`">{{ answer.text }}</a><template v-else>{{ answer.text }}</template></dd>
      </template>
      <template v-if="booking.cancelReason">
        <dt>{{ texts.reason }}</dt>
        <dd dir="auto">{{ booking.cancelReason }}</dd>
      </template>
    </dl>
    <p class="actions">
      <template v-if="mayChange && booking.state === 'awaitingApproval' && !decisions.pending.has(booking.id)">
        <VBtn :disabled="busy" @click="emit('approve')">{{ texts.approve }}</VBtn>
        <VBtn variant="outlined" @click="emit('close', 'declined')">{{ texts.decline }}</VBtn>
      </template>
      <LinkButton
        v-if="mayChange && (booking.state === 'confirmed' || booking.state === 'awaitingApproval') && !over" @click="emit('move')"
      >{{ texts.moveIt }}</LinkButton>
      <LinkButton
        v-if="booking.countsPeople && mayChange && (booking.state === 'confirmed' || booking.state === 'awaitingApproval') && !over"
        @click="emit('people')"
      >{{ texts.changePeople }}</LinkButton>
      <LinkButton
        v-if="mayChange && (booking.state === 'confirmed' || booking.state === 'awaitingApproval') && !over" @click="emit('guests')"
      >{{ booking.guests.length > 0 ? texts.changeGuests : texts.inviteGuests }}</LinkButton>
      <LinkButton
        v-if="mayChange && booking.state === 'confirmed' && !over" @click="emit('close', 'cancelled')"
      >{{ texts.cancelThisBooking }}</LinkButton>
      <template v-if="mayChange && begun && isConfirmed(booking.state)">
        <LinkButton v-if="booking.state !== 'attended'" :disabled="busy" @click="emit('attendance', 'attended')">{{ texts.markAttended }}</LinkButton>
        <LinkButton v-if="booking.state !== 'missed'" :disabled="busy" @click="emit('attendance', 'missed')">{{ texts.markMissed }}</LinkButton>
      </template>
      <NuxtLink v-if="mayChange" :to="{ path: '/desk/book', query: { session: sessionId, client: booking.id } }">{{ texts.bookAgain }}</NuxtLink>
      <a v-if="booking.page" :href="booking.page" target="_blank" rel="noopener">{{ texts.theClientsOwnPage }}</a>
    </p>
  </article>
</template>
