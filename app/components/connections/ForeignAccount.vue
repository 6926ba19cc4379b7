<script setup lang="ts">
import { texts } from '~/locales/connections'
import { VBtn } from 'vuetify/components'
import { type AskedAccount, askedAccountSchema, type HostConnection } from '~~/core/views/connections'
import AskDialog from '~/components/desk/AskDialog.vue'
import { useConnections } from '~/stores/connections'

/** Asks about an account whose address is not the host's, before it is saved. What it needs stands after the number sign. */

const props = defineProps<{ host: HostConnection }>()
const store = useConnections()
const route = useRoute()
const asked = shallowRef<AskedAccount | null>(null)

onMounted(() => {
  if (route.query['outcome'] !== 'foreign') return
  try {
    const bytes = Uint8Array.from(atob(route.hash.slice(1).replaceAll('-', '+').replaceAll('_', '/')), letter => letter.charCodeAt(0))
    asked.value = askedAccountSchema.parse(JSON.parse(new TextDecoder().decode(bytes)))
  } catch {
    // An address that somebody has cut short: nothing is asked, and nothing was saved.
  }
})

async function leave(outcome?: 'connected'): Promise<void> {
  asked.value = null
  await navigateTo({ query: { host: props.host.hostId, ...(outcome ? { outcome } : {}) }, hash: '' }, { replace: true })
}

async function accept(): Promise<void> {
  const { service, sealed } = asked.value ?? { service: '', sealed: '' }
  if (await store.accept(service, sealed)) await leave('connected')
  else await leave()
}
</script>

<template>
  <AskDialog :model-value="asked !== null" :title="texts.otherAddressTitle" :width="520" persistent>
    <p>{{ texts.otherAddress(asked?.label ?? '', host.own ? null : host.name, host.videoEmail || host.email) }}</p>
    <p v-if="asked?.owner" class="broken">{{ texts.addressOf(asked.owner) }}</p>
    <template #actions>
      <VBtn color="primary" @click="accept">{{ host.own ? texts.itIsMine : texts.itIsOf(host.name) }}</VBtn>
      <LinkButton @click="leave()">{{ texts.doNotConnect }}</LinkButton>
    </template>
  </AskDialog>
</template>
