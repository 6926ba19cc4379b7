<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VCombobox } from 'vuetify/components'
import type { Settings } from '~~/core/event-type/settings'
import { useBench } from '~/stores/bench'

/** Words in the titles of calendar entries that take no time from this event type, with how many entries each of them frees. */

const props = defineProps<{ errors: Readonly<Record<string, string>> }>()
const settings = defineModel<Settings>({ required: true })
const bench = useBench()

const faults = computed(() => Object.entries(props.errors).filter(([path]) => path.startsWith('holds')).map(([, message]) => message))
const freed = computed(() => settings.value.holds.map(word => ({ word, entries: bench.entriesHeldBy(word) })))

const set = (words: readonly unknown[]) => {
  settings.value = { ...settings.value, holds: [...new Set(words.map(word => String(word).trim()).filter(Boolean))] }
}
</script>

<template>
  <div>
    <div class="field">
      <label for="holds">{{ texts.holdWords }}</label>
      <VCombobox
        id="holds" :model-value="settings.holds" multiple chips closable-chips :delimiters="[',']" :error-messages="faults" hide-details="auto"
        menu-icon="" @update:model-value="set"
      />
      <p class="quiet hint">{{ texts.holdWordsHint }}</p>
    </div>
    <ul v-if="freed.length > 0" role="status">
      <li v-for="{ word, entries } in freed" :key="word" dir="auto">{{ texts.holdFrees(word, entries) }}</li>
    </ul>
  </div>
</template>

<style scoped>
ul {
  margin: 10px 0 0;
  padding-left: 18px;
}
</style>
