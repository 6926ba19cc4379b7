<script setup lang="ts">
import { describeClockChange } from '~~/core/messages/clock-change'
import { instantToSeconds } from '~~/core/time/civil'
import { formatDay, formatList, formatTime, formatZone, zoneDifference } from '~~/core/time/format'
import type { ClientPageView } from '~~/core/views/client'
import { withHosts } from '~~/core/messages/with-hosts'
import ClientFrame from '~/components/client/ClientFrame.vue'
import { useReaderLocale } from '~/composables/reader-locale'
import { pageError } from '~/composables/page-error'

definePageMeta({ ui: 'light' })
useHead({ meta: [{ name: 'robots', content: 'noindex' }, { name: 'referrer', content: 'no-referrer' }] })

const route = useRoute()
const token = String(route.params['token'])
const path = `/api/public/bookings/${encodeURIComponent(token)}`
const { data, error, refresh } = await useFetch<ClientPageView>(`${path}/page`, {
  key: 'booking',
  query: typeof route.query['mail'] === 'string' ? { mail: route.query['mail'] } : {},
})
if (!data.value) throw pageError(error.value)
const locale = useReaderLocale()
const now = useState('now', () => Math.floor(Date.now() / 1000))

const booking = computed(() => data.value?.booking)
const start = computed(() => instantToSeconds(booking.value?.start ?? ''))
const end = computed(() => instantToSeconds(booking.value?.end ?? ''))
const zone = computed(() => booking.value?.timeZone ?? 'UTC')
const hostZone = computed(() => data.value?.hostZone ?? 'UTC')
/** Zones with the same clock need not be told apart. */
const hostClockDiffers = computed(() => zoneDifference(hostZone.value, zone.value, start.value) !== 0)
const change = computed(() => describeClockChange([zone.value, hostZone.value], now.value, start.value, locale.value))

const titles: Record<string, string> = {
  confirmed: 'Booked',
  awaitingApproval: 'Requested, and held for you',
  cancelled: 'Cancelled',
  declined: 'Not possible at this time',
  expired: 'No longer held',
  attended: 'Thank you for coming',
  missed: 'Missed',
}
const title = computed(() => titles[booking.value?.state ?? ''] ?? 'Your booking')
useHead({ title: () => `${title.value} · ${data.value?.workspace.name ?? ''}` })

const waitsForLink = computed(
  () => booking.value?.state === 'confirmed' && booking.value.place.kind === 'video' && !booking.value.room?.joinUrl,
)

const POLL_SECONDS = 3
const MOST_POLLS = 100
onMounted(() => {
  // What shows that the link came by mail has done its work, and need not be passed on with the address.
  if (route.query['mail']) history.replaceState(history.state, '', route.path)
  let polls = 0
  const timer = setInterval(() => {
    if (waitsForLink.value && polls++ < MOST_POLLS) void refresh()
    else clearInterval(timer)
  }, POLL_SECONDS * 1000)
  onBeforeUnmount(() => clearInterval(timer))
})

const stands = computed(() => ['confirmed', 'awaitingApproval'].includes(booking.value?.state ?? ''))
const onward = computed(() => (data.value?.afterwards.address ? new URL(data.value.afterwards.address).hostname : ''))
/** Only who has just booked is led on; there is time to read, and a way to stay. */
const LEAD_ON_MS = 8000
const leadsOn = ref(false)
onMounted(() => {
  const address = data.value?.afterwards.address
  if (!address || !stands.value || useRoute().query['booked'] === undefined) return
  leadsOn.value = true
  const timer = setTimeout(() => leadsOn.value && window.location.assign(address), LEAD_ON_MS)
  onBeforeUnmount(() => clearTimeout(timer))
})

const asking = ref(false)
const reason = ref('')
const fault = ref('')
const sending = ref(false)

const form = useTemplateRef<HTMLFormElement>('form')
/** What must be confirmed comes into sight, with the cursor in it. */
async function askToCancel(): Promise<void> {
  asking.value = true
  await nextTick()
  form.value?.scrollIntoView({ behavior: 'smooth', block: 'center' })
  form.value?.querySelector('textarea')?.focus({ preventScroll: true })
}

async function cancel(): Promise<void> {
  sending.value = true
  fault.value = ''
  try {
    await $fetch(`${path}/cancel`, { method: 'POST', body: reason.value.trim() ? { reason: reason.value.trim() } : {} })
    asking.value = false
    await refresh()
  } catch {
    fault.value = 'It could not be cancelled. Please try again.'
  } finally {
    sending.value = false
  }
}
</script>

<template>
  <ClientFrame v-if="data && booking" :name="data.workspace.name" :home="`/${data.workspace.slug}`">
    <div class="confirmation">
      <p class="state" :class="booking.state" role="status">{{ title }}</p>
      <h1>{{ formatDay(start, zone, locale, now) }}, {{ formatTime(start, zone, locale) }} to {{ formatTime(end, zone, locale) }}</h1>
      <p class="quiet zones">
        {{ formatZone(zone) }} time<template v-if="hostClockDiffers">; {{ formatDay(start, hostZone, locale, now) }}, {{ formatTime(start, hostZone, locale) }} in {{ formatZone(hostZone) }}, where your host is</template>
      </p>
      <p v-if="change && booking.state === 'confirmed'" class="change">{{ change }}</p>
      <div v-if="stands && (data.afterwards.text || data.afterwards.address)" class="afterwards">
        <p v-if="data.afterwards.text">{{ data.afterwards.text }}</p>
        <p v-if="data.afterwards.address" role="status">
          <template v-if="leadsOn">You will be taken to {{ onward }} in a moment. <button type="button" class="word" @click="leadsOn = false">Stay here</button></template>
          <a v-else :href="data.afterwards.address" rel="noopener">Continue to {{ onward }}</a>
        </p>
      </div>
      <dl>
        <dt>What</dt>
        <dd>{{ withHosts(data.eventType.name, booking.hosts) }}</dd>
        <template v-if="booking.state === 'confirmed' && booking.place.kind === 'video'">
          <dt>How to join</dt>
          <dd v-if="booking.room?.joinUrl">
            <a class="press" :href="booking.room.joinUrl">Open the room</a>
            <span class="numbers">Number <strong>{{ booking.room.number }}</strong> · Passcode <strong>{{ booking.room.passcode }}</strong></span>
          </dd>
          <dd v-else aria-live="polite">The video link is being made. It will appear here in a moment and in your mail.</dd>
        </template>
        <template v-else>
          <dt>Where</dt>
          <dd>{{ booking.place.kind === 'video' ? 'By video' : booking.place.detail || booking.place.label }}</dd>
        </template>
        <template v-if="booking.state === 'awaitingApproval'">
          <dt>What happens now</dt>
          <dd>{{ formatList(booking.hosts) }} will approve or decline it. You get a mail either way.</dd>
        </template>
        <dt>For</dt>
        <dd dir="auto">{{ data.client.name }} <span class="quiet">{{ data.client.email }}</span></dd>
        <template v-for="answer in data.answers" :key="answer.label">
          <dt dir="auto">{{ answer.label }}</dt>
          <dd dir="auto" class="answer">{{ answer.text }}</dd>
        </template>
        <template v-if="data.cancelReason">
          <dt>Reason</dt>
          <dd dir="auto">{{ data.cancelReason }}</dd>
        </template>
      </dl>
      <div v-if="!asking" class="actions">
        <a v-if="booking.state === 'confirmed'" class="press light" :href="`${path}/calendar.ics`">Add to calendar</a>
        <button v-if="data.mayCancel" type="button" class="word" @click="askToCancel">Cancel this booking</button>
        <NuxtLink
          v-if="!data.mayCancel" class="press light" :to="`/${data.workspace.slug}/${data.eventType.slug}`"
        >Choose another time</NuxtLink>
      </div>
      <form v-else ref="form" class="cancel" @submit.prevent="cancel">
        <label for="reason">Why are you cancelling? <span class="quiet">(optional; {{ formatList(booking.hosts) }} will read it)</span></label>
        <textarea id="reason" v-model="reason" rows="2" maxlength="500" />
        <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
        <div class="actions">
          <button type="submit" class="press grave" :disabled="sending">Cancel {{ formatDay(start, zone, locale, now) }}, {{ formatTime(start, zone, locale) }}</button>
          <button type="button" class="word" @click="asking = false">Keep the booking</button>
        </div>
      </form>
    </div>
  </ClientFrame>
</template>

<style scoped>
.afterwards {
  border-left: 3px solid var(--marigold);
  background: var(--surface);
  padding: 12px 16px;
  margin: 14px 0 4px;
  white-space: pre-line;
}

.confirmation {
  max-width: 720px;
  background: var(--surface);
  border-left: 3px solid var(--marigold);
  border-radius: 0 var(--corner) var(--corner) 0;
  padding: 24px 28px 28px;
}

.state {
  font-weight: 600;
  margin-bottom: 4px;
}

.state.cancelled,
.state.declined {
  color: var(--brick);
}

.zones {
  margin-top: 4px;
}

.change {
  margin-top: 8px;
  font-size: 0.9rem;
}

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

.actions {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px 22px;
}

.actions .word {
  min-height: 24px;
}

.cancel {
  display: grid;
  gap: 8px;
}

.cancel textarea {
  border: 1px solid var(--quiet);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 8px 10px;
}

@media (max-width: 720px) {
  .confirmation {
    padding: 18px;
  }

  dl {
    grid-template-columns: 1fr;
    gap: 2px;
  }

  dd {
    margin-bottom: 10px;
  }
}
</style>
