<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VTextarea, VTextField } from 'vuetify/components'
import type { Settings } from '~~/core/event-type/settings'
import { markdown } from '~~/core/markdown'

/** What clients read: its name, a line about it, a description, and its colour. */

defineProps<{ errors: Readonly<Record<string, string>> }>()
const settings = defineModel<Settings>({ required: true })

/** Inks that carry white text well. */
const colours = [
  ['#54305C', 'aubergine'],
  ['#2F5D73', 'river'],
  ['#3D6B4F', 'moss'],
  ['#6B5B2E', 'umber'],
  ['#8A3B4A', 'madder'],
  ['#3F4A7A', 'indigo'],
] as const

function set<Name extends keyof Settings>(name: Name, value: Settings[Name]): void {
  settings.value = { ...settings.value, [name]: value }
}

const html = computed(() => markdown(settings.value.description))
</script>

<template>
  <div>
    <div class="field">
      <label for="event-name">{{ texts.name }}</label>
      <VTextField
        id="event-name" :model-value="settings.name" :error-messages="errors['name'] ?? []" hide-details="auto"
        @update:model-value="set('name', $event)"
      />
    </div>
    <div class="field">
      <label for="event-summary">{{ texts.summaryLabel }}</label>
      <VTextField
        id="event-summary" :model-value="settings.summary" :error-messages="errors['summary'] ?? []" hide-details="auto"
        @update:model-value="set('summary', $event)"
      />
    </div>
    <div class="field">
      <label for="event-description">{{ texts.whatClientsReadOnItsPage }}</label>
      <VTextarea
        id="event-description" :model-value="settings.description" rows="5"
        :error-messages="errors['description'] ?? []" hide-details="auto"
        @update:model-value="set('description', $event)"
      />
      <p class="quiet hint">{{ texts.markdownHint }}</p>
    </div>
    <!-- eslint-disable-next-line vue/no-v-html -- made by the Markdown renderer, which lets no HTML through -->
    <div v-if="settings.description" class="reads" :aria-label="texts.asClientsReadIt" v-html="html" />
    <fieldset class="colours">
      <legend>{{ texts.colourOfItsPage }}</legend>
      <label v-for="[colour, name] in colours" :key="colour" :title="name">
        <input type="radio" name="colour" :checked="settings.colour.toUpperCase() === colour" @change="set('colour', colour)">
        <span class="ink" :style="{ background: colour }" /><span class="visually-hidden">{{ name }}</span>
      </label>
    </fieldset>
  </div>
</template>

<style scoped>
.reads {
  border-left: 3px solid var(--line);
  padding-left: 12px;
  margin-bottom: 14px;
}

.reads :deep(p + p),
.reads :deep(ul) {
  margin: 6px 0 0;
}

.colours {
  border: 0;
  padding: 0;
  margin: 0;
  display: flex;
  gap: 12px;
}

.colours legend {
  font-weight: 600;
  padding-bottom: 6px;
}

.colours label {
  display: grid;
  justify-items: center;
  gap: 4px;
}

.ink {
  width: 30px;
  height: 30px;
  border-radius: var(--corner);
  grid-row: 1;
}

.colours input {
  accent-color: var(--ink);
}
</style>
