<script setup lang="ts">
import { VBtn, VTable } from 'vuetify/components'
import { formatDay } from '~~/core/time/format'
import { useConnections } from '~/stores/connections'
import { useDesk } from '~/stores/desk'

definePageMeta({ layout: 'desk' })
useHead({ title: 'Connections · Temporia' })

const desk = useDesk()
const store = useConnections()
const connections = computed(() => store.connections)
/** Rooms are made by the first service of the installation. */
const service = computed(() => connections.value?.services[0])
const asking = ref<string | null>(null)
const outcome = computed(() => ({
  connected: 'Connected. New rooms are made under this account from now on.',
  refused: 'Consent was refused, so nothing was connected.',
  failed: 'The video service did not complete the connection. Please try again.',
}[String(useRoute().query['outcome'])]))

onMounted(store.load)

async function disconnect(accountId: string): Promise<void> {
  asking.value = null
  await store.disconnect(accountId)
}
</script>

<template>
  <div class="connections">
    <h1>Connections</h1>
    <p class="quiet">Under whose video account each host’s rooms are made.</p>
    <p v-if="outcome" role="status" class="outcome">{{ outcome }}</p>
    <p v-if="store.fault" class="broken" role="alert">{{ store.fault }}</p>
    <p v-if="connections && !service">No video service is set up for this installation.</p>
    <VTable v-else-if="connections && service">
      <thead>
        <tr>
          <th scope="col">Host</th>
          <th scope="col">{{ service.name }}</th>
          <th scope="col"><span class="visually-hidden">Actions</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="host in connections.hosts" :key="host.hostId">
          <th scope="row">{{ host.name }}<span v-if="host.own" class="quiet"> (you)</span></th>
          <td>
            <template v-if="host.account?.state === 'connected'">
              {{ host.account.label }}<span class="quiet block">Connected {{ formatDay(host.account.since, desk.zone, desk.locale, desk.now) }}</span>
            </template>
            <span v-else-if="host.account" class="broken">Consent was withdrawn or lost: no rooms can be made for {{ host.own ? 'you' : host.name }}</span>
            <span v-else class="quiet">Not connected: sessions by video with {{ host.own ? 'you' : host.name }} get no room</span>
          </td>
          <td>
            <template v-if="host.account?.state === 'connected'">
              <span v-if="asking === host.account.id" class="asking">
                Rooms that exist stay; new sessions get none. <VBtn color="error" size="small" @click="disconnect(host.account.id)">Disconnect</VBtn>
                <LinkButton @click="asking = null">Keep it connected</LinkButton>
              </span>
              <LinkButton
                v-else :aria-label="`Disconnect ${host.name}`"
                @click="asking = host.account.id"
              >Disconnect</LinkButton>
            </template>
            <VBtn v-else variant="outlined" size="small" :href="`/api/desk/video-services/${service.key}/connect?host=${host.hostId}`">{{ host.own ? 'Connect your account' : `Connect ${host.name}` }}</VBtn>
          </td>
        </tr>
      </tbody>
    </VTable>
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

.outcome {
  border-left: 3px solid var(--marigold);
  background: var(--surface);
  padding: 10px 14px;
  margin-top: 14px;
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
