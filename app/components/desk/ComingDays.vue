<script setup lang="ts">
import { texts } from '~/locales/desk'
import { formatMonthDay, formatTime, formatWeekday } from '~~/core/time/format'
import { zoneOf } from '~~/core/time/zone'
import { groupBy } from '~~/core/group-by'
import type { SessionCard } from '~~/core/views/desk'
import { useDesk } from '~/stores/desk'

const props = defineProps<{ cards: readonly SessionCard[], addressOf: (day: number) => { path: string } }>()

const desk = useDesk()

const dayOf = (instant: number) => zoneOf(desk.zone).dayOf(instant)

/** Short and with its date, so that a day and its sessions stand in one line. */
const nameOf = (day: number) =>
  day === dayOf(desk.now) + 1 ? texts.tomorrow : `${formatWeekday(day, 'short', desk.locale)} ${formatMonthDay(day, 'short', desk.locale)}`

const days = computed(() => [...groupBy(props.cards, card => dayOf(card.start))].map(([day, cards]) => {
  const toApprove = cards.flatMap(card => card.bookings).filter(booking => booking.state === 'awaitingApproval').length
  return {
    key: day,
    name: nameOf(day),
    text: [
      texts.sessionCount(cards.length),
      texts.first(formatTime(cards[0]?.start ?? 0, desk.zone, desk.locale)),
      ...(toApprove ? [texts.toApprove(toApprove)] : []),
    ].join(', '),
  }
}))
</script>

<template>
  <section class="coming" aria-labelledby="coming">
    <h2 id="coming">{{ texts.coming }}</h2>
    <p v-if="days.length === 0" class="quiet">{{ texts.nothingInTheNextSevenDays }}</p>
    <dl v-else>
      <template v-for="day in days" :key="day.key">
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
