<script setup lang="ts">
import { VTextField } from 'vuetify/components'
import type { Definition } from '~~/core/event-type/definition'
import type { EventTypeState } from '~~/core/event-type/settings'

/** Where it is found, by whom, and whether it can be booked at all. */

defineProps<{ errors: Readonly<Record<string, string>>, published: Definition, page: string }>()
const definition = defineModel<Definition>({ required: true })

const states: { state: EventTypeState, label: string }[] = [
  { state: 'draft', label: 'Draft: only members see it' },
  { state: 'open', label: 'Open: clients can book it' },
  { state: 'closed', label: 'Closed: its link leads nowhere for now' },
]
</script>

<template>
  <div>
    <fieldset class="choices">
      <legend>State</legend>
      <label v-for="choice in states" :key="choice.state"><input type="radio" name="state" :checked="definition.state === choice.state" @change="definition = { ...definition, state: choice.state }"> {{ choice.label }}</label>
    </fieldset>
    <fieldset class="choices">
      <legend>Visibility</legend>
      <label><input type="radio" name="listed" :checked="definition.listed" @change="definition = { ...definition, listed: true }"> Listed on your workspace’s page</label>
      <label><input type="radio" name="listed" :checked="!definition.listed" @change="definition = { ...definition, listed: false }"> Unlisted: only by its link</label>
    </fieldset>
    <div class="field">
      <label for="slug">Short address</label>
      <VTextField
        id="slug" :model-value="definition.slug" spellcheck="false" :error-messages="errors['slug'] ?? []"
        hide-details="auto" @update:model-value="definition = { ...definition, slug: $event }"
      />
      <p class="quiet hint">
        {{ page.slice(0, page.lastIndexOf('/') + 1) }}<strong>{{ definition.slug }}</strong><template v-if="definition.slug !== published.slug">. The old one, {{ published.slug }}, goes on leading here.</template>
      </p>
    </div>
  </div>
</template>
