<script setup lang="ts">
import { formatRelativeDay, formatTime } from '~~/core/time/format'
import type { SessionView } from '~~/core/views/desk'
import CloseBooking from '~/components/session/CloseBooking.vue'
import SessionBooking from '~/components/session/SessionBooking.vue'
import SessionRecord from '~/components/session/SessionRecord.vue'
import SessionRoom from '~/components/session/SessionRoom.vue'
import SessionTimes from '~/components/session/SessionTimes.vue'
import { problemOf } from '~/composables/problem'
import { useDesk } from '~/stores/desk'

definePageMeta({ layout: 'desk' })

const desk = useDesk()
const id = String(useRoute().params['id'])
const session = ref<SessionView | null>(null)
const fault = ref('')
const closing = ref<{ booking: SessionView['bookings'][number], state: 'cancelled' | 'declined' } | null>(null)
const busy = ref(false)

useHead({ title: () => `${session.value?.eventType.name ?? 'Session'} · Temporia` })

async function load(): Promise<void> {
  try {
    session.value = await $fetch<SessionView>(`/api/desk/sessions/${id}`)
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
    closing.value = null
  } catch (error) {
    fault.value = problemOf(error).message
  } finally {
    busy.value = false
    await load()
  }
}

function close(reason: string): void {
  if (closing.value)
    void act(`/api/desk/bookings/${closing.value.booking.id}/close`, { state: closing.value.state, ...(reason ? { reason } : {}) })
}

const stamp = (instant: number) =>
  `${formatRelativeDay(instant, desk.zone, desk.locale, desk.now)} ${formatTime(instant, desk.zone, desk.locale)}`
const over = computed(() => (session.value ? session.value.end < desk.now : false))
</script>

<template>
  <div class="session">
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-if="!session && !fault" class="quiet">Loading…</p>
    <template v-if="session">
      <section class="facts">
        <p class="quiet"><NuxtLink :to="`/desk/event-types/${session.eventType.id}`">{{ session.eventType.name }}</NuxtLink>{{ session.cancelled ? ' · cancelled' : over ? ' · over' : '' }}</p>
        <h1 dir="auto">{{ session.bookings.map(booking => booking.client.name).join(', ') }}</h1>
        <SessionTimes :session="session" :zone="desk.zone" :locale="desk.locale" :now="desk.now" />
        <dl>
          <dt>Hosts</dt>
          <dd>{{ session.hosts.map(host => host.name).join(', ') }}</dd>
          <dt>Where</dt>
          <dd>{{ session.place.text }}</dd>
          <template v-if="session.room">
            <dt>Room</dt>
            <dd><SessionRoom :room="session.room" :busy="busy" :stamp="stamp" @retry="act(`/api/desk/sessions/${id}/room`)" /></dd>
          </template>
        </dl>
        <SessionBooking
          v-for="booking in session.bookings" :key="booking.id" :booking="booking" :over="over" :busy="busy" :stamp="stamp"
          @approve="act(`/api/desk/bookings/${booking.id}/approve`)" @close="closing = { booking, state: $event }"
        />
      </section>
      <SessionRecord
        :session="session" :zone="desk.zone" :locale="desk.locale" :busy="busy" :stamp="stamp"
        @send="act(`/api/desk/deliveries/${$event}/send`)"
      />
    </template>
    <CloseBooking
      v-if="closing" :client="closing.booking.client.name" :state="closing.state" :busy="busy" @close="close"
      @keep="closing = null"
    />
  </div>
</template>

<style src="~/components/session/session.css"></style>
