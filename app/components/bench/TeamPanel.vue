<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VAutocomplete, VCombobox, VTextarea, VTextField } from 'vuetify/components'
import type { Settings } from '~~/core/event-type/settings'

/** What only members see. */

const props = defineProps<{ members: readonly { id: string, name: string }[], errors: Readonly<Record<string, string>> }>()
const settings = defineModel<Settings>({ required: true })

/** Members, and observers who have left since. */
const isMember = (id: string) => props.members.some(member => member.id === id)
const choices = computed(() => [...props.members, ...settings.value.observers.filter(({ id }) => !isMember(id))])
const observe = (ids: readonly string[]) => {
  const observers = ids.flatMap(id => choices.value.find(member => member.id === id) ?? [])
  settings.value = { ...settings.value, observers: observers.map(({ id, name }) => ({ id, name })) }
}
const faultsOf = (name: string) => Object.entries(props.errors).filter(([path]) => path.startsWith(name)).map(([, message]) => message)
</script>

<template>
  <div>
    <div class="field">
      <label for="team-name">{{ texts.nameForTheTeam }}</label>
      <VTextField
        id="team-name" :model-value="settings.teamName" :placeholder="settings.name" :error-messages="errors['teamName'] ?? []"
        hide-details="auto" @update:model-value="settings = { ...settings, teamName: $event }"
      />
      <p class="quiet hint">{{ texts.teamNameHint }}</p>
    </div>
    <div class="field">
      <label for="team-notes">{{ texts.teamNotes }}</label>
      <VTextarea
        id="team-notes" :model-value="settings.notes" rows="5" auto-grow :error-messages="errors['notes'] ?? []"
        hide-details="auto" @update:model-value="settings = { ...settings, notes: $event }"
      />
      <p class="quiet hint">{{ texts.clientsNeverSeeThese }}</p>
    </div>
    <div class="field">
      <label for="team-observers">{{ texts.whoElseIsTold }}</label>
      <VAutocomplete
        id="team-observers" :model-value="settings.observers.map(observer => observer.id)" :items="choices" item-title="name" item-value="id"
        multiple chips closable-chips :error-messages="faultsOf('observers')" hide-details="auto" @update:model-value="observe"
      />
      <p class="quiet hint">{{ texts.whoElseIsToldHint }}</p>
    </div>
    <div class="field">
      <label for="team-tags">{{ texts.tags }}</label>
      <VCombobox
        id="team-tags" :model-value="settings.tags" multiple chips closable-chips :delimiters="[',']"
        :error-messages="faultsOf('tags')" hide-details="auto" menu-icon=""
        @update:model-value="settings = { ...settings, tags: $event.map((tag: unknown) => String(tag).trim()).filter(Boolean) }"
      />
      <p class="quiet hint">{{ texts.tagsHint }}</p>
    </div>
  </div>
</template>
