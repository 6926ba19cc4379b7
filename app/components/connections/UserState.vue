<script setup lang="ts">
import { texts } from '~/locales/connections'
import { formatDay } from '~~/core/time/format'
import type { HostConnection } from '~~/core/views/connections'
import { useConnections } from '~/stores/connections'
import { useDesk } from '~/stores/desk'

/** Whether rooms of the workspace's account are made for a host, and what is missing where they are not. */

const props = defineProps<{ host: HostConnection, user: HostConnection['users'][number], mayChange: boolean }>()
const desk = useDesk()
const store = useConnections()
const busy = ref(false)

async function act(what: 'invite' | 'withdraw'): Promise<void> {
  busy.value = true
  await store[what](props.user.accountId, props.host.hostId)
  busy.value = false
}
const day = computed(() => (props.user.until === null ? '' : formatDay(props.user.until, desk.zone, desk.locale, desk.now)))
const first = computed(() => props.host.name.split(' ')[0] ?? props.host.name)
</script>

<template>
  <span class="user"><span :class="{ broken: user.state === 'ended' }">{{ texts.userStates[user.state](first, day) }}</span>
  <span v-if="mayChange && user.state !== 'main' && user.state !== 'user'" class="acts">
    <LinkButton :disabled="busy" @click="act('invite')">{{ user.state === 'none' ? texts.invite(first) : texts.inviteAgain }}</LinkButton>
    <LinkButton v-if="user.state !== 'none'" :disabled="busy" @click="act('withdraw')">{{ texts.withdrawInvitation }}</LinkButton>
  </span></span>
</template>

<style scoped>
.user {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
}

.acts {
  display: flex;
  gap: 14px;
}
</style>
