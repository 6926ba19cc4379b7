<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VRadio, VRadioGroup, VTextField } from 'vuetify/components'
import type { Definition } from '~~/core/event-type/definition'
import type { EventTypeState } from '~~/core/event-type/settings'

/** Where it is found, by whom, and whether it can be booked at all. */

defineProps<{ errors: Readonly<Record<string, string>>, published: Definition, page: string }>()
const definition = defineModel<Definition>({ required: true })

const states: { state: EventTypeState, label: string }[] = [
  { state: 'draft', label: texts.draftOnlyMembersSeeIt },
  { state: 'open', label: texts.openClientsCanBookIt },
  { state: 'closed', label: texts.closedItsLinkLeadsNowhere },
]
const state = computed({ get: () => definition.value.state, set: state => (definition.value = { ...definition.value, state }) })
const listed = computed({ get: () => definition.value.listed, set: listed => (definition.value = { ...definition.value, listed }) })
</script>

<template>
  <div>
    <VRadioGroup v-model="state" :label="texts.state">
      <VRadio v-for="choice in states" :key="choice.state" :value="choice.state" :label="choice.label" />
    </VRadioGroup>
    <VRadioGroup v-model="listed" :label="texts.visibility">
      <VRadio :value="true" :label="texts.listedOnYourWorkspacesPage" />
      <VRadio :value="false" :label="texts.unlistedOnlyByItsLink" />
    </VRadioGroup>
    <div class="field">
      <label for="slug">{{ texts.shortAddress }}</label>
      <VTextField
        id="slug" :model-value="definition.slug" spellcheck="false" :error-messages="errors['slug'] ?? []"
        hide-details="auto" @update:model-value="definition = { ...definition, slug: $event }"
      />
      <p class="quiet hint">
        {{ page.slice(0, page.lastIndexOf('/') + 1) }}<strong>{{ definition.slug }}</strong><template v-if="definition.slug !== published.slug">{{ texts.theOldOneStillLeadsHere(published.slug) }}</template>
      </p>
    </div>
  </div>
</template>
