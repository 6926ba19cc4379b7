<script setup lang="ts">
import { texts } from '~/locales/session'
import { formatDay, formatTime, formatZone } from '~~/core/time/format'
import type { SessionView } from '~~/core/views/desk'

/** The moment in every zone that somebody in the session reads it in, the reader's first. */

const props = defineProps<{ session: SessionView, zone: string, locale: string, now: number }>()

const times = computed(() => {
  const { start, end, hosts, bookings } = props.session
  const zones = new Map<string, string[]>([[props.zone, []]])
  const add = (zone: string, who: string) => zones.set(zone, [...(zones.get(zone) ?? []), who])
  for (const host of hosts) if (host.timeZone !== props.zone) add(host.timeZone, host.name)
  for (const { client } of bookings) add(client.timeZone, client.name)
  return [...zones].map(([zone, who]) => ({
    zone,
    who: who.join(', '),
    text: texts.dayFromTo(
      formatDay(start, zone, props.locale, props.now),
      formatTime(start, zone, props.locale),
      formatTime(end, zone, props.locale),
    ),
  }))
})
</script>

<template>
  <dl class="times">
    <template v-for="time in times" :key="time.zone">
      <dt>{{ formatZone(time.zone) }}<span v-if="time.who" class="quiet"> {{ time.who }}</span></dt>
      <dd>{{ time.text }}</dd>
    </template>
  </dl>
</template>
