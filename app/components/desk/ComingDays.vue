<script setup lang="ts">
import { texts } from '~/locales/desk'
import { formatMonthDay, formatTime, formatWeekday } from '~~/core/time/format'
import { zoneOf } from '~~/core/time/zone'
import { dateToDays } from '~~/core/time/civil'
import type { TodayView } from '~~/core/views/desk'
import { useDesk } from '~/stores/desk'

const props = defineProps<{ days: TodayView['comingDays'], addressOf: (day: number) => { path: string } }>()

const desk = useDesk()

const dayOf = (instant: number) => zoneOf(desk.zone).dayOf(instant)

/** Short and with its date, so that a day and its sessions stand in one line. */
const nameOf = (day: number) =>
  day === dayOf(desk.now) + 1 ? texts.tomorrow : `${formatWeekday(day, 'short', desk.locale)} ${formatMonthDay(day, 'short', desk.locale)}`

const shown = computed(() => props.days.map(({ date, sessions, first, toApprove }) => {
  const day = dateToDays(date)
  return {
    key: day,
    name: nameOf(day),
    text: [
      texts.sessionCount(sessions),
      texts.first(formatTime(first, desk.zone, desk.locale)),
      ...(toApprove ? [texts.toApprove(toApprove)] : []),
    ].join(', '),
  }
}))
</script>

<template>
  <section class="coming" aria-labelledby="coming">
    <h2 id="coming">{{ texts.coming }}</h2>
    <p v-if="shown.length === 0" class="quiet">{{ texts.nothingInTheNextSevenDays }}</p>
    <dl v-else>
      <template v-for="day in shown" :key="day.key">
        <dt><NuxtLink :to="addressOf(day.key)">{{ day.name }}</NuxtLink></dt>
        <dd>{{ day.text }}</dd>
      </template>
    </dl>
  </section>
</template>

<style scoped>
h2 {
  font-size: 17px;
  margin: 14px 0 8px;
}

dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 6px 16px;
  margin: 0;
}

dt {
  color: var(--quiet);
}

dd {
  margin: 0;
}
</style>
