<script setup lang="ts">
import { VTextarea, VTextField } from 'vuetify/components'
import type { Panel } from '~~/core/event-type/sentence'
import type { Settings } from '~~/core/event-type/settings'
import type { BenchView, EventTypeState } from '~~/core/views/desk'
import HorizonPanel from './HorizonPanel.vue'
import HoursPanel from './HoursPanel.vue'
import NumberField from './NumberField.vue'
import PlacePanel from './PlacePanel.vue'
import QuestionsPanel from './QuestionsPanel.vue'
import TimeSpanField from './TimeSpanField.vue'

/** The panel of the chosen phrase. */

const props = defineProps<{ panel: Panel, bench: BenchView, errors: Readonly<Record<string, string>> }>()
const settings = defineModel<Settings>({ required: true })
const state = defineModel<EventTypeState>('state', { required: true })
const emit = defineEmits<{ unread: [path: string, message: string | null] }>()

const titles: Record<Panel, string> = {
  name: 'What is it called?',
  duration: 'How long does it take?',
  place: 'Where does it take place?',
  hours: 'When can it be booked?',
  leadTime: 'How soon before?',
  horizon: 'How far ahead?',
  startEvery: 'When can it start?',
  buffers: 'What is kept free around it?',
  questions: 'What do clients answer?',
}

const durations = ref(settings.value.durations.join(', '))

function set<Name extends keyof Settings>(name: Name, value: Settings[Name]): void {
  settings.value = { ...settings.value, [name]: value }
}

/** Several durations are typed with commas; what is no number is refused here, since the draft cannot hold it. */
function readDurations(text: string): void {
  durations.value = text
  const read = text.split(',').map(part => Number(part.trim()))
  const fits = text.trim() !== '' && read.every(minutes => Number.isInteger(minutes) && minutes >= 1 && minutes <= 1440)
  emit('unread', 'durations', fits ? null : 'Minutes from 1 to 1,440, several of them with commas between')
  if (fits) set('durations', [...new Set(read)])
}

const states: { state: EventTypeState, words: string }[] = [
  { state: 'draft', words: 'Draft: only members see it' },
  { state: 'open', words: 'Open: clients can book it' },
  { state: 'closed', words: 'Closed: its link leads nowhere for now' },
]
</script>

<template>
  <section class="bench-panel" aria-labelledby="panel-title">
    <h2 id="panel-title">{{ titles[props.panel] }}</h2>
    <template v-if="panel === 'name'">
      <div class="field">
        <label for="event-name">Name</label>
        <VTextField id="event-name" :model-value="settings.name" :error-messages="errors['name'] ?? []" hide-details="auto" @update:model-value="set('name', $event)" />
      </div>
      <div class="field">
        <label for="event-summary">In one line, for the list of your workspace</label>
        <VTextField id="event-summary" :model-value="settings.summary" :error-messages="errors['summary'] ?? []" hide-details="auto" @update:model-value="set('summary', $event)" />
      </div>
      <div class="field">
        <label for="event-description">What clients read on its page</label>
        <VTextarea id="event-description" :model-value="settings.description" rows="4" auto-grow :error-messages="errors['description'] ?? []" hide-details="auto" @update:model-value="set('description', $event)" />
      </div>
      <fieldset class="states">
        <legend>State</legend>
        <label v-for="one in states" :key="one.state"><input v-model="state" type="radio" name="state" :value="one.state"> {{ one.words }}</label>
      </fieldset>
    </template>
    <div v-else-if="panel === 'duration'" class="field">
      <label for="durations">Minutes</label>
      <VTextField id="durations" :model-value="durations" inputmode="numeric" :error-messages="errors['durations'] ?? []" hide-details="auto" @update:model-value="readDurations" />
      <p class="quiet hint">Several, such as 30, 60, let clients choose. What is shown beside is for the first.</p>
    </div>
    <PlacePanel v-else-if="panel === 'place'" v-model="settings" :errors="errors" />
    <HoursPanel v-else-if="panel === 'hours'" v-model="settings" :bench="bench" :error="errors['hours']" @unread="emit('unread', 'hours', $event)" />
    <template v-else-if="panel === 'leadTime'">
      <TimeSpanField :model-value="settings.leadTimeMinutes" label="At least this long before its start" :error="errors['leadTimeMinutes']" @update:model-value="set('leadTimeMinutes', $event)" />
      <p class="quiet hint">0 lets clients book up to the last moment.</p>
    </template>
    <HorizonPanel v-else-if="panel === 'horizon'" v-model="settings" :errors="errors" />
    <template v-else-if="panel === 'startEvery'">
      <NumberField :model-value="settings.startEveryMinutes" label="A start is offered every" unit="minutes" :error="errors['startEveryMinutes']" @update:model-value="set('startEveryMinutes', $event)" />
      <p class="quiet hint">Counted from where the hours begin. It need not be the duration.</p>
    </template>
    <template v-else-if="panel === 'buffers'">
      <NumberField :model-value="settings.bufferBeforeMinutes" label="Kept free before" unit="minutes" :error="errors['bufferBeforeMinutes']" @update:model-value="set('bufferBeforeMinutes', $event)" />
      <NumberField :model-value="settings.bufferAfterMinutes" label="Kept free after" unit="minutes" :error="errors['bufferAfterMinutes']" @update:model-value="set('bufferAfterMinutes', $event)" />
    </template>
    <QuestionsPanel v-else v-model="settings" :errors="errors" />
  </section>
</template>

<style>
.bench-panel h2 {
  font-size: 17px;
  margin-bottom: 14px;
}

.bench-panel .field {
  margin-bottom: 14px;
}

.bench-panel .field > label {
  display: block;
  font-weight: 600;
  margin-bottom: 4px;
}

.bench-panel .hint {
  font-size: 12.5px;
  margin-top: 5px;
}

.bench-panel select {
  border: 1px solid var(--quiet);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 7px 8px;
  width: 100%;
  margin-bottom: 10px;
}

.bench-panel .entry {
  border: 0;
  border-top: 1px solid var(--line);
  margin: 0 0 12px;
  padding: 10px 0 0;
  min-width: 0;
}

.bench-panel .entry legend {
  float: left;
  width: 100%;
  font-weight: 600;
  padding: 0 0 6px;
}

.bench-panel .entry legend + * {
  clear: both;
}

.bench-panel .entry .v-input {
  margin-bottom: 8px;
}

.bench-panel .entry-actions {
  display: flex;
  gap: 16px;
}

.bench-panel .word:disabled {
  color: var(--quiet);
  text-decoration: none;
  cursor: default;
}

.bench-panel .states {
  border: 0;
  padding: 0;
  margin: 0;
  display: grid;
  gap: 6px;
}

.bench-panel .states legend {
  font-weight: 600;
  padding-bottom: 4px;
}

.bench-panel .states input {
  accent-color: var(--aubergine);
}
</style>
