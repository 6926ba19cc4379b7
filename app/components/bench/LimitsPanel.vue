<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VTextField } from 'vuetify/components'
import type { Settings } from '~~/core/event-type/settings'

/** At most so many sessions, for each host or over all of them; an empty field is no limit. */

defineProps<{ errors: Readonly<Record<string, string>> }>()
const settings = defineModel<Settings>({ required: true })

const fields = [
  ['dailyLimit', texts.sessionsADayForEachHost],
  ['weeklyLimit', texts.sessionsAWeekForEachHost],
  ['totalDailyLimit', texts.sessionsADayInTotal],
  ['totalWeeklyLimit', texts.sessionsAWeekInTotal],
] as const

function read(name: (typeof fields)[number][0], text: string): void {
  settings.value = { ...settings.value, [name]: text.trim() === '' ? null : Number(text) }
}

const shown = (value: number | null) => (value === null || Number.isNaN(value) ? '' : String(value))
</script>

<template>
  <div>
    <div v-for="[name, label] in fields" :key="name" class="field">
      <label :for="name">{{ label }}</label>
      <VTextField
        :id="name" :model-value="shown(settings[name])" inputmode="numeric" :placeholder="texts.noLimit"
        :error-messages="errors[name] ?? []" hide-details="auto" @update:model-value="read(name, $event)"
      />
    </div>
    <p class="quiet hint">{{ texts.limitsHint }}</p>
  </div>
</template>
