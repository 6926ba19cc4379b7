<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VCombobox, VTextarea, VTextField } from 'vuetify/components'
import type { Settings } from '~~/core/event-type/settings'

/** What only members see. */

defineProps<{ errors: Readonly<Record<string, string>> }>()
const settings = defineModel<Settings>({ required: true })
const tagFault = (errors: Readonly<Record<string, string>>) =>
  Object.entries(errors)
    .filter(([path]) => path.startsWith('tags'))
    .map(([, message]) => message)
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
      <label for="team-tags">{{ texts.tags }}</label>
      <VCombobox
        id="team-tags" :model-value="settings.tags" multiple chips closable-chips :delimiters="[',']"
        :error-messages="tagFault(errors)" hide-details="auto" menu-icon=""
        @update:model-value="settings = { ...settings, tags: $event.map((tag: unknown) => String(tag).trim()).filter(Boolean) }"
      />
      <p class="quiet hint">{{ texts.tagsHint }}</p>
    </div>
  </div>
</template>
