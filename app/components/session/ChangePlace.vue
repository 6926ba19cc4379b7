<script setup lang="ts">
import { texts } from '~/locales/session'
import { VBtn, VRadio, VRadioGroup, VTextField } from 'vuetify/components'
import { placeWords } from '~~/core/catalogue/event-type'
import { formatList } from '~~/core/time/format'
import type { SessionView } from '~~/core/views/desk'
import AskDialog from '~/components/desk/AskDialog.vue'
import { useSubmission } from '~/composables/submission'

/** Another place for a session: what was to be agreed, what a client suggests or an answer to it, or video after all. */

const props = defineProps<{ session: SessionView, clients: readonly string[] }>()
const emit = defineEmits<{ changed: [] }>()
const { sending, errors, fault, submit } = useSubmission()

const kinds = ['video', 'address', 'phoneWeCall', 'phoneYouCall', 'agreed'] as const
type Kind = (typeof kinds)[number]
const open = ref(false)
const kind = ref<Kind>('address')
const detail = ref('')
const note = ref('')
const suggestion = computed(() => props.session.bookings.find(({ state }) => state === 'confirmed')?.suggestion ?? null)
const isOpen = computed(() => props.session.place.kind === 'agreed' || props.session.place.kind === 'clientSuggests')
/** Nobody can be called who has left no number. */
const canCall = computed(() =>
  props.session.bookings.filter(({ state }) => state === 'confirmed').every(({ client }) => client.phone !== null))
const offered = computed(() => kinds.filter(candidate =>
  candidate !== props.session.place.kind && (candidate !== 'phoneWeCall' || canCall.value)))
/** A suggestion that does not suit is answered in words, and the place stays open. */
const words = computed(() => ({ ...placeWords, ...(suggestion.value ? { agreed: texts.suggestionAnswered } : {}) }))
const needsNote = computed(() => kind.value === 'agreed')
const needsDetail = computed(() => kind.value === 'address' || kind.value === 'phoneYouCall')

function ask(given: string | null): void {
  open.value = true
  kind.value = offered.value.includes('address') ? 'address' : offered.value[0] ?? 'video'
  detail.value = given ?? ''
  note.value = ''
  fault.value = ''
}

const send = () => submit(async () => {
  const path: string = `/api/desk/sessions/${props.session.id}/place`
  await $fetch(path, { method: 'PUT', body: { kind: kind.value, detail: needsDetail.value ? detail.value : '', note: note.value } })
  open.value = false
  emit('changed')
})
</script>

<template>
  <span class="change-place">
    <LinkButton v-if="suggestion && session.place.kind === 'clientSuggests'" @click="ask(suggestion)">{{ texts.acceptSuggestion }}</LinkButton>
    <LinkButton @click="ask(null)">{{ isOpen ? texts.sayWhere : texts.anotherPlace }}</LinkButton>
  </span>
  <AskDialog v-model="open" :title="texts.whereItTakesPlace" :width="520">
    <p>{{ texts.placeIsTold(formatList(clients), formatList(session.hosts.map(({ name }) => name))) }} {{ session.place.kind === 'video' ? texts.oldLinkEnds : '' }}</p>
    <VRadioGroup v-model="kind" :label="texts.where" hide-details density="compact">
      <VRadio v-for="choice in offered" :key="choice" :value="choice" :label="words[choice]" />
    </VRadioGroup>
    <VTextField
      v-if="needsDetail" v-model="detail" :label="kind === 'address' ? texts.address : texts.numberToCall" :error-messages="errors['detail'] ?? []"
      hide-details="auto"
    />
    <VTextField
      v-model="note" :label="needsNote ? (suggestion ? texts.yourAnswer : texts.note) : texts.noteOptional" :error-messages="errors['note'] ?? []" hide-details="auto"
    />
    <p v-if="errors['kind']" class="broken" role="alert">{{ errors['kind'] }}</p>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <template #actions>
      <VBtn color="primary" :disabled="sending || (needsDetail && detail.trim() === '') || (needsNote && note.trim() === '')" @click="send">{{ texts.tellEverybody }}</VBtn>
      <LinkButton @click="open = false">{{ texts.keepThePlace }}</LinkButton>
    </template>
  </AskDialog>
</template>

<style scoped>
.change-place {
  display: flex;
  gap: 18px;
  margin-top: 4px;
}
</style>
