<script setup lang="ts">
import { texts } from '~/locales/connections'
import { VBtn, VTable } from 'vuetify/components'
import type { Connections, VideoAccountView } from '~~/core/views/connections'
import AccountState from '~/components/connections/AccountState.vue'
import AskDialog from '~/components/desk/AskDialog.vue'
import CredentialsDialog from '~/components/connections/CredentialsDialog.vue'
import UserState from '~/components/connections/UserState.vue'
import { useConnections } from '~/stores/connections'

/** The accounts of the workspace itself, and for whom of its people rooms are made under them. */

const props = defineProps<{ connections: Connections }>()
const store = useConnections()

const services = computed(() => props.connections.services.filter(({ owner }) => owner === 'workspace'))
const accountAt = (key: string) => props.connections.workspace.accounts.find(({ service }) => service === key)
const asked = ref<string | null>(null)
const service = computed(() => services.value.find(({ key }) => key === asked.value))
const leaving = shallowRef<VideoAccountView | null>(null)

async function disconnect(): Promise<void> {
  if (leaving.value) await store.disconnect(leaving.value.id)
  leaving.value = null
}

const people = (account: VideoAccountView) => props.connections.hosts.flatMap((host) => {
  const user = host.users.find(({ accountId }) => accountId === account.id)
  return user ? [{ host, user }] : []
})
</script>

<template>
  <p v-if="services.length === 0">{{ texts.noVideoServiceIsSetUp }}</p>
  <section v-for="{ key, name, hasUsers } in services" :key="key" :aria-label="name">
    <h3>{{ name }}</h3>
    <template v-if="accountAt(key)">
      <p class="account">
        <strong>{{ accountAt(key)!.label }}</strong>
        <span><AccountState :account="accountAt(key)!" may-look /></span>
      </p>
      <p class="links">
        <LinkButton @click="asked = key">{{ texts.otherCredentials }}</LinkButton>
        <LinkButton :aria-label="texts.disconnectNamed(name)" @click="leaving = accountAt(key)!">{{ texts.disconnect }}</LinkButton>
      </p>
      <template v-if="hasUsers">
        <h4>{{ texts.forWhom }}</h4>
        <p class="quiet">{{ texts.forWhomHint }}</p>
        <VTable>
          <tbody>
            <tr v-for="{ host, user } in people(accountAt(key)!)" :key="host.hostId">
              <th scope="row">{{ host.name }}</th>
              <td class="quiet">{{ host.videoEmail || host.email }}</td>
              <td><UserState :host="host" :user="user" may-change /></td>
            </tr>
          </tbody>
        </VTable>
      </template>
    </template>
    <p v-else>{{ texts.noWorkspaceAccount }} <VBtn variant="outlined" size="small" @click="asked = key">{{ texts.connectWithCredentials(name) }}</VBtn></p>
  </section>
  <CredentialsDialog
    :service="service ?? null" :hint="texts.credentialsHint(service?.name ?? '')" :path="`/api/desk/video-services/${asked}/connect`"
    @connected="asked = null, store.load()" @close="asked = null"
  />
  <AskDialog :model-value="leaving !== null" :title="texts.disconnectTitle(leaving?.name ?? '')" :width="520" @update:model-value="leaving = null">
    <p>{{ texts.whatDisconnectingMeans }} {{ texts.forEverybody }}</p>
    <template #actions>
      <VBtn color="error" @click="disconnect">{{ texts.disconnect }}</VBtn>
      <LinkButton @click="leaving = null">{{ texts.keepItConnected }}</LinkButton>
    </template>
  </AskDialog>
</template>

<style scoped>
h3 {
  font-size: 17px;
  margin-bottom: 6px;
}

h4 {
  font-size: 15px;
  margin: 22px 0 0;
}

h4 + .quiet {
  margin: 2px 0 0;
}

.account {
  display: grid;
  gap: 2px;
}

.links {
  display: flex;
  gap: 20px;
  margin-top: 8px;
}

.v-table {
  background: none;
  margin-top: 8px;
}

tbody th {
  text-align: left;
  font-weight: 600;
  padding-left: 0 !important;
}

tbody th,
tbody td {
  border-color: var(--line) !important;
}
</style>
