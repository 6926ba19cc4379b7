<script setup lang="ts">
import { texts } from '~/locales/book-for-client'
import { VAutocomplete, VCheckbox, VListItem, VTextField } from 'vuetify/components'
import { tellable } from '~~/core/booking/told'
import type { KnownClient } from '~~/core/views/book-for-client'
import QuestionFields from '~/components/client/QuestionFields.vue'
import ZoneField from '~/components/fields/ZoneField.vue'
import GuestFields from '~/components/GuestFields.vue'
import type { DeskBookingForm } from '~/composables/desk-booking'

/** The client, found among earlier ones or entered anew, with guests and answers, and who is told. */

const props = defineProps<{ booking: DeskBookingForm, errors: Readonly<Record<string, string>>, locale: string, now: number }>()
const { form, eventType, placeKind, chooseClient } = props.booking

const typed = ref('')
const known = shallowRef<KnownClient[]>([])
const REST = 200
let timer: ReturnType<typeof setTimeout> | undefined
watch(typed, (search) => {
  clearTimeout(timer)
  timer = setTimeout(() => void find(search.trim()), REST)
})
onBeforeUnmount(() => clearTimeout(timer))

async function find(search: string): Promise<void> {
  const found = search === '' ? [] : await $fetch<KnownClient[]>('/api/desk/clients', { query: { search } }).catch(() => [])
  if (search === typed.value.trim()) known.value = found
}

async function take(client: KnownClient | null): Promise<void> {
  if (client) chooseClient(client)
  // The field shows the name by then, as if it stayed chosen.
  await nextTick()
  typed.value = ''
}

const told = computed(() => tellable.filter(group => group !== 'guests' || form.guests.some(guest => guest.trim() !== '')))
const error = (path: string) => props.errors[path] ?? []
/** Nobody has to answer on the client's behalf. */
const questions = computed(() => (eventType.value?.questions ?? []).map(question => ({ ...question, required: false })))
</script>

<template>
  <fieldset class="part">
    <legend>{{ texts.who }}</legend>
    <VAutocomplete
      v-model:search="typed" :model-value="null" :items="known" item-title="name" item-value="email" return-object no-filter
      :label="texts.earlierClient" :placeholder="texts.earlierClientHint"
      :no-data-text="typed.trim() ? texts.nobodyFound : texts.typeToSearch" hide-details autocomplete="off" @update:model-value="take"
    >
      <template #item="{ props: item, internalItem }">
        <VListItem v-bind="item" :subtitle="internalItem.raw.email" />
      </template>
    </VAutocomplete>
    <VTextField v-model="form.name" :label="texts.name" maxlength="120" autocomplete="off" :error-messages="error('client.name')" hide-details="auto" />
    <VTextField
      v-model="form.email" type="email" :label="texts.eMail" maxlength="254" autocomplete="off" :error-messages="error('client.email')" hide-details="auto"
    />
    <VTextField
      v-model="form.phone" type="tel" :label="placeKind === 'phoneWeCall' ? texts.phone : texts.phoneOptional" maxlength="40" autocomplete="off"
      :error-messages="error('client.phone')" hide-details="auto"
    />
    <ZoneField v-model="form.zone" :label="texts.zone" :locale="locale" :now="now" />
    <p class="label">{{ texts.guests }}</p>
    <GuestFields v-model="form.guests" :errors="errors" :may-add="true" />
  </fieldset>
  <details v-if="questions.length > 0" class="part answers">
    <summary>{{ texts.answers }}</summary>
    <QuestionFields v-model="form.answers" :questions="questions" :locale="locale" :errors="errors" />
  </details>
  <fieldset class="part told">
    <legend>{{ texts.whoIsTold }}</legend>
    <VCheckbox
      v-for="group in told" :key="group" v-model="form.told" :value="group" :label="texts.told[group]" density="compact" hide-details
    />
    <p class="quiet">{{ texts.toldHint }}</p>
  </fieldset>
</template>
