<script setup lang="ts">
import { texts } from '~/locales/connections'
import { VBtn } from 'vuetify/components'
import CalendarTable from '~/components/connections/CalendarTable.vue'
import ConnectCalendar from '~/components/connections/ConnectCalendar.vue'
import HostList from '~/components/connections/HostList.vue'
import TakenStrip from '~/components/connections/TakenStrip.vue'
import ForeignAccount from '~/components/connections/ForeignAccount.vue'
import HostRooms from '~/components/connections/HostRooms.vue'
import PutOnVideo from '~/components/connections/PutOnVideo.vue'
import WorkspacePayments from '~/components/connections/WorkspacePayments.vue'
import WorkspaceRooms from '~/components/connections/WorkspaceRooms.vue'
import { useDesk } from '~/stores/desk'
import { useConnections } from '~/stores/connections'

definePageMeta({ layout: 'desk' })
useHead({ title: texts.connectionsTemporia })

const route = useRoute()
const store = useConnections()
const desk = useDesk()
const hosts = computed(() => store.connections?.hosts ?? [])
/** The one in the address, else oneself, else the first. */
const host = computed(() =>
  hosts.value.find(({ hostId }) => hostId === route.query['host']) ?? hosts.value.find(({ own }) => own) ?? hosts.value[0])
const ofWorkspace = computed(() => route.query['host'] === 'workspace' && store.connections?.workspace.mayChange === true)
const accounts = computed(() => store.accounts.filter(({ hostId }) => hostId === host.value?.hostId))
/** A host sees nobody but themselves. */
const isAlone = computed(() => hosts.value.length < 2 && store.connections?.workspace.mayChange !== true)
const whose = computed(() => (!host.value || host.value.own ? texts.your : `${host.value.name.split(' ')[0]}’s`))
const hasCalendars = computed(() => accounts.value.length > 0)
const connecting = ref(false)
const outcome = computed(() => ({
  connected: texts.accountIsConnected,
  calendar: texts.calendarIsConnected,
  refused: texts.consentWasRefused,
  failed: texts.connectionDidNotComplete,
}[String(route.query['outcome'])]))

/** Right after an account was connected, event types can be put on video. */
const puttingOnVideo = ref(false)
const maySetUp = computed(() => desk.mayChangeEventTypes)

function offerVideo(): void {
  puttingOnVideo.value = route.query['outcome'] === 'connected' && maySetUp.value && (host.value?.elsewhere.length ?? 0) > 0
}
onMounted(async () => {
  await store.load()
  offerVideo()
})
watch(() => route.query['outcome'], offerVideo)
</script>

<template>
  <div class="connections" :class="{ alone: isAlone }">
    <div class="who">
      <h1>{{ texts.connections }}</h1>
      <HostList
        v-if="host && store.connections && !isAlone" :hosts="hosts" :accounts="store.accounts" :workspace="store.connections.workspace"
        :chosen="ofWorkspace ? 'workspace' : host.hostId"
      />
    </div>
    <div v-if="ofWorkspace && store.connections" class="what">
      <p v-if="store.fault" class="broken" role="alert">{{ store.fault }}</p>
      <h2>{{ texts.workspaceRooms }}</h2>
      <p class="quiet intro">{{ texts.workspaceRoomsHint }}</p>
      <WorkspaceRooms :connections="store.connections" />
      <section v-if="maySetUp" class="payments">
        <h2>{{ texts.workspacePayments }}</h2>
        <p class="quiet intro">{{ texts.workspacePaymentsHint }}</p>
        <WorkspacePayments />
      </section>
    </div>
    <div v-else-if="host" class="what">
      <p v-if="outcome" role="status" class="outcome">{{ outcome }}</p>
      <p v-if="store.fault" class="broken" role="alert">{{ store.fault }}</p>
      <section>
        <h2>{{ texts.whatTakes(whose) }}</h2>
        <p class="quiet">{{ hasCalendars ? texts.readBefore : texts.noCalendarsYet(whose) }}</p>
        <TakenStrip :host-id="host.hostId" :whose="whose" :version="store.version" />
        <CalendarTable v-if="hasCalendars" :accounts="accounts" :may-change="host.connects" />
        <p class="links">
          <VBtn v-if="host.connects" variant="outlined" @click="connecting = true">{{ hasCalendars ? texts.connectAnother : texts.connectACalendar }}</VBtn>
          <NuxtLink :to="{ path: `/desk/people/${host.hostId}`, hash: '#host-feeds' }">{{ texts.feedElsewhere(host.own ? 'Your' : whose) }}</NuxtLink>
        </p>
        <ConnectCalendar
          v-if="host.connects" v-model="connecting" :host-id="host.hostId" :whose="whose"
          :servers="store.connections?.calendarServers ?? []"
        />
      </section>
      <section>
        <h2>{{ texts.whereRoomsAreMade(whose) }}</h2>
        <HostRooms v-if="store.connections" :key="host.hostId" :host="host" :connections="store.connections" :whose="whose">
          <template #unused>
            <LinkButton
              v-if="maySetUp && host.elsewhere.length > 0" @click="puttingOnVideo = true"
            >{{ texts.chooseEventTypes }}</LinkButton>
          </template>
        </HostRooms>
        <ForeignAccount :host="host" />
        <PutOnVideo v-model="puttingOnVideo" :host="host" />
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

.intro {
  margin-bottom: 18px;
}

.payments {
  margin-top: 36px;
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
