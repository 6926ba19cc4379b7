<script setup lang="ts">
import { texts } from '~/locales/hours'
import { VAutocomplete, VBtn } from 'vuetify/components'
import { formatList } from '~~/core/time/format'
import type { HoursView } from '~~/core/views/hours'
import { useCalls } from '~/composables/calls'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'

/** Which hosts have a plan of the workspace beside their own. */

const props = defineProps<{ plan: HoursView }>()
const emit = defineEmits<{ saved: [] }>()
const desk = useDesk()
const notice = useNotice()
const { fault, act } = useCalls()

const hosts = shallowRef<{ id: string, name: string }[]>([])
const chosen = ref(props.plan.sharedBy.map(host => host.id))
watch(() => props.plan.sharedBy, sharing => (chosen.value = sharing.map(host => host.id)))
onMounted(async () => {
  const found = await act(() => $fetch<{ hosts: { id: string, name: string }[] }>('/api/desk/hosts'))
  hosts.value = found?.hosts ?? []
})

const isChanged = computed(() => [...chosen.value].sort().join() !== props.plan.sharedBy.map(host => host.id).sort().join())
const defaults = computed(() => props.plan.sharedBy.filter(host => host.isDefault).map(host => host.name))

async function save(): Promise<void> {
  const done = await act(() => $fetch(`/api/desk/hours/${props.plan.id}/hosts`, { method: 'POST', body: { hostIds: chosen.value } }))
  if (!done) return
  notice.show(texts.sharingIsSaved)
  emit('saved')
}
</script>

<template>
  <section class="sharing" :aria-label="texts.hostsWithThisPlan">
    <VAutocomplete
      v-if="desk.mayChangeEventTypes" v-model="chosen" :label="texts.hostsWithThisPlan" :items="hosts" item-value="id" item-title="name" multiple chips
      closable-chips hide-details="auto" :hint="texts.sharingHint" persistent-hint :error-messages="fault"
    />
    <p v-else>{{ plan.sharedBy.length > 0 ? texts.sharedBy(formatList(plan.sharedBy.map(host => host.name))) : texts.sharedByNobody }}</p>
    <VBtn v-if="isChanged" @click="save">{{ texts.saveSharing }}</VBtn>
    <p v-if="defaults.length > 0" class="quiet">{{ texts.isDefaultOf(formatList(defaults)) }}</p>
  </section>
</template>

<style scoped>
.sharing {
  display: grid;
  gap: 8px;
  justify-items: start;
  max-width: 620px;
  margin-bottom: 16px;
}

.v-autocomplete {
  width: 100%;
}
</style>
