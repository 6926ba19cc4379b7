<script setup lang="ts">
import { texts } from '~/locales/connections'
import { formatTime } from '~~/core/time/format'
import type { AccountView } from '~~/core/views/calendars'
import type { HostConnection } from '~~/core/views/desk'
import ShowAll from '~/components/ShowAll.vue'
import { useFirstRows } from '~/composables/first-rows'
import { useDesk } from '~/stores/desk'

/** Everybody who hosts, with what is connected of theirs and what is wrong with it. */

const props = defineProps<{ hosts: readonly HostConnection[], accounts: readonly AccountView[], chosen: string }>()
const desk = useDesk()
/** Oneself first. */
const first = useFirstRows(() => [...props.hosts].sort((a, b) => Number(b.own) - Number(a.own)))

interface Row {
  text: string
  isBroken: boolean
  /** A mail to whoever has connected nothing. */
  ask: string | null
}

function rowOf(host: HostConnection): Row {
  const own = props.accounts.filter(account => account.hostId === host.hostId)
  const silent = own.find(account => account.state !== 'connected')
  if (silent?.state === 'refused') return { text: texts.needsNewAccess, isBroken: true, ask: null }
  if (silent?.failingSince) {
    const since = formatTime(Date.parse(silent.failingSince) / 1000, desk.zone, desk.locale)
    return { text: texts.silentSince(since), isBroken: true, ask: null }
  }
  const calendars = own.reduce((sum, account) => sum + account.calendars.length, 0)
  const ask = calendars > 0 || host.connectsCalendars ? null : mailTo(host)
  if (calendars === 0 && !host.account) return { text: texts.nothingConnected, isBroken: true, ask }
  const video = host.account?.state === 'connected' ? texts.ownVideo : host.account ? texts.videoLost : texts.noVideo
  return {
    text: `${calendars === 0 ? texts.noCalendar : texts.calendarCount(calendars)}, ${video}`, isBroken: host.account?.state === 'lost', ask,
  }
}

const firstName = (name: string) => name.split(' ')[0] ?? name

function mailTo({ name, email }: HostConnection): string {
  const body = texts.askBody(firstName(name), `${location.origin}/desk/connections`)
  return `mailto:${email}?subject=${encodeURIComponent(texts.askSubject)}&body=${encodeURIComponent(body)}`
}
</script>

<template>
  <nav :aria-label="texts.people">
    <ul>
      <li v-for="host in first.shown" :key="host.hostId" :class="{ chosen: host.hostId === chosen }">
        <NuxtLink :to="{ query: { host: host.hostId } }" :aria-current="host.hostId === chosen || undefined">{{ host.name }}</NuxtLink><span
          v-if="host.own" class="quiet"
        >{{ texts.you }}</span>
        <span class="state" :class="rowOf(host).isBroken ? 'broken' : 'quiet'">{{ rowOf(host).text }}</span>
        <a v-if="rowOf(host).ask" class="ask-link" :href="rowOf(host).ask ?? ''">{{ texts.askToConnect(firstName(host.name)) }}</a>
      </li>
    </ul>
    <ShowAll :total="first.total" @show="first.showAll" />
  </nav>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--line);
}

li {
  position: relative;
  padding: 10px 12px;
  border-bottom: 1px solid var(--line);
  border-left: 3px solid transparent;
}

li.chosen {
  background: var(--surface);
  border-left-color: var(--marigold);
}

li > a:first-child {
  font-weight: 600;
  color: var(--ink);
  text-decoration: none;
}

/* The whole row leads to the person; the link below it stays above that. */
li > a:first-child::after {
  content: '';
  position: absolute;
  inset: 0;
}

.state {
  display: block;
  font-size: 13px;
}

.ask-link {
  position: relative;
  font-size: 13px;
  font-weight: 600;
}
</style>
