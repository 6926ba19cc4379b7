<script setup lang="ts">
import { texts } from '~/locales/desk'
import { VBtn, VMenu } from 'vuetify/components'
import { DAY, formatDate, parseDate } from '~~/core/time/civil'
import { formatDay, formatList, formatRelativeDay, formatTime } from '~~/core/time/format'
import { zoneOf } from '~~/core/time/zone'
import ComingDays from '~/components/desk/ComingDays.vue'
import DayLine from '~/components/desk/DayLine.vue'
import NeedsYou from '~/components/desk/NeedsYou.vue'
import SetupList from '~/components/desk/SetupList.vue'
import { useDecisions } from '~/stores/decisions'
import { useDesk } from '~/stores/desk'
import { useToday } from '~/stores/today'

definePageMeta({ layout: 'desk' })

const desk = useDesk()
const today = useToday()
const decisions = useDecisions()
const route = useRoute()

/** The day that is shown stands in the address; without one it is today. */
const todayDate = computed(() => zoneOf(desk.zone).dayOf(desk.now))
const asked = computed(() => (typeof route.query['date'] === 'string' ? parseDate(route.query['date']) : null))
const day = computed(() => asked.value ?? todayDate.value)
const isToday = computed(() => day.value === todayDate.value)
const addressOf = (day: number) => (day === todayDate.value ? { path: '/desk' } : { path: '/desk', query: { date: formatDate(day) } })
const noon = computed(() => zoneOf(desk.zone).startOfDay(day.value) + DAY / 2)
const title = computed(() => formatDay(noon.value, desk.zone, desk.locale, desk.now))
useHead({ title: () => texts.pageTitle(isToday.value ? texts.today : title.value) })

const RELOAD_SECONDS = 10
watch([() => desk.zone, day], () => today.show(isToday.value ? null : formatDate(day.value)), { immediate: true })
onMounted(() => {
  const timer = setInterval(today.load, RELOAD_SECONDS * 1000)
  onBeforeUnmount(() => clearInterval(timer))
})
onBeforeRouteLeave(() => void decisions.sendNow())

/** It is large, and needed only once it is opened. */
const VDatePicker = defineAsyncComponent(async () => (await import('vuetify/components/VDatePicker')).VDatePicker)
const pickerOpen = ref(false)
function pick(value: unknown): void {
  pickerOpen.value = false
  if (value instanceof Date) void navigateTo(addressOf(Date.UTC(value.getFullYear(), value.getMonth(), value.getDate()) / (DAY * 1000)))
}

const cancelledShown = ref(false)
const cancelled = computed(() => today.view?.cancelled ?? [])

const cancelledWords = computed(() =>
  (cancelledShown.value ? texts.hideCancelledSessions : texts.show(texts.cancelledSessionCount(cancelled.value.length))),
)

const next = computed(() => today.view?.next ?? null)
const when = computed(() => {
  if (!next.value) return ''
  const minutes = Math.ceil((next.value.start - desk.now) / 60)
  if (minutes <= 0) return texts.now
  if (minutes < 90) return texts.inDuration(texts.minuteCount(minutes))
  return `${formatRelativeDay(next.value.start, desk.zone, desk.locale, desk.now)} ${formatTime(next.value.start, desk.zone, desk.locale)}`
})
</script>

<template>
  <div class="today">
    <section class="day">
      <header>
        <h1>{{ title }}</h1>
        <nav :aria-label="texts.day">
          <VBtn size="small" to="/desk/book">{{ texts.bookAClient }}</VBtn>
          <VBtn variant="outlined" size="small" :to="addressOf(day - 1)" :active="false" :aria-label="texts.theDayBefore">‹</VBtn>
          <VBtn variant="outlined" size="small" :to="addressOf(todayDate)" :active="false" :disabled="isToday">{{ texts.today }}</VBtn>
          <VBtn variant="outlined" size="small" :to="addressOf(day + 1)" :active="false" :aria-label="texts.theDayAfter">›</VBtn>
          <VMenu v-model="pickerOpen" :close-on-content-click="false">
            <template #activator="{ props: activator }">
              <VBtn variant="outlined" size="small" v-bind="activator">{{ texts.anotherDay }}</VBtn>
            </template>
            <VDatePicker hide-header :first-day-of-week="1" @update:model-value="pick" />
          </VMenu>
        </nav>
      </header>
      <p v-if="today.fault" class="fault" role="alert">{{ today.fault }}</p>
      <p v-else-if="!today.view" class="quiet">{{ texts.loading }}</p>
      <template v-if="today.view">
        <SetupList v-if="today.view.setup.length > 0" :steps="today.view.setup" />
        <div v-if="next" class="next">
          <h2>{{ when }}</h2>
          <div class="about">
            <NuxtLink :to="`/desk/sessions/${next.id}`"><strong dir="auto">{{ formatList(next.bookings.map(booking => booking.client)) }}</strong>, {{ next.eventType }}</NuxtLink>
            <p class="quiet" dir="auto">
              {{ texts.fromToWith(formatTime(next.start, desk.zone, desk.locale), formatTime(next.end, desk.zone, desk.locale), formatList(next.hosts.map(host => host.name))) }}<template v-if="next.bookings[0]?.firstAnswers.length"> · {{ next.bookings[0].firstAnswers.join(' · ') }}</template>
            </p>
          </div>
          <VBtn v-if="next.room?.hostUrl" :href="next.room.hostUrl" target="_blank" rel="noopener">{{ texts.openRoom }}</VBtn>
          <VBtn v-else variant="outlined" :to="`/desk/sessions/${next.id}`">{{ texts.seeTheSession }}</VBtn>
        </div>
        <p v-else-if="isToday" class="next quiet">{{ texts.noSessionIsComingUp }}</p>
        <p v-if="cancelled.length > 0" class="cancelled">
          <LinkButton :aria-pressed="cancelledShown" @click="cancelledShown = !cancelledShown">{{ cancelledWords }}</LinkButton>
        </p>
        <DayLine
          v-if="today.view.hosts.length > 0" :hosts="today.view.hosts" :cards="today.view.today"
          :cancelled="cancelledShown ? cancelled : []"
          :day="day" :zone="desk.zone" :locale="desk.locale"
          :now="desk.now"
        />
      </template>
    </section>
    <aside v-if="today.view" class="side">
      <NeedsYou :cards="today.view.waiting" :attention="today.view.attention" :hosts="today.view.hosts" />
      <ComingDays :days="today.view.comingDays" :address-of="addressOf" />
    </aside>
  </div>
</template>

<style scoped>
.today {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 348px;
  min-height: calc(100vh - 48px);
}

.day {
  padding: 20px 24px 32px;
}

.day > header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: 8px 16px;
  margin-bottom: 10px;
}

.day h1 {
  font-size: 24px;
}

.day nav {
  display: flex;
  gap: 6px;
}

.cancelled {
  margin-bottom: 6px;
}

.next {
  display: flex;
  align-items: center;
  gap: 22px;
  min-height: 64px;
  margin-bottom: 14px;
}

.next h2 {
  font-size: 22px;
  white-space: nowrap;
}

.next .about {
  flex: 1;
  min-width: 0;
}

.next .about p {
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  line-clamp: 2;
  overflow: hidden;
}

.next .about a {
  color: var(--ink);
  font-size: 16px;
  text-decoration: none;
}

.next .about a:hover {
  text-decoration: underline;
}

.side {
  background: var(--surface);
  border-left: 1px solid var(--line);
  padding: 20px 22px;
}

/* What waits stays in sight while the day is scrolled. */
@media (min-width: 901px) {
  .side {
    position: sticky;
    top: 0;
    align-self: start;
    max-height: 100vh;
    min-height: calc(100vh - 48px);
    overflow-y: auto;
  }
}

@media (max-width: 900px) {
  .today {
    grid-template-columns: 1fr;
  }
}
</style>
