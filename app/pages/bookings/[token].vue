<script setup lang="ts">
import { texts } from '~/locales/client'
import { describeClockChange } from '~~/core/messages/clock-change'
import { instantToSeconds } from '~~/core/time/civil'
import { formatDay, formatList, formatTime, formatZone, zoneDifference } from '~~/core/time/format'
import type { ClientPageView } from '~~/core/views/client'
import AddToCalendar from '~/components/client/AddToCalendar.vue'
import AfterBooking from '~/components/client/AfterBooking.vue'
import BookingFacts from '~/components/client/BookingFacts.vue'
import CancelBooking from '~/components/client/CancelBooking.vue'
import ClientFrame from '~/components/client/ClientFrame.vue'
import { pageError } from '~/composables/page-error'
import { useReaderLocale } from '~/composables/reader-locale'
import { useSessionChanges } from '~/composables/session-changes'

const PayBooking = defineAsyncComponent(() => import('~/components/client/PayBooking.vue'))
const ChangePeople = defineAsyncComponent(() => import('~/components/client/ChangePeople.vue'))
const ChangeGuests = defineAsyncComponent(() => import('~/components/client/ChangeGuests.vue'))
const MoveBooking = defineAsyncComponent(() => import('~/components/client/MoveBooking.vue'))

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
const hostClock = computed(() => (hostClockDiffers.value
  ? texts.whereYourHostIs(
      formatDay(start.value, hostZone.value, locale.value, now.value),
      formatTime(start.value, hostZone.value, locale.value),
      formatZone(hostZone.value),
    )
  : ''))
const change = computed(() => describeClockChange([zone.value, hostZone.value], now.value, start.value, locale.value))

const stands = computed(() => ['confirmed', 'awaitingApproval'].includes(booking.value?.state ?? ''))
const hasMoved = ref(false)
const titles: Record<string, string> = {
  held: texts.heldWhileYouPay,
  confirmed: texts.booked,
  awaitingApproval: texts.requestedAndHeldForYou,
  cancelled: texts.cancelled,
  declined: texts.notPossibleAtThisTime,
  expired: texts.noLongerHeld,
  attended: texts.thankYouForComing,
  missed: texts.missed,
}
const title = computed(() => (hasMoved.value && stands.value ? texts.moved : titles[booking.value?.state ?? ''] ?? texts.yourBooking))
useHead({ title: () => `${title.value} · ${data.value?.workspace.name ?? ''}` })

/** A link that somebody has taken away is not made again. */
const waitsForLink = computed(() => {
  const { state, place, room } = booking.value ?? {}
  return state === 'confirmed' && place?.kind === 'video' && !room?.joinUrl && room?.state !== 'withdrawn'
})

const payment = computed(() => booking.value?.payment)
const waitsForPayment = computed(() => booking.value?.state === 'held')
// What shows where somebody came from has done its work, and need not be passed on with the address.
onMounted(() => {
  if (['mail', 'paid', 'unpayable'].some(name => route.query[name] !== undefined)) history.replaceState(history.state, '', route.path)
})
useSessionChanges(path, () => waitsForLink.value || waitsForPayment.value, () => void refresh())

const doing = ref<'moving' | 'cancelling' | 'inviting' | 'counting' | null>(null)

async function done(what: 'moved' | 'cancelled' | 'invited' | 'counted'): Promise<void> {
  doing.value = null
  hasMoved.value ||= what === 'moved'
  await refresh()
  if (what === 'moved') window.scrollTo({ top: 0, behavior: 'smooth' })
}

/** Until when the client may move or cancel it themselves, where there is a deadline. */
const deadlines = computed(() => {
  const say = (until: string | null | undefined) => (until
    ? texts.until(formatDay(instantToSeconds(until), zone.value, locale.value, now.value), formatTime(instantToSeconds(until), zone.value, locale.value)) : '')
  const page = data.value
  if (!page || booking.value?.state !== 'confirmed' || start.value <= now.value) return ''
  const [move, cancel] = [page.mayMove ? say(page.moveUntil) : '', page.mayCancel ? say(page.cancelUntil) : '']
  if (!page.mayMove && !page.mayCancel) return texts.neitherMoveNorCancel
  if (move === cancel) return move && texts.moveOrCancel(move)
  return [move && texts.moveBy(move), cancel && texts.cancelBy(cancel)].filter(Boolean).join(' ')
})
</script>

<template>
  <ClientFrame v-if="data && booking" :name="data.workspace.name" :home="`/${data.workspace.slug}`">
    <div class="confirmation" :class="{ moving: doing === 'moving' }">
      <p class="state" :class="booking.state" role="status">{{ doing === 'moving' ? texts.untilNow : title }}</p>
      <h1>{{ texts.dayFromTo(formatDay(start, zone, locale, now), formatTime(start, zone, locale), formatTime(end, zone, locale)) }}</h1>
      <p class="quiet zones">
        {{ texts.time(formatZone(zone)) }}{{ hostClock }}
      </p>
      <p v-if="change && booking.state === 'confirmed'" class="change">{{ change }}</p>
      <PayBooking
        v-if="waitsForPayment && payment" :path="path" :payment="payment" :terms="data.refundTerms" :zone="zone" :locale="locale"
        :was-paying="route.query['paid'] !== undefined" :is-unpayable="route.query['unpayable'] !== undefined" @checked="refresh()"
      />
      <AfterBooking
        v-if="stands && (data.afterwards.text || data.afterwards.address)" v-show="doing !== 'moving'" :afterwards="data.afterwards" :stays="doing !== null"
      />
      <BookingFacts v-if="doing !== 'moving'" :page="data" :locale="locale" :now="now" />
      <div v-if="doing === null" class="actions">
        <AddToCalendar v-if="booking.state === 'confirmed'" :path="path" :links="data.calendarLinks" />
        <button v-if="data.mayMove" type="button" class="press light" @click="doing = 'moving'">{{ texts.moveThisBooking }}</button>
        <button v-if="data.mostPeople !== null" type="button" class="word" @click="doing = 'counting'">{{ texts.changePeople }}</button>
        <button v-if="data.mayChangeGuests" type="button" class="word" @click="doing = 'inviting'">{{
          data.guests.length > 0 ? texts.changeGuests : texts.inviteGuests
        }}</button>
        <button v-if="data.mayCancel" type="button" class="word" @click="doing = 'cancelling'">{{
          waitsForPayment ? texts.giveUpThisTime : texts.cancelThisBooking
        }}</button>
        <NuxtLink v-if="data.bookAgain && !waitsForPayment && (!stands || end <= now)" class="press light" :to="data.bookAgain">{{
          ['cancelled', 'declined', 'expired'].includes(booking.state) ? texts.chooseAnotherTime : texts.bookAgain
        }}</NuxtLink>
      </div>
      <p v-if="doing === null && deadlines" class="quiet deadlines">{{ deadlines }}</p>
      <MoveBooking
        v-if="doing === 'moving'" :path="path" :page="data" :locale="locale" :now="now" @moved="done('moved')" @keep="doing = null"
      />
      <ChangePeople
        v-if="doing === 'counting' && data.mostPeople !== null" :path="path" :people="booking.people ?? 1" :most="data.mostPeople"
        @changed="done('counted')" @keep="doing = null"
      />
      <ChangeGuests v-if="doing === 'inviting'" :path="path" :page="data" @changed="done('invited')" @keep="doing = null" />
      <CancelBooking
        v-if="doing === 'cancelling'" :path="path" :hosts="formatList(booking.hosts)" :terms="payment && payment.state !== 'due' ? data.refundTerms : null"
        :time="texts.cancel(formatDay(start, zone, locale, now), formatTime(start, zone, locale))" @cancelled="done('cancelled')" @keep="doing = null"
      />
    </div>
  </ClientFrame>
</template>

<style src="~/components/client/actions.css"></style>

<style scoped>
.confirmation {
  max-width: 720px;
  background: var(--surface);
  border-left: 3px solid var(--marigold);
  border-radius: 0 var(--corner) var(--corner) 0;
  padding: 24px 28px 28px;
}

.confirmation.moving {
  max-width: none;
}

.deadlines {
  margin-top: 10px;
  font-size: 0.9rem;
}

.state {
  font-weight: 600;
  margin-bottom: 4px;
}

.state.cancelled,
.state.declined {
  color: var(--brick);
}

.confirmation h1 {
  text-wrap: balance;
}

.zones {
  margin-top: 4px;
}

.change {
  margin-top: 8px;
  font-size: 0.9rem;
}

@media (max-width: 720px) {
  .confirmation {
    padding: 18px;
  }
}
</style>
