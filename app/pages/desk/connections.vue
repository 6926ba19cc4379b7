<script setup lang="ts">
import { formatDay } from '~~/core/time/format'
import type { Connections } from '~~/core/views/desk'
import { problemOf } from '~/composables/problem'
import { useDesk } from '~/stores/desk'

definePageMeta({ layout: 'desk' })
useHead({ title: 'Connections · Temporia' })

const desk = useDesk()
const connections = ref<Connections | null>(null)
/** Rooms are made by the first service of the installation. */
const service = computed(() => connections.value?.services[0])
const fault = ref('')
const asking = ref<string | null>(null)
const outcome = computed(() => ({
  connected: 'Connected. New rooms are made under this account from now on.',
  refused: 'Consent was refused, so nothing was connected.',
  failed: 'The video service did not complete the connection. Please try again.',
}[String(useRoute().query['outcome'])]))

async function load(): Promise<void> {
  try {
    connections.value = await $fetch<Connections>('/api/desk/connections')
  } catch (error) {
    fault.value = problemOf(error).message
  }
}
onMounted(load)

async function disconnect(accountId: string): Promise<void> {
  try {
    await $fetch(`/api/desk/connections/${accountId}/disconnect`, { method: 'POST' })
  } catch (error) {
    fault.value = problemOf(error).message
  }
  asking.value = null
  await load()
}
</script>

<template>
  <div class="connections">
    <h1>Connections</h1>
    <p class="quiet">Under whose video account each host’s rooms are made.</p>
    <p v-if="outcome" role="status" class="outcome">{{ outcome }}</p>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <p v-if="connections && !service">No video service is set up for this installation.</p>
    <table v-else-if="connections && service">
      <thead>
        <tr>
          <th scope="col">Host</th>
          <th scope="col">{{ service.name }}</th>
          <th scope="col"><span class="visually-hidden">Actions</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="host in connections.hosts" :key="host.hostId">
          <th scope="row">{{ host.name }}</th>
          <td>
            <template v-if="host.account?.state === 'connected'">
              {{ host.account.label }}<span class="quiet block">connected {{ formatDay(host.account.since, desk.zone, desk.locale, desk.now) }}</span>
            </template>
            <span v-else-if="host.account" class="broken">Consent was withdrawn or lost: no rooms can be made for {{ host.name }}</span>
            <span v-else class="quiet">not connected: sessions by video with {{ host.name }} get no room</span>
          </td>
          <td>
            <template v-if="host.account?.state === 'connected'">
              <span v-if="asking === host.account.id" class="asking">
                Rooms that exist stay; new sessions get none. <button type="button" class="press grave" @click="disconnect(host.account.id)">Disconnect</button>
                <LinkButton @click="asking = null">Keep it</LinkButton>
              </span>
              <LinkButton
                v-else :aria-label="`Disconnect ${host.name}`"
                @click="asking = host.account.id"
              >Disconnect</LinkButton>
            </template>
            <a
              v-else class="press light" :href="`/api/desk/video-services/${service.key}/connect?host=${host.hostId}`"
            >Connect {{ host.name.split(' ')[0] }}</a>
          </td>
        </tr>
      </tbody>
    </table>
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

table {
  width: 100%;
  border-collapse: collapse;
  margin-top: 16px;
}

th,
td {
  text-align: left;
  border-top: 1px solid var(--line);
  padding: 12px 16px 12px 0;
  vertical-align: top;
}

thead th {
  color: var(--quiet);
  font-weight: 400;
  border-top: 0;
}

td:last-child {
  text-align: right;
  padding-right: 0;
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
