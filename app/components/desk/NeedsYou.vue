<script setup lang="ts">
import { formatFault } from '~~/core/catalogue/faults'
import { formatRelativeDayInSentence, formatTime } from '~~/core/time/format'
import type { Attention, SessionCard } from '~~/core/views/desk'
import AttentionItem from '~/components/desk/AttentionItem.vue'
import { problemOf } from '~/composables/problem'
import { useDesk } from '~/stores/desk'

const props = defineProps<{ cards: readonly SessionCard[], attention: readonly Attention[] }>()
const emit = defineEmits<{ changed: [] }>()

const desk = useDesk()
const fault = ref('')
const busy = ref('')
const tried = ref<string[]>([])

const time = (instant: number) => formatTime(instant, desk.zone, desk.locale)
const moment = (instant: number) => `${formatRelativeDayInSentence(instant, desk.zone, desk.locale, desk.now)} ${time(instant)}`
const when = (card: SessionCard) => moment(card.start)

const approvals = computed(() =>
  props.cards.flatMap(card => card.bookings.filter(booking => booking.state === 'awaitingApproval').map(booking => ({ card, booking }))),
)
const failing = computed(() => props.cards.filter(card => card.room?.state === 'failing'))

async function act(id: string, path: string, body: Record<string, unknown> = {}): Promise<void> {
  busy.value = id
  fault.value = ''
  try {
    await $fetch(path, { method: 'POST', body })
  } catch (error) {
    fault.value = problemOf(error).message
  } finally {
    busy.value = ''
    emit('changed')
  }
}

async function tryNow(card: SessionCard): Promise<void> {
  tried.value = [...tried.value, card.id]
  await act(card.id, `/api/desk/sessions/${card.id}/room`)
}
</script>

<template>
  <section class="needs-you" aria-labelledby="needs-you">
    <h2 id="needs-you">Needs you</h2>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <p v-if="approvals.length + failing.length + attention.length === 0" class="quiet item">Nothing waits for you.</p>
    <div v-for="card in failing" :key="card.id" class="item">
      <h3 class="broken">No video link yet for {{ when(card) }}</h3>
      <p class="quiet">
        {{ card.eventType }} with <bdi>{{ card.bookings.map(booking => booking.client).join(', ') }}</bdi>, {{ card.hosts.map(host => host.name).join(', ') }}. {{ card.room?.fault ? formatFault(card.room.fault) : '' }}.{{ card.room?.nextTryAt ? ` Next try ${time(card.room.nextTryAt)}.` : '' }}
      </p>
      <p class="actions">
        <NuxtLink v-if="card.room?.fault?.fault.code === 'noVideoAccount'" to="/desk/connections">Connect an account</NuxtLink>
        <LinkButton v-else :disabled="busy === card.id" @click="tryNow(card)">Try again now</LinkButton>
        <NuxtLink :to="`/desk/sessions/${card.id}`">See the trail</NuxtLink>
      </p>
    </div>
    <AttentionItem
      v-for="(item, index) in attention" :key="index" :item="item" :busy="busy !== ''" :when="moment"
      @act="act(`attention ${index}`, $event)"
    />
    <div v-for="{ card, booking } in approvals" :key="booking.id" class="item">
      <h3>Approve: {{ card.eventType }}, {{ when(card) }}</h3>
      <p class="quiet" dir="auto">{{ booking.client }}{{ booking.firstAnswers.map(answer => ` · ${answer}`).join('') }}. Waiting since {{ formatRelativeDayInSentence(booking.createdAt, desk.zone, desk.locale, desk.now) }} {{ time(booking.createdAt) }}.</p>
      <p class="actions">
        <LinkButton :disabled="busy === booking.id"
          @click="act(booking.id, `/api/desk/bookings/${booking.id}/approve`)"
        >Approve</LinkButton>
        <LinkButton :disabled="busy === booking.id"
          @click="act(booking.id, `/api/desk/bookings/${booking.id}/close`, { state: 'declined' })"
        >Decline</LinkButton>
        <NuxtLink :to="`/desk/sessions/${card.id}`">See it</NuxtLink>
      </p>
    </div>
  </section>
</template>

<style>
.needs-you h2 {
  font-size: 17px;
  padding-bottom: 10px;
}

.needs-you .item {
  border-top: 1px solid var(--line);
  padding: 12px 0;
}

.needs-you h3 {
  font-family: var(--body);
  font-size: 14px;
  font-weight: 700;
  overflow-wrap: anywhere;
}

.needs-you .item .quiet {
  font-size: 13px;
  overflow-wrap: anywhere;
}

.needs-you .actions {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 16px;
  margin-top: 2px;
}

.needs-you .actions a,
.needs-you .actions button {
  font-size: 13px;
  font-weight: 600;
  line-height: 24px;
}
</style>
