<script setup lang="ts">
import { texts } from '~/locales/client'
import { nameGuest } from '~~/core/booking/guests'
import { describeClockChange } from '~~/core/messages/clock-change'
import { instantToSeconds } from '~~/core/time/civil'
import { formatDay, formatList, formatTime, formatZone, zoneDifference } from '~~/core/time/format'
import type { ClientPageView } from '~~/core/views/client'
import { withHosts } from '~~/core/messages/with-hosts'
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

/** Somebody has taken the link away; another one is not being made. */
const isLinkRemoved = computed(() => booking.value?.room?.state === 'withdrawn')
const waitsForLink = computed(
  () => booking.value?.state === 'confirmed' && booking.value.place.kind === 'video' && !booking.value.room?.joinUrl && !isLinkRemoved.value,
)

const linkWords = computed(() => {
  if (isLinkRemoved.value) return texts.noVideoLink(formatList(booking.value?.hosts ?? []))
  return booking.value?.room?.state === 'failing' ? texts.linkIsLate : texts.theVideoLinkIsBeingMade
})

const payment = computed(() => booking.value?.payment)
const waitsForPayment = computed(() => booking.value?.state === 'held')
// What shows where somebody came from has done its work, and need not be passed on with the address.
onMounted(() => {
  if (['mail', 'paid', 'unpayable'].some(name => route.query[name] !== undefined)) history.replaceState(history.state, '', route.path)
})
useSessionChanges(path, () => waitsForLink.value || waitsForPayment.value, () => void refresh())

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

/** Calendar programs that read this address again now and then show what the booking has become. */
const subscription = `webcal://${useRequestURL().host}${path}/calendar.ics`

const doing = ref<'moving' | 'cancelling' | 'inviting' | 'counting' | null>(null)

async function done(what: 'moved' | 'cancelled' | 'invited' | 'counted'): Promise<void> {
  doing.value = null
  hasMoved.value ||= what === 'moved'
  await refresh()
  if (what === 'moved') window.scrollTo({ top: 0, behavior: 'smooth' })
}

const heldUntil = computed(() => {
  const until = data.value?.heldUntil ? instantToSeconds(data.value.heldUntil) : start.value
  return until < start.value ? texts.until(formatDay(until, zone.value, locale.value, now.value), formatTime(until, zone.value, locale.value)) : ''
})
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
      <div v-if="doing !== 'moving' && stands && (data.afterwards.text || data.afterwards.address)" class="afterwards">
        <p v-if="data.afterwards.text">{{ data.afterwards.text }}</p>
        <p v-if="data.afterwards.address" role="status">
          <template v-if="leadsOn">{{ texts.youWillBeTakenOn(onward) }} <button type="button" class="word" @click="leadsOn = false">{{ texts.stayHere }}</button></template>
          <a v-else :href="data.afterwards.address" rel="noopener">{{ texts.continueTo(onward) }}</a>
        </p>
      </div>
      <dl v-if="doing !== 'moving'">
        <dt>{{ texts.what }}</dt>
        <dd>{{ withHosts(data.eventType.name, booking.hosts) }}</dd>
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
        <template v-if="data.suggestion">
          <dt>{{ texts.youSuggested }}</dt>
          <dd dir="auto">{{ data.suggestion }}</dd>
        </template>
        <template v-if="payment && !waitsForPayment">
          <dt>{{ texts.payment }}</dt>
          <dd>{{ texts.paymentIs(payment, locale) }}</dd>
        </template>
        <template v-if="booking.state === 'awaitingApproval'">
          <dt>{{ texts.whatHappensNow }}</dt>
          <dd>{{ texts.hostsApproveOrDecline(formatList(booking.hosts), heldUntil) }}</dd>
        </template>
        <dt>{{ texts.forWhom }}</dt>
        <dd dir="auto">{{ data.client.name }} <span class="quiet">{{ data.client.email }}</span></dd>
        <template v-if="booking.people !== undefined">
          <dt>{{ texts.howManyComeNow }}</dt>
          <dd>{{ texts.people(booking.people) }}</dd>
        </template>
        <template v-if="data.guests.length > 0">
          <dt>{{ texts.guests }}</dt>
          <dd dir="auto">{{ formatList(data.guests.map(nameGuest)) }}</dd>
        </template>
        <template v-for="answer in data.answers" :key="answer.label">
          <dt dir="auto">{{ answer.label }}</dt>
          <dd dir="auto" class="answer">{{ answer.text }}</dd>
        </template>
        <template v-if="data.cancelReason">
          <dt>{{ texts.reason }}</dt>
          <dd dir="auto">{{ data.cancelReason }}</dd>
        </template>
      </dl>
      <div v-if="doing === null" class="actions">
        <details v-if="booking.state === 'confirmed'" class="calendars">
          <summary class="press light">{{ texts.addToCalendar }}</summary>
          <ul>
            <li><a :href="`${path}/calendar.ics`">{{ texts.asAFile }}</a></li>
            <li><a :href="subscription">{{ texts.bySubscription }}</a> <span class="quiet">{{ texts.bySubscriptionHint }}</span></li>
            <li v-for="link in data.calendarLinks" :key="link.address"><a :href="link.address" target="_blank" rel="noopener noreferrer">{{ link.name }}</a></li>
          </ul>
        </details>
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

.confirmation.moving {
  max-width: none;
}

.calendars summary {
  list-style: none;
}

.calendars summary::-webkit-details-marker {
  display: none;
}

.calendars[open] {
  flex-basis: 100%;
}

.calendars ul {
  list-style: none;
  margin: 10px 0 4px;
  padding: 0 0 0 14px;
  border-left: 2px solid var(--line);
  display: grid;
  gap: 8px;
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
