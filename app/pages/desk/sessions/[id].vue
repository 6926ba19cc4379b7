<script setup lang="ts">
import { texts } from '~/locales/session'
import { formatRelativeDayInSentence, formatTime } from '~~/core/time/format'
import type { SessionView } from '~~/core/views/desk'
import ChangePlace from '~/components/session/ChangePlace.vue'
import ChangeRoom from '~/components/session/ChangeRoom.vue'
import CloseBooking from '~/components/session/CloseBooking.vue'
import SessionBooking from '~/components/session/SessionBooking.vue'
import SessionHosts from '~/components/session/SessionHosts.vue'
import SessionNotes from '~/components/session/SessionNotes.vue'
import SessionRecord from '~/components/session/SessionRecord.vue'
import SessionRoom from '~/components/session/SessionRoom.vue'
import SessionTimes from '~/components/session/SessionTimes.vue'
import { problemOf } from '~/composables/problem'
import { useDecisions } from '~/stores/decisions'
import { useDesk } from '~/stores/desk'

const MoveDialog = defineAsyncComponent(() => import('~/components/session/MoveDialog.vue'))
const PeopleDialog = defineAsyncComponent(() => import('~/components/session/PeopleDialog.vue'))
const GuestsDialog = defineAsyncComponent(() => import('~/components/session/GuestsDialog.vue'))
const HandOverDialog = defineAsyncComponent(() => import('~/components/people/HandOverDialog.vue'))

definePageMeta({ layout: 'desk' })

const desk = useDesk()
const decisions = useDecisions()
const id = String(useRoute().params['id'])
const session = ref<SessionView | null>(null)
const fault = ref('')
type Booking = SessionView['bookings'][number]
const closing = ref<{ booking: Booking, state: 'cancelled' | 'declined' } | null>(null)
const counting = shallowRef<Booking | null>(null)
const inviting = shallowRef<Booking | null>(null)
const moving = shallowRef<Booking | null>(null)
const handingOver = shallowRef<{ id: string, name: string } | null>(null)
const busy = ref(false)

useHead({ title: () => texts.pageTitle(session.value?.eventType.name ?? texts.session) })

async function load(): Promise<void> {
  try {
    const found = await $fetch<SessionView>(`/api/desk/sessions/${id}`)
    // Everybody has gone to another session since.
    if (found.id !== id) return void await navigateTo(`/desk/sessions/${found.id}`, { replace: true })
    session.value = found
  } catch (error) {
    fault.value = problemOf(error).message
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
  } catch (error) {
    fault.value = problemOf(error).message
  } finally {
    busy.value = false
    await load()
  }
}

function approve({ id: bookingId, client }: Booking): void {
  decisions.decide(bookingId, { path: `/api/desk/bookings/${bookingId}/approve`, text: texts.approved(client.name), after: load })
}

/** A client who leaves a shared session takes the reader along. */
async function moved(sessionId: string): Promise<void> {
  moving.value = null
  if (sessionId !== id) await navigateTo(`/desk/sessions/${sessionId}`)
  else await load()
}

/** Declining can be taken back for a moment; cancelling was asked about and is done at once. */
function close(reason: string): void {
  if (!closing.value) return
  const { booking, state } = closing.value
  const path = `/api/desk/bookings/${booking.id}/close`
  const body = { state, ...(reason ? { reason } : {}) }
  closing.value = null
  if (state === 'declined') decisions.decide(booking.id, { path, body, text: texts.declined(booking.client.name), after: load })
  else void act(path, body)
}
onBeforeRouteLeave(() => void decisions.sendNow())

const stamp = (instant: number) =>
  `${formatRelativeDayInSentence(instant, desk.zone, desk.locale, desk.now)} ${formatTime(instant, desk.zone, desk.locale)}`
const confirmed = computed(() => (session.value?.bookings ?? []).flatMap(({ state, client }) => (state === 'confirmed' ? [client.name] : [])))
const mayChangePlace = computed(() =>
  session.value?.mayChange === true && !over.value && !session.value.cancelled && confirmed.value.length > 0)
const over = computed(() => (session.value ? session.value.end < desk.now : false))
</script>

<template>
  <div class="session">
    <p v-if="fault || decisions.failed" class="fault" role="alert">{{ fault || decisions.failed }}</p>
    <p v-if="!session && !fault" class="quiet">{{ texts.loading }}</p>
    <template v-if="session">
      <section class="facts">
        <p class="quiet"><template v-if="session.eventType.oneOff">{{ session.eventType.name }}</template><NuxtLink v-else :to="`/desk/event-types/${session.eventType.id}`">{{ session.eventType.name }}</NuxtLink>{{ session.cancelled ? texts.cancelled : over ? texts.over : '' }}</p>
        <h1 dir="auto">{{ session.bookings.map(booking => booking.client.name).join(', ') }}</h1>
        <SessionTimes :session="session" :zone="desk.zone" :locale="desk.locale" :now="desk.now" />
        <dl>
          <dt>{{ texts.hosts }}</dt>
          <dd>
            <SessionHosts
              :session="session" :locale="desk.locale" :may-hand-over="session.mayChange && !session.cancelled && session.start > desk.now"
              @hand-over="handingOver = $event"
            />
          </dd>
          <dt>{{ texts.where }}</dt>
          <dd>
            {{ session.place.text }}
            <span v-if="session.place.note" class="quiet">{{ session.place.note }}</span>
            <ChangePlace v-if="mayChangePlace" :session="session" :clients="confirmed" @changed="load" />
          </dd>
          <template v-if="session.room && session.place.kind === 'video'">
            <dt>{{ texts.room }}</dt>
            <dd>
              <SessionRoom
                :room="session.room" :may-change="session.mayChange" :busy="busy" :stamp="stamp"
                @retry="act(`/api/desk/sessions/${id}/room`)"
              />
              <ChangeRoom
                v-if="mayChangePlace" :session-id="id" :clients="confirmed"
                :hosts="session.hosts.map(host => host.name)" :has-room="session.room.joinUrl !== null" @changed="load"
              />
            </dd>
          </template>
          <template v-if="session.mayChange || session.notes || session.tags.length > 0">
            <dt>{{ texts.notes }}</dt>
            <dd><SessionNotes :session="session" @changed="load" /></dd>
          </template>
        </dl>
        <SessionBooking
          v-for="booking in session.bookings" :key="booking.id" :booking="booking" :session-id="id" :may-change="session.mayChange"
          :begun="session.start <= desk.now" :over="over" :busy="busy" :locale="desk.locale" :stamp="stamp"
          @approve="approve(booking)" @move="moving = booking"
          @paid="act(`/api/desk/bookings/${booking.id}/payment`, { paid: $event })" @people="counting = booking" @guests="inviting = booking"
          @attendance="act(`/api/desk/bookings/${booking.id}/attendance`, { state: $event })" @close="closing = { booking, state: $event }"
        />
      </section>
      <SessionRecord
        :session="session" :zone="desk.zone" :locale="desk.locale" :busy="busy" :stamp="stamp"
        @send="act(`/api/desk/deliveries/${$event}/send`)"
      />
    </template>
    <HandOverDialog
      v-if="handingOver" :model-value="true" :host="handingOver" :session-id="id" @update:model-value="handingOver = null" @done="load"
    />
    <MoveDialog v-if="moving && session" :session="session" :booking="moving" @moved="moved" @close="moving = null" />
    <PeopleDialog v-if="counting" :booking="counting" @changed="counting = null, load()" @keep="counting = null" />
    <GuestsDialog v-if="inviting" :booking="inviting" @changed="inviting = null, load()" @keep="inviting = null" />
    <CloseBooking
      v-if="closing" :client="closing.booking.client.name" :state="closing.state" :busy="busy" @close="close"
      @keep="closing = null"
    />
  </div>
</template>

<style src="~/components/session/session.css"></style>
