<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VSelect, VTextField } from 'vuetify/components'
import type { Reminder } from '~~/core/event-type/reminders'
import type { Settings } from '~~/core/event-type/settings'
import TimeSpanField from './TimeSpanField.vue'

/** When clients and their guests are reminded of a session. */

defineProps<{ errors: Readonly<Record<string, string>> }>()
const settings = defineModel<Settings>({ required: true })
const route = useRoute()
const MOST = 5
const kinds = [{ title: texts.aLengthBefore, value: 'before' }, { title: texts.aTimeTheDayBefore, value: 'dayBefore' }]

function save(reminders: Reminder[]): void {
  settings.value = { ...settings.value, reminders }
}
const set = (index: number, reminder: Reminder) => save(settings.value.reminders.map((old, at) => (at === index ? reminder : old)))
const made = (kind: Reminder['kind']): Reminder => (kind === 'before' ? { kind, minutes: 120 } : { kind, at: '18:00' })
</script>

<template>
  <div>
    <p v-if="settings.reminders.length === 0">{{ texts.nobodyIsReminded }}</p>
    <fieldset v-for="(reminder, index) in settings.reminders" :key="index" class="reminder">
      <legend class="visually-hidden">{{ texts.reminderNumber(index + 1) }}</legend>
      <VSelect
        :model-value="reminder.kind" :items="kinds" :aria-label="texts.reminderNumber(index + 1)" :error-messages="errors[`reminders.${index}`] ?? []"
        hide-details="auto" @update:model-value="set(index, made($event))"
      />
      <TimeSpanField
        v-if="reminder.kind === 'before'" :model-value="reminder.minutes" :label="texts.howLongBefore"
        :error="errors[`reminders.${index}.minutes`]" @update:model-value="set(index, { kind: 'before', minutes: $event })"
      />
      <div v-else class="field">
        <label :for="`reminder-${index}`">{{ texts.timeOfDayBefore }}</label>
        <VTextField
          :id="`reminder-${index}`" :model-value="reminder.at" :error-messages="errors[`reminders.${index}.at`] ?? []" hide-details="auto"
          @update:model-value="set(index, { kind: 'dayBefore', at: $event })"
        />
      </div>
      <button
        type="button" class="word" :aria-label="texts.removeReminder(index + 1)"
        @click="save(settings.reminders.filter((_, at) => at !== index))"
      >{{ texts.removeIt }}</button>
    </fieldset>
    <button v-if="settings.reminders.length < MOST" type="button" class="word" @click="save([...settings.reminders, made('before')])">{{ texts.addAReminder }}</button>
    <p class="quiet hint">{{ texts.remindersHint }} <NuxtLink :to="{ path: '/desk/messages', query: { eventType: route.params['id'], message: 'before.client' } }">{{ texts.reminderWords }}</NuxtLink></p>
  </div>
</template>

<style scoped>
.reminder {
  border: 0;
  border-left: 2px solid var(--line);
  margin: 0 0 14px;
  padding: 0 0 0 12px;
  min-width: 0;
  display: grid;
  gap: 6px;
  justify-items: start;
}

.reminder > :not(.word) {
  justify-self: stretch;
}
</style>
