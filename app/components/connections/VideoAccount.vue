<script setup lang="ts">
import { texts } from '~/locales/connections'
import { VBtn, VTable } from 'vuetify/components'
import { formatDay } from '~~/core/time/format'
import type { HostConnection } from '~~/core/views/desk'
import { useConnections } from '~/stores/connections'
import { useDesk } from '~/stores/desk'

/** Where a host's rooms are made. */

const props = defineProps<{ host: HostConnection, service: { key: string, name: string } | undefined }>()
const desk = useDesk()
const store = useConnections()
const asking = ref(false)
const account = computed(() => (props.host.account?.state === 'connected' ? props.host.account : null))

async function disconnect(): Promise<void> {
  asking.value = false
  if (account.value) await store.disconnect(account.value.id)
}
</script>

<template>
  <p v-if="!service">{{ texts.noVideoServiceIsSetUp }}</p>
  <VTable v-else>
    <thead>
      <tr>
        <th scope="col">{{ texts.way }}</th>
        <th scope="col">{{ texts.as }}</th>
        <th scope="col">{{ texts.state }}</th>
        <th scope="col"><span class="visually-hidden">{{ texts.actions }}</span></th>
      </tr>
    </thead>
    <tbody>
      <tr>
        <th scope="row">{{ service.name }}</th>
        <td>{{ account?.label ?? '' }}</td>
        <td>
          <template v-if="account">{{ texts.connected(formatDay(account.since, desk.zone, desk.locale, desk.now)) }}</template>
          <span v-else-if="host.account" class="broken">{{ texts.consentIsLost(host.own ? texts.youObject : host.name) }}</span>
          <span v-else class="quiet">{{ texts.notConnected(host.own ? texts.youObject : host.name) }}</span>
        </td>
        <td class="actions">
          <template v-if="account">
            <span v-if="asking" class="asking">
              {{ texts.whatDisconnectingMeans }} <VBtn color="error" size="small" @click="disconnect">{{ texts.disconnect }}</VBtn>
              <LinkButton @click="asking = false">{{ texts.keepItConnected }}</LinkButton>
            </span>
            <LinkButton v-else :aria-label="texts.disconnectNamed(service.name)" @click="asking = true">{{ texts.disconnect }}</LinkButton>
          </template>
          <VBtn
            v-else variant="outlined" size="small" :href="`/api/desk/video-services/${service.key}/connect?host=${host.hostId}`"
          >{{ host.own ? texts.connectYourAccount : texts.connect(host.name) }}</VBtn>
        </td>
      </tr>
    </tbody>
  </VTable>
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
}

tbody th,
tbody td {
  border-color: var(--line) !important;
}

.actions {
  text-align: right;
}

.asking {
  display: inline-flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: flex-end;
  gap: 6px 12px;
}
</style>
