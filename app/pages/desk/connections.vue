<script setup lang="ts">
import { texts } from '~/locales/desk'
import { VBtn, VTable } from 'vuetify/components'
import { formatDay } from '~~/core/time/format'
import ShowAll from '~/components/ShowAll.vue'
import { useFirstRows } from '~/composables/first-rows'
import { useConnections } from '~/stores/connections'
import { useDesk } from '~/stores/desk'

definePageMeta({ layout: 'desk' })
useHead({ title: texts.connectionsTemporia })

const desk = useDesk()
const store = useConnections()
const connections = computed(() => store.connections)
const first = useFirstRows(() => connections.value?.hosts ?? [])
/** Rooms are made by the first service of the installation. */
const service = computed(() => connections.value?.services[0])
const own = computed(() => connections.value?.hosts.find(host => host.own))
const asking = ref<string | null>(null)
const outcome = computed(() => ({
  connected: texts.accountIsConnected,
  refused: texts.consentWasRefused,
  failed: texts.connectionDidNotComplete,
}[String(useRoute().query['outcome'])]))

onMounted(store.load)

async function disconnect(accountId: string): Promise<void> {
  asking.value = null
  await store.disconnect(accountId)
}
</script>

<template>
  <div class="connections">
    <h1>{{ texts.connections }}</h1>
    <p class="quiet">{{ texts.whoseAccountMakesRooms }}</p>
    <p v-if="outcome" role="status" class="outcome">{{ outcome }}</p>
    <p v-if="store.fault" class="broken" role="alert">{{ store.fault }}</p>
    <p v-if="connections && !service">{{ texts.noVideoServiceIsSetUp }}</p>
    <VTable v-else-if="connections && service">
      <thead>
        <tr>
          <th scope="col">{{ texts.host }}</th>
          <th scope="col">{{ service.name }}</th>
          <th scope="col"><span class="visually-hidden">{{ texts.actions }}</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="host in first.shown" :key="host.hostId">
          <th scope="row">{{ host.name }}<span v-if="host.own" class="quiet">{{ texts.you }}</span></th>
          <td>
            <template v-if="host.account?.state === 'connected'">
              {{ host.account.label }}<span class="quiet block">{{ texts.connected(formatDay(host.account.since, desk.zone, desk.locale, desk.now)) }}</span>
            </template>
            <span v-else-if="host.account" class="broken">{{ texts.consentIsLost(host.own ? texts.youObject : host.name) }}</span>
            <span v-else class="quiet">{{ texts.notConnected(host.own ? texts.youObject : host.name) }}</span>
          </td>
          <td>
            <template v-if="host.account?.state === 'connected'">
              <span v-if="asking === host.account.id" class="asking">
                {{ texts.whatDisconnectingMeans }} <VBtn color="error" size="small" @click="disconnect(host.account.id)">{{ texts.disconnect }}</VBtn>
                <LinkButton @click="asking = null">{{ texts.keepItConnected }}</LinkButton>
              </span>
              <LinkButton
                v-else :aria-label="texts.disconnectNamed(host.name)"
                @click="asking = host.account.id"
              >{{ texts.disconnect }}</LinkButton>
            </template>
            <VBtn v-else variant="outlined" size="small" :href="`/api/desk/video-services/${service.key}/connect?host=${host.hostId}`">{{ host.own ? texts.connectYourAccount : texts.connect(host.name) }}</VBtn>
          </td>
        </tr>
      </tbody>
    </VTable>
    <ShowAll :total="first.total" @show="first.showAll" />
    <p v-if="own" class="feeds">
      {{ texts.feedsElsewhere }} <NuxtLink :to="{ path: `/desk/people/${own.hostId}`, hash: '#host-feeds' }">{{ texts.feedAddresses }}</NuxtLink>
    </p>
  </div>
</template>

<style scoped>
.connections {
  padding: 22px 24px 40px;
  max-width: 980px;
}

h1 {
  font-size: 26px;
}

.feeds {
  margin-top: 22px;
}

.outcome {
  border-left: 3px solid var(--marigold);
  background: var(--surface);
  padding: 10px 14px;
  margin-top: 14px;
}

tbody td,
tbody th {
  padding-block: 8px !important;
  border-color: var(--line) !important;
}

th:first-child {
  padding-left: 0 !important;
}

.v-table {
  margin-top: 16px;
  background: none;
}

th,
td {
  text-align: left;
}

tbody th {
  font-weight: 600;
}

td:last-child {
  text-align: right;
}

.block {
  display: block;
  font-size: 13px;
}

.asking {
  display: inline-flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: flex-end;
  gap: 6px 12px;
}
</style>
