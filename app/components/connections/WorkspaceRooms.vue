<script setup lang="ts">
import { texts } from '~/locales/connections'
import { VBtn, VTable, VTextField } from 'vuetify/components'
import type { Connections, VideoAccountView } from '~~/core/views/connections'
import AccountState from '~/components/connections/AccountState.vue'
import AskDialog from '~/components/desk/AskDialog.vue'
import UserState from '~/components/connections/UserState.vue'
import { useSubmission } from '~/composables/submission'
import { useConnections } from '~/stores/connections'

/** The accounts of the workspace itself, and for whom of its people rooms are made under them. */

const props = defineProps<{ connections: Connections }>()
const store = useConnections()
const { sending, errors, fault, submit } = useSubmission()

const services = computed(() => props.connections.services.filter(({ owner }) => owner === 'workspace'))
const accountAt = (key: string) => props.connections.workspace.accounts.find(({ service }) => service === key)
const asked = ref<string | null>(null)
const service = computed(() => services.value.find(({ key }) => key === asked.value))
const typed = ref<Record<string, string>>({})
const leaving = shallowRef<VideoAccountView | null>(null)

function ask(key: string): void {
  asked.value = key
  typed.value = {}
  errors.value = {}
  fault.value = ''
}

const connect = () => submit(async () => {
  const path: string = `/api/desk/video-services/${asked.value}/connect`
  await $fetch(path, { method: 'POST', body: { fields: typed.value } })
  asked.value = null
  await store.load()
})

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
        <LinkButton @click="ask(key)">{{ texts.otherCredentials }}</LinkButton>
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
    <p v-else>{{ texts.noWorkspaceAccount }} <VBtn variant="outlined" size="small" @click="ask(key)">{{ texts.connectWithCredentials(name) }}</VBtn></p>
  </section>
  <AskDialog :model-value="asked !== null" :title="texts.connectWithCredentials(service?.name ?? '')" :width="480" @update:model-value="asked = null">
    <p>{{ texts.credentialsHint(service?.name ?? '') }}</p>
    <form id="service-credentials" class="fields" @submit.prevent="connect">
      <VTextField
        v-for="field in service?.fields ?? []" :key="field.key" v-model="typed[field.key]" :label="field.label" :type="field.isSecret ? 'password' : 'text'"
        autocomplete="off" :error-messages="errors[field.key] ?? []" hide-details="auto"
      />
    </form>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <template #actions>
      <VBtn color="primary" type="submit" form="service-credentials" :disabled="sending">{{ sending ? texts.trying : texts.tryAndConnect }}</VBtn>
      <LinkButton @click="asked = null">{{ texts.cancel }}</LinkButton>
    </template>
  </AskDialog>
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

.fields {
  display: grid;
  gap: 12px;
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
