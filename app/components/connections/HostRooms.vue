<script setup lang="ts">
import { texts } from '~/locales/connections'
import { VBtn, VTable } from 'vuetify/components'
import type { Connections, HostConnection, VideoAccountView } from '~~/core/views/connections'
import AccountState from '~/components/connections/AccountState.vue'
import AskDialog from '~/components/desk/AskDialog.vue'
import UserState from '~/components/connections/UserState.vue'
import { useConnections } from '~/stores/connections'

/** The ways to a room for one host, in the order in which they are tried. */

const props = defineProps<{ host: HostConnection, connections: Connections, whose: string }>()
const store = useConnections()
const leaving = shallowRef<VideoAccountView | null>(null)
const first = computed(() => props.host.name.split(' ')[0] ?? props.host.name)

type Row = { key: string, name: string } & (
  { kind: 'own', account: VideoAccountView | null, service: string } | { kind: 'workspace', account: VideoAccountView } | { kind: 'pattern' | 'fixed' })

const rows = computed((): Row[] => props.connections.workspace.order.flatMap((way): Row[] => {
  const { services, workspace } = props.connections
  if (way === 'own') {
    return services.filter(({ owner }) => owner === 'host').map(({ key, name }) =>
      ({ key, name, kind: 'own', service: key, account: props.host.accounts.find(account => account.service === key) ?? null }))
  }
  if (way === 'workspace') return workspace.accounts.map(account => ({ key: account.id, name: account.name, kind: 'workspace', account }))
  if (way === 'pattern') return workspace.hasPattern ? [{ key: way, name: texts.ownServer, kind: way }] : []
  return way === 'fixed' && props.host.hasFixedRoom ? [{ key: way, name: texts.fixedRoom, kind: way }] : []
}))
const hasAny = computed(() => rows.value.some(row => row.kind !== 'own' || row.account !== null))
const userIn = (account: VideoAccountView) => props.host.users.find(user => user.accountId === account.id)

async function disconnect(): Promise<void> {
  if (leaving.value) await store.disconnect(leaving.value.id)
  leaving.value = null
}
</script>

<template>
  <p v-if="connections.services.length === 0 && rows.length === 0">{{ texts.noVideoServiceIsSetUp }}</p>
  <template v-else>
    <p class="quiet">{{ texts.inThisOrder }} {{ hasAny ? '' : texts.noWayYet(host.own ? texts.youObject : host.name) }}</p>
    <VTable>
      <thead>
        <tr>
          <th scope="col">{{ texts.way }}</th>
          <th scope="col">{{ texts.as }}</th>
          <th scope="col">{{ texts.state }}</th>
          <th scope="col"><span class="visually-hidden">{{ texts.actions }}</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(row, index) in rows" :key="row.key">
          <th scope="row"><span class="number">{{ index + 1 }}</span> {{ row.name }}</th>
          <template v-if="row.kind === 'own'">
            <td>{{ row.account?.label ?? '' }}</td>
            <td>
              <AccountState v-if="row.account" :account="row.account" :may-look="host.connects || connections.workspace.mayChange" />
              <span v-else class="quiet">{{ texts.notConnected }}</span>
            </td>
            <td class="actions">
              <LinkButton v-if="row.account && row.account.state !== 'lost'" :aria-label="texts.disconnectNamed(row.name)" @click="leaving = row.account">{{ texts.disconnect }}</LinkButton>
              <VBtn
                v-else-if="host.connects" variant="outlined" size="small" :href="`/api/desk/video-services/${row.service}/connect?host=${host.hostId}`"
              >{{ row.account ? texts.connectAgain : host.own ? texts.connectYourAccount : texts.connect(host.name) }}</VBtn>
            </td>
          </template>
          <template v-else-if="row.kind === 'workspace'">
            <td>{{ texts.workspacesAccount }}<span v-if="userIn(row.account)" class="sub"><UserState :host="host" :user="userIn(row.account)!" :may-change="connections.workspace.mayChange" /></span></td>
            <td><AccountState :account="row.account" :may-look="connections.workspace.mayChange" /></td>
            <td class="actions"><NuxtLink v-if="connections.workspace.mayChange" :to="{ query: { host: 'workspace' } }">{{ texts.change }}</NuxtLink></td>
          </template>
          <template v-else>
            <td>{{ row.kind === 'pattern' ? texts.everySessionItsOwn : '' }}</td>
            <td>{{ row.kind === 'pattern' ? texts.alwaysThere : texts.onlyIfNothingIsNext }}</td>
            <td class="actions">
              <NuxtLink v-if="row.kind === 'fixed'" :to="`/desk/people/${host.hostId}`">{{ texts.change }}</NuxtLink>
              <NuxtLink v-else-if="connections.workspace.mayChange" to="/desk/workspace">{{ texts.change }}</NuxtLink>
            </td>
          </template>
        </tr>
      </tbody>
    </VTable>
    <p v-if="host.byVideo.length > 0" class="quiet used">{{ texts.usedBy(host.byVideo) }}</p>
    <p v-else-if="hasAny" class="used">{{ texts.nothingUsesIt(host.own ? texts.youObject : first) }} <slot name="unused" /></p>
  </template>
  <AskDialog :model-value="leaving !== null" :title="texts.disconnectTitle(leaving?.name ?? '')" :width="520" @update:model-value="leaving = null">
    <p>{{ texts.whatDisconnectingMeans }}</p>
    <p v-if="host.byVideo.length > 0">{{ texts.afterwards(rows.length > 1, host.byVideo) }}</p>
    <template #actions>
      <VBtn color="error" @click="disconnect">{{ texts.disconnect }}</VBtn>
      <LinkButton @click="leaving = null">{{ texts.keepItConnected }}</LinkButton>
    </template>
  </AskDialog>
</template>

<style scoped>
.v-table {
  background: none;
  margin-top: 8px;
}

th {
  text-align: left;
}

th:first-child {
  padding-left: 0 !important;
}

tbody th {
  font-weight: 600;
  white-space: nowrap;
}

tbody th,
tbody td {
  border-color: var(--line) !important;
  padding-top: 9px !important;
  padding-bottom: 9px !important;
  vertical-align: top;
}

.number {
  display: inline-block;
  width: 16px;
  color: var(--quiet);
}

.sub {
  display: block;
  font-size: 13px;
}

.actions {
  text-align: right;
  white-space: nowrap;
}

.used {
  margin-top: 10px;
}
</style>
