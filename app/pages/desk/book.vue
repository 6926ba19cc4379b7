<script setup lang="ts">
import { texts } from '~/locales/book-for-client'
import { VBtn, VTextField } from 'vuetify/components'
import { instantToSeconds } from '~~/core/time/civil'
import { formatDay, formatTime, formatZone } from '~~/core/time/format'
import type { BookableView } from '~~/core/views/book-for-client'
import type { SessionView } from '~~/core/views/desk'
import WhatToBook from '~/components/book/WhatToBook.vue'
import WhoIsBooked from '~/components/book/WhoIsBooked.vue'
import DateField from '~/components/fields/DateField.vue'
import TimesToChoose from '~/components/timetable/TimesToChoose.vue'
import { useDeskBooking } from '~/composables/desk-booking'
import { useEventTypeOpenings, useTurnedOpenings } from '~/composables/event-type-openings'
import { pageError } from '~/composables/page-error'
import { useSubmission } from '~/composables/submission'
import { useTypedTime } from '~/composables/typed-time'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'

/** Booking a client in: what, for whom and when, in an opening or after a warning at any time. */

definePageMeta({ layout: 'desk' })
useHead({ title: texts.pageTitle })

const desk = useDesk()
const notice = useNotice()
const route = useRoute()
const { data, error } = await useFetch<BookableView>('/api/desk/bookable', { key: 'bookable' })
if (!data.value) throw pageError(error.value)
const booking = useDeskBooking(data.value, desk.zone)
const { form, asked, isOneOff } = booking
const { sending, errors, fault, submit } = useSubmission()

const { starts, firstDay, isAtStart, fault: loadFault, begin, turn, reload } = useTurnedOpenings(
  useEventTypeOpenings('/api/desk', desk.now, () => asked.value ?? {}),
)
const chosen = ref<number | null>(null)
const warnings = ref<string[]>([])
const nearest = ref<number[]>([])
const MOST_NEAREST = 3
/** Stays while nobody knows whether the booking was made, so that pressing again cannot book twice. */
const key = ref('')

watch(() => JSON.stringify(asked.value), async () => {
  forget()
  if (asked.value) await begin()
}, { immediate: true })
watch(form, () => (key.value = ''))

function forget(): void {
  key.value = ''
  fault.value = ''
  warnings.value = []
  nearest.value = []
}
function choose(at: number): void {
  chosen.value = at
  forget()
}

const { date, clock, typed } = useTypedTime(() => desk.zone)
watch(typed, at => (at === null ? undefined : choose(at)))

/** From a session: the same client once more. */
onMounted(async () => {
  const { session, client } = route.query
  if (typeof session !== 'string' || typeof client !== 'string') return
  const found = await $fetch<SessionView>(`/api/desk/sessions/${encodeURIComponent(session)}`).catch(() => null)
  if (found) booking.bookAgain(found, client)
})

const stamp = (at: number) => `${formatDay(at, desk.zone, desk.locale, desk.now)}, ${formatTime(at, desk.zone, desk.locale)}`
const press = computed(() => {
  if (chosen.value === null) return texts.chooseATime
  return warnings.value.length > 0 ? texts.pressAllTheSame(stamp(chosen.value)) : texts.press(stamp(chosen.value))
})

/** What cannot be sent as it is, by field. */
function missing(): Record<string, string> {
  return Object.fromEntries([
    ...isOneOff.value && !form.title.trim() ? [['oneOff.title', texts.enterATitle]] : [],
    ...form.name.trim() ? [] : [['client.name', texts.enterAName]],
    ...form.email.trim() ? [] : [['client.email', texts.enterAnAddress]],
  ])
}

async function book(): Promise<void> {
  const start = chosen.value
  if (start === null || sending.value) return
  const despite = warnings.value.length > 0
  key.value ||= crypto.randomUUID()
  const lacks = missing()
  const failed = Object.keys(lacks).length > 0 ? { document: null } : await submit(async () => {
    const { sessionId } = await $fetch<{ sessionId: string }>('/api/desk/bookings', {
      method: 'POST', headers: { 'idempotency-key': key.value }, body: { ...booking.body(start), despite },
    })
    notice.show(texts.booked(form.name.trim()))
    await navigateTo(`/desk/sessions/${sessionId}`)
  })
  if (Object.keys(lacks).length > 0) errors.value = lacks
  if (!failed) return
  const { document } = failed
  if (document) key.value = ''
  warnings.value = document?.reasons ?? []
  if (warnings.value.length > 0) fault.value = ''
  nearest.value = (document?.nearest ?? []).slice(0, MOST_NEAREST).map(({ start }) => instantToSeconds(start))
  if (document?.status === 409) await reload()
  await nextTick()
  window.document.querySelector<HTMLElement>('.book .v-input--error input')?.focus()
}
</script>

<template>
  <form class="book" novalidate @submit.prevent="book">
    <section class="fields">
      <h1>{{ texts.bookAClient }}</h1>
      <WhatToBook :booking="booking" :errors="errors" :locale="desk.locale" />
      <WhoIsBooked :booking="booking" :errors="errors" :locale="desk.locale" :now="desk.now" />
    </section>
    <section class="when">
      <p v-if="!asked" class="quiet none">{{ isOneOff ? texts.chooseHosts : texts.chooseWhat }}</p>
      <p v-else-if="starts === null && !loadFault" class="quiet none">{{ texts.loading }}</p>
      <TimesToChoose
        v-else :starts="starts ?? []" :first-day="firstDay" :is-at-start="isAtStart" :zone="desk.zone" :other-zone="form.zone"
        :locale="desk.locale" :now="desk.now" :chosen="chosen" :title="texts.openingsIn(formatZone(desk.zone))" :fault="loadFault"
        @choose="choose" @turn="turn"
      />
      <div v-if="asked" class="foot" aria-live="polite">
        <div v-if="warnings.length > 0" role="alert">
          <p><strong>{{ texts.clientsCouldNotBookIt }}</strong></p>
          <ul><li v-for="warning in warnings" :key="warning">{{ warning }}</li></ul>
        </div>
        <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
        <p v-if="nearest.length > 0" class="nearest">
          <span class="quiet">{{ texts.nearest }}</span>
          <LinkButton v-for="at in nearest" :key="at" @click="choose(at)">{{ stamp(at) }}</LinkButton>
        </p>
        <div class="do">
          <span class="quiet">{{ texts.anotherTime }}</span>
          <DateField v-model="date" :locale="desk.locale" :label="texts.date" :error-messages="errors['start'] ?? []" />
          <VTextField v-model="clock" :label="texts.timeOfDay" :placeholder="texts.timeExample" hide-details="auto" />
          <VBtn type="submit" size="large" :disabled="chosen === null || !asked" :loading="sending">{{ press }}</VBtn>
        </div>
      </div>
    </section>
  </form>
</template>

<style scoped>
.book {
  display: grid;
  grid-template-columns: 360px minmax(0, 1fr);
  min-height: calc(100vh - 48px);
}

.fields {
  background: var(--surface);
  border-right: 1px solid var(--line);
  padding: 20px 24px 32px;
}

.fields h1 {
  font-size: 24px;
  margin-bottom: 16px;
}

.when {
  padding: 20px 24px 0;
  min-width: 0;
}

.none {
  padding: 8px 0 24px;
}

/* What is about to be done stays in sight while the times are looked through. */
.foot {
  position: sticky;
  bottom: 0;
  z-index: 2;
  margin: 18px -24px 0;
  padding: 14px 24px;
  background: var(--paper);
  border-top: 1px solid var(--line);
}

.foot ul {
  margin: 4px 0 10px;
}

.nearest {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  margin: 6px 0 10px;
}

.do {
  display: flex;
  flex-wrap: wrap;
  align-items: start;
  gap: 10px 16px;
}

.do > span {
  padding-top: 9px;
}

.do > :is(div, .v-input) {
  flex: 0 1 180px;
}

.do > .v-btn {
  margin-left: auto;
}

.when :deep(.times-head) {
  margin-top: 0;
}

@media (max-width: 900px) {
  .book {
    grid-template-columns: 1fr;
  }
}
</style>
