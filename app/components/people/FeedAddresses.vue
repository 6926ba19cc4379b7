<script setup lang="ts">
import { texts } from '~/locales/host'
import { VBtn, VCheckbox, VTextField } from 'vuetify/components'
import type { HostAddresses } from '~~/core/views/host'
import { useCalls } from '~/composables/calls'
import { copyText } from '~/composables/copy-text'
import { useNotice } from '~/stores/notice'

/** The secret addresses of what other programs read of a host's sessions; fetched only where somebody asks for them. */

const props = defineProps<{ hostId: string }>()

const { act, fault } = useCalls()
const notice = useNotice()
const addresses = shallowRef<HostAddresses | null>(null)
const asking = ref(false)
const rows = computed(() => (addresses.value
  ? [
      { key: 'feed', label: texts.feed, hint: texts.feedHint, address: addresses.value.feed },
      { key: 'freeBusy', label: texts.freeBusy, hint: texts.freeBusyHint, address: addresses.value.freeBusy },
    ]
  : []))

async function setCalendars(withCalendars: boolean): Promise<void> {
  addresses.value = await act(() =>
    $fetch<HostAddresses>(`/api/desk/hosts/${props.hostId}/free-busy`, { method: 'PUT', body: { withCalendars } })) ?? addresses.value
}

async function load(method: 'GET' | 'POST'): Promise<void> {
  const found = await act(() => $fetch<HostAddresses>(`/api/desk/hosts/${props.hostId}/addresses`, { method }))
  if (!found) return
  addresses.value = found
  asking.value = false
  if (method === 'POST') notice.show(texts.addressesAreNew)
}
</script>

<template>
  <div>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <p class="quiet">{{ texts.feedsHint }}</p>
    <LinkButton v-if="!addresses" @click="load('GET')">{{ texts.showAddresses }}</LinkButton>
    <template v-else>
      <div v-for="row in rows" :key="row.key" class="address">
        <VTextField
          :label="row.label" :model-value="row.address" readonly :hint="row.hint" persistent-hint density="compact"
          @focus="($event.target as HTMLInputElement).select()"
        />
        <VBtn variant="outlined" size="small" :aria-label="texts.copyAddress(row.label)" @click="copyText(row.address, texts.addressIsCopied)">{{ texts.copy }}</VBtn>
      </div>
      <VCheckbox
        :model-value="addresses.withCalendars" :label="texts.withCalendars" hide-details density="compact"
        @update:model-value="setCalendars($event === true)"
      />
      <p class="quiet">{{ texts.addressesAreSecret }}</p>
      <p v-if="asking">
        {{ texts.whatNewAddressesMean }}
        <VBtn size="small" @click="load('POST')">{{ texts.makeNewAddresses }}</VBtn>{{ ' ' }}
        <LinkButton @click="asking = false">{{ texts.keepAddresses }}</LinkButton>
      </p>
      <LinkButton v-else @click="asking = true">{{ texts.makeNewAddresses }}</LinkButton>
    </template>
  </div>
</template>

<style scoped>
p {
  margin: 6px 0;
}

.address {
  display: flex;
  align-items: flex-start;
  gap: 10px;
  margin: 12px 0;
}

.address .v-btn {
  margin-top: 6px;
}
</style>
