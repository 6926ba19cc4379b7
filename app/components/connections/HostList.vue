<script setup lang="ts">
import { texts } from '~/locales/connections'
import { conditionOf } from '~~/core/rooms/accounts'
import { formatTime } from '~~/core/time/format'
import type { AccountView } from '~~/core/views/calendars'
import type { Connections, HostConnection } from '~~/core/views/connections'
import ShowAll from '~/components/ShowAll.vue'
import { useFirstRows } from '~/composables/first-rows'
import { useConnections } from '~/stores/connections'
import { useDesk } from '~/stores/desk'

/** Everybody who hosts, with what is connected of theirs and what is wrong with it. */

const props = defineProps<{ hosts: readonly HostConnection[], accounts: readonly AccountView[], workspace: Connections['workspace'], chosen: string }>()
const desk = useDesk()
const store = useConnections()
/** Who has just been asked to connect. */
const asked = ref('')
/** Oneself first. */
const first = useFirstRows(() => [...props.hosts].sort((a, b) => Number(b.own) - Number(a.own)))

interface Row {
  text: string
  isBroken: boolean
  /** Whether they have connected nothing and can be asked to. */
  canAsk: boolean
}

function rowOf(host: HostConnection): Row {
  const own = props.accounts.filter(account => account.hostId === host.hostId)
  const silent = own.find(account => account.state !== 'connected')
  if (silent?.state === 'refused') return { text: texts.needsNewAccess, isBroken: true, canAsk: false }
  if (silent?.failingSince) {
    const since = formatTime(Date.parse(silent.failingSince) / 1000, desk.zone, desk.locale)
    return { text: texts.silentSince(since), isBroken: true, canAsk: false }
  }
  const calendars = own.reduce((sum, account) => sum + account.calendars.length, 0)
  const canAsk = (calendars === 0 || host.accounts.length === 0) && !host.connects && props.workspace.mayChange
  if (calendars === 0 && host.accounts.length === 0) return { text: texts.nothingConnected, isBroken: true, canAsk }
  const video = videoOf(host)
  return { text: `${calendars === 0 ? texts.noCalendar : texts.calendarCount(calendars)}, ${video.text}`, isBroken: video.isBroken, canAsk }
}

function videoOf({ accounts }: HostConnection): { text: string, isBroken: boolean } {
  if (accounts.some(({ state, refusal }) => state === 'connected' && refusal === null)) return { text: texts.ownVideo, isBroken: false }
  const [account] = accounts
  if (!account) return { text: texts.noVideo, isBroken: false }
  if (account.state === 'waiting') return { text: texts.videoWaits, isBroken: false }
  return { text: account.state === 'lost' ? texts.videoLost : texts.videoRefuses, isBroken: true }
}

const workspaceRow = computed(() => {
  const [account] = props.workspace.accounts
  if (!account) return { text: texts.nothingConnected, isBroken: false }
  const users = props.hosts.filter(host => host.users.some(({ accountId, state }) => accountId === account.id && (state === 'user' || state === 'main')))
  const isBroken = conditionOf(account) !== 'works'
  return { text: `${account.name}, ${texts.usersOf(users.length, props.hosts.length)}`, isBroken }
})

async function ask(host: HostConnection): Promise<void> {
  if (await store.ask(host.hostId)) asked.value = host.name
}

const firstName = (name: string) => name.split(' ')[0] ?? name
</script>

<template>
  <nav :aria-label="texts.people">
    <ul>
      <li v-for="host in first.shown" :key="host.hostId" :class="{ chosen: host.hostId === chosen }">
        <NuxtLink :to="{ query: { host: host.hostId } }" :aria-current="host.hostId === chosen || undefined">{{ host.name }}</NuxtLink><span
          v-if="host.own" class="quiet"
        >{{ texts.you }}</span>
        <span class="state" :class="rowOf(host).isBroken ? 'broken' : 'quiet'">{{ rowOf(host).text }}</span>
        <span v-if="asked === host.name" role="status" class="state quiet">{{ texts.askedToConnect(firstName(host.name)) }}</span>
        <LinkButton v-else-if="rowOf(host).canAsk" class="ask-link" @click="ask(host)">{{ texts.askToConnect(firstName(host.name)) }}</LinkButton>
      </li>
      <li v-if="workspace.mayChange" :class="{ chosen: chosen === 'workspace' }">
        <NuxtLink :to="{ query: { host: 'workspace' } }" :aria-current="chosen === 'workspace' || undefined">{{ texts.theWorkspace }}</NuxtLink>
        <span class="state" :class="workspaceRow.isBroken ? 'broken' : 'quiet'">{{ workspaceRow.text }}</span>
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
