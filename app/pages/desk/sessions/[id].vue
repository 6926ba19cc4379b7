<script setup lang="ts">
import { VBtn, VDialog, VTextarea } from 'vuetify/components'
import { bookingStateWords, roomStateWords } from '~~/core/booking/states'
import { occasionWords, saySentence } from '~~/core/booking/trail'
import { sayDay, sayNearDay, sayTime, sayZone } from '~~/core/time/say'
import type { SessionView } from '~~/core/views/desk'
import { problemOf } from '~/composables/problem'
import { useDesk } from '~/stores/desk'

definePageMeta({ layout: 'desk' })

const desk = useDesk()
const id = String(useRoute().params['id'])
const session = ref<SessionView | null>(null)
const fault = ref('')
const closing = ref<{ bookingId: string, client: string, state: 'cancelled' | 'declined' } | null>(null)
const reason = ref('')
const busy = ref(false)

useHead({ title: () => `${session.value?.eventType.name ?? 'Session'} · Temporia` })

async function load(): Promise<void> {
  try {
    session.value = await $fetch<SessionView>(`/api/desk/sessions/${id}`)
  } catch (error) {
    fault.value = problemOf(error).words
  }
}

const RELOAD_SECONDS = 5
onMounted(() => {
  void load()
  const timer = setInterval(load, RELOAD_SECONDS * 1000)
  onBeforeUnmount(() => clearInterval(timer))
})

async function act(path: string, body: Record<string, unknown> = {}): Promise<void> {
  busy.value = true
  fault.value = ''
  try {
    await $fetch(path, { method: 'POST', body })
    closing.value = null
    reason.value = ''
  } catch (error) {
    fault.value = problemOf(error).words
  } finally {
    busy.value = false
    await load()
  }
}

/** The moment in every zone that somebody in the session reads it in. */
const times = computed(() => {
  if (!session.value) return []
  const zones = new Map<string, string[]>()
  const add = (zone: string, who: string) => zones.set(zone, [...(zones.get(zone) ?? []), who])
  add(desk.zone, 'you')
  for (const host of session.value.hosts) if (host.timeZone !== desk.zone) add(host.timeZone, host.name)
  for (const booking of session.value.bookings) add(booking.client.timeZone, booking.client.name)
  const { start, end } = session.value
  return [...zones].map(([zone, who]) => ({
    zone,
    who: who.filter(name => name !== 'you').join(', '),
    words: `${sayDay(start, zone, desk.locale, desk.now)}, ${sayTime(start, zone, desk.locale)} to ${sayTime(end, zone, desk.locale)}`,
  }))
})

const stamp = (instant: number) => `${sayNearDay(instant, desk.zone, desk.locale, desk.now)} ${sayTime(instant, desk.zone, desk.locale)}`
const stateWords: Record<string, string> = { planned: 'planned', sending: 'being sent', sent: 'sent', unknown: 'broke off: it may or may not have arrived', failed: 'not sent' }
const over = computed(() => (session.value ? session.value.end < desk.now : false))
</script>

<template>
  <div class="session">
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-if="!session && !fault" class="quiet">Fetching …</p>
    <template v-if="session">
      <section class="facts">
        <p class="quiet"><NuxtLink :to="`/desk/event-types/${session.eventType.id}`">{{ session.eventType.name }}</NuxtLink>{{ session.cancelled ? ' · cancelled' : over ? ' · over' : '' }}</p>
        <h1 dir="auto">{{ session.bookings.map(one => one.client.name).join(', ') }}</h1>
        <dl class="times">
          <template v-for="time in times" :key="time.zone">
            <dt>{{ sayZone(time.zone) }}<span v-if="time.who" class="quiet"> {{ time.who }}</span></dt>
            <dd>{{ time.words }}</dd>
          </template>
        </dl>
        <dl>
          <dt>Hosts</dt>
          <dd>{{ session.hosts.map(host => host.name).join(', ') }}</dd>
          <dt>Where</dt>
          <dd>{{ session.place.words }}</dd>
          <template v-if="session.room">
            <dt>Room</dt>
            <dd>
              <strong :class="{ broken: session.room.state === 'failing' }">{{ roomStateWords[session.room.state] }}</strong>
              <template v-if="session.room.state === 'ready' && session.room.joinUrl">
                <span class="room-actions">
                  <a v-if="session.room.hostUrl" class="press" :href="session.room.hostUrl" target="_blank" rel="noopener">Open room as host</a>
                </span>
                <span class="room-facts">Clients’ link <a :href="session.room.joinUrl" target="_blank" rel="noopener">{{ session.room.joinUrl }}</a></span>
                <span class="room-facts">Number <b>{{ session.room.number }}</b> · passcode <b>{{ session.room.passcode }}</b></span>
              </template>
              <template v-else-if="session.room.state === 'failing'">
                <span class="room-facts">{{ session.room.fault }}.{{ session.room.nextTryAt ? ` Next try ${stamp(session.room.nextTryAt)}.` : '' }}</span>
                <span class="room-actions"><button type="button" class="press light" :disabled="busy" @click="act(`/api/desk/sessions/${id}/room`)">Try again now</button></span>
              </template>
            </dd>
          </template>
        </dl>
        <article v-for="booking in session.bookings" :key="booking.id" class="booking">
          <h2 dir="auto">{{ booking.client.name }}, {{ bookingStateWords[booking.state] }}</h2>
          <dl>
            <dt>E-mail</dt>
            <dd><a :href="`mailto:${booking.client.email}`">{{ booking.client.email }}</a></dd>
            <template v-if="booking.client.phone">
              <dt>Phone</dt>
              <dd><a :href="`tel:${booking.client.phone}`">{{ booking.client.phone }}</a></dd>
            </template>
            <dt>Booked</dt>
            <dd>{{ stamp(booking.createdAt) }}{{ booking.source ? `, from ${booking.source}` : '' }}</dd>
            <template v-for="answer in booking.answers" :key="answer.label">
              <dt dir="auto">{{ answer.label }}</dt>
              <dd dir="auto" class="answer">{{ answer.words }}</dd>
            </template>
            <template v-if="booking.cancelReason">
              <dt>Reason</dt>
              <dd dir="auto">{{ booking.cancelReason }}</dd>
            </template>
          </dl>
          <p class="actions">
            <button v-if="booking.state === 'awaitingApproval'" type="button" class="press" :disabled="busy" @click="act(`/api/desk/bookings/${booking.id}/approve`)">Approve</button>
            <button v-if="booking.state === 'awaitingApproval'" type="button" class="press light" @click="closing = { bookingId: booking.id, client: booking.client.name, state: 'declined' }">Decline</button>
            <button v-if="booking.state === 'confirmed' && !over" type="button" class="word" @click="closing = { bookingId: booking.id, client: booking.client.name, state: 'cancelled' }">Cancel this booking</button>
            <a :href="booking.page" target="_blank" rel="noopener">The client’s own page</a>
          </p>
        </article>
      </section>
      <aside>
        <h2>Messages</h2>
        <ul class="messages">
          <template v-for="booking in session.bookings" :key="booking.id">
            <li v-for="message in booking.messages" :key="message.occasion + message.address">
              <strong>{{ occasionWords[message.occasion] }}</strong> to {{ message.address }}
              <span class="quiet" :class="{ broken: message.state === 'failed' || message.state === 'unknown' }">{{ stateWords[message.state] }}{{ message.sentAt ? ` ${stamp(message.sentAt)}` : '' }}</span>
            </li>
          </template>
          <li v-if="session.bookings.every(booking => booking.messages.length === 0)" class="quiet">None.</li>
        </ul>
        <h2>Trail</h2>
        <ol class="trail">
          <li v-for="entry in session.trail" :key="entry.id">
            <time class="quiet" :datetime="new Date(entry.at * 1000).toISOString()">{{ stamp(entry.at) }}</time>
            <bdi :class="{ broken: ['roomFailed', 'roomUnowned', 'roomNotWithdrawn', 'messageFailed', 'messageUnknown'].includes(entry.entry.code) }">{{ saySentence(entry.entry, desk.zone, desk.locale) }}</bdi>
          </li>
        </ol>
      </aside>
    </template>
    <VDialog :model-value="closing !== null" max-width="460" @update:model-value="closing = null">
      <form v-if="closing" class="ask" @submit.prevent="act(`/api/desk/bookings/${closing.bookingId}/close`, { state: closing.state, ...(reason.trim() ? { reason: reason.trim() } : {}) })">
        <h2>{{ closing.state === 'cancelled' ? 'Cancel' : 'Decline' }} {{ closing.client }}’s booking?</h2>
        <p>The client is told by mail at once, and the time is free again.</p>
        <label for="close-reason">Reason <span class="quiet">(if you like; the client reads it)</span></label>
        <VTextarea id="close-reason" v-model="reason" rows="2" maxlength="500" hide-details="auto" />
        <p class="actions">
          <VBtn type="submit" color="error" :loading="busy">{{ closing.state === 'cancelled' ? 'Cancel the booking' : 'Decline the request' }}</VBtn>
          <button type="button" class="word" @click="closing = null">Keep it</button>
        </p>
      </form>
    </VDialog>
  </div>
</template>

<style>
.session {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 420px;
  min-height: calc(100vh - 48px);
}

.session .facts {
  padding: 20px 24px 40px;
}

.session h1 {
  font-size: 26px;
  overflow-wrap: anywhere;
}

.session h2 {
  font-size: 17px;
}

.session dl {
  display: grid;
  grid-template-columns: 150px 1fr;
  gap: 7px 18px;
  margin: 12px 0 16px;
}

.session dl.times {
  border-left: 3px solid var(--marigold);
  padding-left: 14px;
  grid-template-columns: 133px 1fr;
}

.session dl.times dd {
  font-weight: 600;
}

.session dt {
  color: var(--quiet);
  overflow-wrap: anywhere;
}

.session .times dt {
  color: var(--ink);
}

.session .times dt .quiet {
  display: block;
  font-size: 12px;
}

.session dd {
  margin: 0;
  overflow-wrap: anywhere;
}

.session .answer {
  white-space: pre-line;
}

.session .room-facts,
.session .room-actions {
  display: block;
  margin-top: 6px;
}

.session .booking {
  border-top: 1px solid var(--line);
  padding-top: 16px;
}

.session .actions {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px 20px;
}

.session aside {
  background: var(--surface);
  border-left: 1px solid var(--line);
  padding: 20px 22px;
}

.session ul.messages,
.session ol.trail {
  list-style: none;
  margin: 8px 0 22px;
  padding: 0;
}

.session .messages li,
.session .trail li {
  border-top: 1px solid var(--line);
  padding: 8px 0;
  overflow-wrap: anywhere;
}

.session .messages strong::first-letter {
  text-transform: uppercase;
}

.session .messages strong {
  display: inline-block;
}

.session .messages span,
.session .trail time {
  display: block;
  font-size: 12px;
}

.ask {
  background: var(--surface);
  border-radius: var(--corner);
  border-left: 3px solid var(--brick);
  padding: 22px;
  display: grid;
  gap: 10px;
}

.ask .actions {
  display: flex;
  align-items: center;
  gap: 18px;
}

@media (max-width: 1000px) {
  .session {
    grid-template-columns: 1fr;
  }
}
</style>
