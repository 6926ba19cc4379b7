<script setup lang="ts">
import { texts } from '~/locales/desk'
import { formatFault } from '~~/core/catalogue/faults'
import { type FailingGroup, groupFailingRooms } from '~~/core/booking/waiting'
import { formatList, formatRelativeDayInSentence, formatTime } from '~~/core/time/format'
import type { Attention, SessionCard, TodayView } from '~~/core/views/desk'
import AttentionItem from '~/components/desk/AttentionItem.vue'
import { problemOf } from '~/composables/problem'
import { useDecisions } from '~/stores/decisions'
import { useDesk } from '~/stores/desk'
import { useToday } from '~/stores/today'

/** What waits for a person, answers first; what has one cause stands in one line. */

const props = defineProps<{ cards: readonly SessionCard[], attention: readonly Attention[], hosts: TodayView['hosts'] }>()

const desk = useDesk()
const today = useToday()
const decisions = useDecisions()
const fault = ref('')
const busy = ref('')

const time = (instant: number) => formatTime(instant, desk.zone, desk.locale)
const moment = (instant: number) => `${formatRelativeDayInSentence(instant, desk.zone, desk.locale, desk.now)} ${time(instant)}`
const clients = (card: SessionCard) => formatList(card.bookings.map(booking => booking.client))

const ahead = computed(() => props.cards.filter(card => card.end > desk.now))
const approvals = computed(() => ahead.value.flatMap(card => card.bookings
  .filter(booking => booking.state === 'awaitingApproval' && !decisions.pending.has(booking.id))
  .map(booking => ({ card, booking }))))
/** What waits for an account stands in the line of that. */
const accounts = computed(() => new Set(props.attention.flatMap(item => (item.kind === 'videoAccount' ? [item.accountId] : []))))
const failing = computed(() => groupFailingRooms(ahead.value.filter(({ room }) => !room?.waitsFor || !accounts.value.has(room.waitsFor))))
const count = computed(() => approvals.value.length + failing.value.length + props.attention.length)

const isOwn = (group: FailingGroup) => group.hosts.length === 1 && props.hosts.some(host => host.own && host.id === group.hosts[0]?.id)
const titleOf = (group: FailingGroup) =>
  (group.cards.length === 1 && group.cards[0]
    ? texts.noVideoLinkYetFor(moment(group.cards[0].start))
    : texts.noVideoLinkYetForSessions(texts.sessionCount(group.cards.length)))
const causeOf = (group: FailingGroup) =>
  (group.hosts.length === 0 ? (group.fault ? `${formatFault(group.fault)}.` : '')
    : isOwn(group) ? texts.yourVideoAccountIsNotConnected
      : texts.noVideoAccountIsConnectedFor(formatList(group.hosts.map(host => host.name))))
const nextTry = (group: FailingGroup) => {
  const next = group.hosts.length > 0 ? null : group.cards[0]?.room?.nextTryAt
  return next ? texts.nextTryAt(time(next)) : ''
}

async function act(id: string, paths: readonly string[]): Promise<void> {
  busy.value = id
  fault.value = ''
  try {
    for (const path of paths) await $fetch(path, { method: 'POST', body: {} })
  } catch (error) {
    fault.value = problemOf(error).message
  } finally {
    busy.value = ''
    await today.load()
  }
}

function approve(bookingId: string, client: string): void {
  decisions.decide(bookingId, { path: `/api/desk/bookings/${bookingId}/approve`, text: texts.approved(client), after: today.load })
}

function decline(bookingId: string, client: string): void {
  decisions.decide(bookingId, {
    path: `/api/desk/bookings/${bookingId}/close`, body: { state: 'declined' }, text: texts.declined(client), after: today.load,
  })
}
</script>

<template>
  <section class="needs-you" aria-labelledby="needs-you">
    <h2 id="needs-you">{{ texts.needsYou }}<span v-if="count > 0" class="count">{{ count }}</span></h2>
    <p v-if="fault || decisions.failed" class="broken" role="alert">{{ fault || decisions.failed }}</p>
    <p v-if="count === 0" class="quiet item">{{ texts.nothingWaitsForYou }}</p>
    <div v-for="{ card, booking } in approvals" :key="booking.id" class="item">
      <h3>{{ texts.approve(card.eventType, moment(card.start)) }}</h3>
      <p class="quiet" dir="auto">{{ texts.waitingSince(booking.client, booking.firstAnswers.map(answer => ` · ${answer}`).join(''), moment(booking.createdAt)) }}{{ booking.expiresAt ? texts.expires(moment(booking.expiresAt)) : '' }}</p>
      <p class="actions">
        <LinkButton @click="approve(booking.id, booking.client)">{{ texts.approveNow }}</LinkButton>
        <LinkButton @click="decline(booking.id, booking.client)">{{ texts.decline }}</LinkButton>
        <NuxtLink :to="`/desk/sessions/${card.id}`">{{ texts.seeIt }}</NuxtLink>
      </p>
    </div>
    <div v-for="group in failing" :key="group.key" class="item">
      <h3 class="broken">{{ titleOf(group) }}</h3>
      <p class="quiet">{{ causeOf(group) }} {{ nextTry(group) }}</p>
      <details v-if="group.cards.length > 1">
        <summary>{{ texts.whichSessions }}</summary>
        <ul>
          <li v-for="card in group.cards" :key="card.id"><NuxtLink :to="`/desk/sessions/${card.id}`">{{ moment(card.start) }}, <bdi>{{ clients(card) }}</bdi></NuxtLink></li>
        </ul>
      </details>
      <p v-else-if="group.cards[0]" class="quiet">{{ texts.withText(group.cards[0].eventType) }} <bdi>{{ clients(group.cards[0]) }}</bdi></p>
      <p class="actions">
        <NuxtLink v-if="group.hosts.length > 0" to="/desk/connections">{{ isOwn(group) ? texts.connectYourAccount : texts.connectAnAccount }}</NuxtLink>
        <LinkButton
          v-else :disabled="busy === group.key" @click="act(group.key, group.cards.map(card => `/api/desk/sessions/${card.id}/room`))"
        >{{ texts.tryAgainNow }}</LinkButton>
        <NuxtLink v-if="group.cards.length === 1 && group.cards[0]" :to="`/desk/sessions/${group.cards[0].id}`">{{ texts.seeTheTrail }}</NuxtLink>
      </p>
    </div>
    <AttentionItem
      v-for="(item, index) in attention" :key="index" :item="item" :busy="busy !== ''" :when="moment"
      @act="act(`attention ${index}`, [$event])"
    />
  </section>
</template>

<style>
.needs-you h2 {
  font-size: 17px;
  padding-bottom: 10px;
}

.needs-you .count {
  margin-left: 8px;
  padding: 1px 7px;
  border-radius: 10px;
  background: var(--marigold);
  color: var(--on-marigold);
  font-size: 12px;
}

.needs-you details {
  font-size: 13px;
}

.needs-you details ul {
  margin: 4px 0;
  padding-left: 18px;
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
.needs-you .actions .v-btn {
  font-size: 13px;
  font-weight: 600;
  line-height: 24px;
}
</style>
