<script setup lang="ts">
import { sayDay, sayTime, sayZone } from '~~/core/time/say'
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
    words: `${sayDay(start, zone, props.locale, props.now)}, ${sayTime(start, zone, props.locale)} to ${sayTime(end, zone, props.locale)}`,
  }))
})
</script>

<template>
  <dl class="times">
    <template v-for="time in times" :key="time.zone">
      <dt>{{ sayZone(time.zone) }}<span v-if="time.who" class="quiet"> {{ time.who }}</span></dt>
      <dd>{{ time.words }}</dd>
    </template>
  </dl>
</template>
