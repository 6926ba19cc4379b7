<script setup lang="ts">
import { texts } from '~/locales/connections'
import { VBtn } from 'vuetify/components'
import CalendarTable from '~/components/connections/CalendarTable.vue'
import ConnectCalendar from '~/components/connections/ConnectCalendar.vue'
import HostList from '~/components/connections/HostList.vue'
import TakenStrip from '~/components/connections/TakenStrip.vue'
import VideoAccount from '~/components/connections/VideoAccount.vue'
import { useConnections } from '~/stores/connections'

definePageMeta({ layout: 'desk' })
useHead({ title: texts.connectionsTemporia })

const route = useRoute()
const store = useConnections()
const hosts = computed(() => store.connections?.hosts ?? [])
/** The one in the address, else oneself, else the first. */
const host = computed(() =>
  hosts.value.find(({ hostId }) => hostId === route.query['host']) ?? hosts.value.find(({ own }) => own) ?? hosts.value[0])
const accounts = computed(() => store.accounts.filter(({ hostId }) => hostId === host.value?.hostId))
const whose = computed(() => (!host.value || host.value.own ? texts.your : `${host.value.name.split(' ')[0]}’s`))
const hasCalendars = computed(() => accounts.value.length > 0)
const connecting = ref(false)
const outcome = computed(() => ({
  connected: texts.accountIsConnected,
  calendar: texts.calendarIsConnected,
  refused: texts.consentWasRefused,
  failed: texts.connectionDidNotComplete,
}[String(route.query['outcome'])]))

onMounted(store.load)
</script>

<template>
  <div class="connections" :class="{ alone: hosts.length < 2 }">
    <div class="who">
      <h1>{{ texts.connections }}</h1>
      <HostList v-if="host && hosts.length > 1" :hosts="hosts" :accounts="store.accounts" :chosen="host.hostId" />
    </div>
    <div v-if="host" class="what">
      <p v-if="outcome" role="status" class="outcome">{{ outcome }}</p>
      <p v-if="store.fault" class="broken" role="alert">{{ store.fault }}</p>
      <section>
        <h2>{{ texts.whatTakes(whose) }}</h2>
        <p class="quiet">{{ hasCalendars ? texts.readBefore : texts.noCalendarsYet(whose) }}</p>
        <TakenStrip :host-id="host.hostId" :whose="whose" :version="store.version" />
        <CalendarTable v-if="hasCalendars" :accounts="accounts" :may-change="host.connectsCalendars" />
        <p class="links">
          <VBtn v-if="host.connectsCalendars" variant="outlined" @click="connecting = true">{{ hasCalendars ? texts.connectAnother : texts.connectACalendar }}</VBtn>
          <NuxtLink :to="{ path: `/desk/people/${host.hostId}`, hash: '#host-feeds' }">{{ texts.feedElsewhere(host.own ? 'Your' : whose) }}</NuxtLink>
        </p>
        <ConnectCalendar
          v-if="host.connectsCalendars" v-model="connecting" :host-id="host.hostId" :whose="whose"
          :servers="store.connections?.calendarServers ?? []"
        />
      </section>
      <section>
        <h2>{{ texts.whereRoomsAreMade(whose) }}</h2>
        <VideoAccount :key="host.hostId" :host="host" :service="store.connections?.services[0]" />
      </section>
    </div>
  </div>
</template>

<style scoped>
.connections {
  display: grid;
  grid-template-columns: 250px minmax(0, 1fr);
  gap: 30px;
  padding: 22px 24px 40px;
  max-width: 1320px;
}

.alone {
  grid-template-columns: minmax(0, 1fr);
}

h1 {
  font-size: 26px;
  margin-bottom: 16px;
}

.alone h1 {
  margin: 0;
}

h2 {
  font-size: 19px;
}

section + section {
  margin-top: 30px;
}

section > .quiet {
  margin: 2px 0 12px;
}

.links {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px 20px;
  margin-top: 14px;
}

.outcome {
  border-left: 3px solid var(--marigold);
  background: var(--surface);
  padding: 10px 14px;
  margin-bottom: 14px;
}

@media (max-width: 760px) {
  .connections {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
