<script setup lang="ts">
import type { SessionCard, TodayView } from '~~/core/views/desk'
import { formatRelativeDay, formatTime } from '~~/core/time/format'
import ComingDays from '~/components/desk/ComingDays.vue'
import DayLine from '~/components/desk/DayLine.vue'
import NeedsYou from '~/components/desk/NeedsYou.vue'
import { problemOf } from '~/composables/problem'
import { useDesk } from '~/stores/desk'

definePageMeta({ layout: 'desk' })
useHead({ title: 'Today · Temporia' })

const desk = useDesk()
const view = ref<TodayView | null>(null)
const fault = ref('')

async function load(): Promise<void> {
  try {
    view.value = await $fetch<TodayView>('/api/desk/today', { query: { timeZone: desk.zone } })
    fault.value = ''
  } catch (error) {
    fault.value = problemOf(error).message
  }
}

const RELOAD_SECONDS = 10
watch(() => desk.zone, load)
onMounted(() => {
  void load()
  const timer = setInterval(load, RELOAD_SECONDS * 1000)
  onBeforeUnmount(() => clearInterval(timer))
})

/** The next session of one's own; without a lane of one's own, anybody's. */
const next = computed<SessionCard | null>(() => {
  if (!view.value) return null
  const own = new Set(view.value.hosts.filter(host => host.own).map(host => host.id))
  const ahead = [...view.value.today, ...view.value.coming].filter(
    card => card.end > desk.now && card.bookings.some(booking => booking.state === 'confirmed'),
  )
  return ahead.find(card => own.size === 0 || card.hosts.some(host => own.has(host.id))) ?? null
})

const when = computed(() => {
  if (!next.value) return ''
  const minutes = Math.ceil((next.value.start - desk.now) / 60)
  if (minutes <= 0) return 'Now'
  if (minutes === 1) return 'In 1 minute'
  if (minutes < 90) return `In ${minutes} minutes`
  return `${formatRelativeDay(next.value.start, desk.zone, desk.locale, desk.now)} ${formatTime(next.value.start, desk.zone, desk.locale)}`
})
</script>

<template>
  <div class="today">
    <section v-if="view" class="day">
      <h1 class="visually-hidden">Today</h1>
      <div v-if="next" class="next">
        <h2>{{ when }}</h2>
        <div class="about">
          <NuxtLink :to="`/desk/sessions/${next.id}`"><strong dir="auto">{{ next.bookings.map(booking => booking.client).join(', ') }}</strong>, {{ next.eventType }}</NuxtLink>
          <p class="quiet" dir="auto">
            {{ formatTime(next.start, desk.zone, desk.locale) }} to {{ formatTime(next.end, desk.zone, desk.locale) }} · {{ next.hosts.map(host => host.name).join(', ') }}<template v-if="next.bookings[0]?.firstAnswers.length"> · {{ next.bookings[0].firstAnswers.join(' · ') }}</template>
          </p>
        </div>
        <a v-if="next.room?.hostUrl" class="press" :href="next.room.hostUrl" target="_blank" rel="noopener">Open room</a>
        <NuxtLink v-else class="press light" :to="`/desk/sessions/${next.id}`">See the session</NuxtLink>
      </div>
      <p v-else class="next quiet">No session is coming up. The day is yours.</p>
      <DayLine v-if="view.hosts.length > 0" :view="view" :zone="desk.zone" :locale="desk.locale" :now="desk.now" />
    </section>
    <p v-else-if="!fault" class="day quiet">Loading…</p>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <aside v-if="view" class="side">
      <NeedsYou :cards="view.waiting" :attention="view.attention" @changed="load" />
      <ComingDays :cards="view.coming" />
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

.next {
  display: flex;
  align-items: center;
  gap: 22px;
  min-height: 64px;
  margin-bottom: 14px;
}

.next h2 {
  font-size: 28px;
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

@media (max-width: 900px) {
  .today {
    grid-template-columns: 1fr;
  }
}
</style>
