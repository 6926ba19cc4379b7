<script setup lang="ts">
import { VCheckbox, VTextField } from 'vuetify/components'
import type { Definition } from '~~/core/event-type/definition'
import type { Panel } from '~~/core/event-type/panels'
import type { Settings } from '~~/core/event-type/settings'
import { useBench } from '~/stores/bench'
import AddressPanel from './AddressPanel.vue'
import AfterwardsPanel from './AfterwardsPanel.vue'
import ChairsPanel from './ChairsPanel.vue'
import HistoryPanel from './HistoryPanel.vue'
import HorizonPanel from './HorizonPanel.vue'
import HoursPanel from './HoursPanel.vue'
import LimitsPanel from './LimitsPanel.vue'
import NamePanel from './NamePanel.vue'
import NumberField from './NumberField.vue'
import PlacePanel from './PlacePanel.vue'
import QuestionsPanel from './QuestionsPanel.vue'
import TeamPanel from './TeamPanel.vue'
import TimeSpanField from './TimeSpanField.vue'

/** The panel of the chosen phrase. */

const props = defineProps<{ panel: Panel }>()
const definition = defineModel<Definition>({ required: true })
const bench = useBench()
const errors = computed(() => bench.errors)
const emit = defineEmits<{ unread: [path: string, message: string | null], bring: [definition: Definition] }>()

const titles: Record<Panel, string> = {
  name: 'What is it?',
  duration: 'How long does it take?',
  place: 'Where does it take place?',
  chairs: 'Who hosts it?',
  hours: 'When can it be booked?',
  leadTime: 'How soon before?',
  horizon: 'How far ahead?',
  startEvery: 'How often can it start?',
  buffers: 'How much time is kept free around it?',
  limits: 'How many at most?',
  seats: 'How many clients share a session?',
  approval: 'Must each booking be approved?',
  guests: 'May clients bring others?',
  questions: 'What do clients answer?',
  afterwards: 'What happens after booking?',
  address: 'Who can book it, and where?',
  team: 'What should the team know?',
  history: 'What has changed?',
}

const settings = computed<Settings>({
  get: () => definition.value.settings,
  set: value => (definition.value = { ...definition.value, settings: value }),
})
const durations = ref(settings.value.durations.join(', '))
watch(
  () => settings.value.durations,
  value => (read(durations.value)?.join() === value.join() ? undefined : (durations.value = value.join(', '))),
)

function set<Name extends keyof Settings>(name: Name, value: Settings[Name]): void {
  settings.value = { ...settings.value, [name]: value }
}

function read(text: string): number[] | null {
  const found = text.split(',').map(part => Number(part.trim()))
  return text.trim() !== '' && found.every(minutes => Number.isInteger(minutes) && minutes >= 1 && minutes <= 1440)
    ? [...new Set(found)]
    : null
}

/** Several durations are typed with commas; what is no number is refused here, since the draft cannot hold it. */
function readDurations(text: string): void {
  durations.value = text
  const found = read(text)
  emit('unread', 'durations', found ? null : 'Minutes from 1 to 1,440, several of them with commas between')
  if (!found) return
  // Starts follow the duration until they are set apart from it.
  const { durations: [before], startEveryMinutes } = settings.value
  const follows = startEveryMinutes === before && found[0] !== undefined
  settings.value = { ...settings.value, durations: found, ...(follows ? { startEveryMinutes: found[0] ?? startEveryMinutes } : {}) }
}
</script>

<template>
  <section class="bench-panel" aria-labelledby="panel-title">
    <h2 id="panel-title" tabindex="-1">{{ titles[props.panel] }}</h2>
    <NamePanel v-if="panel === 'name'" v-model="settings" :errors="errors" />
    <div v-else-if="panel === 'duration'" class="field">
      <label for="durations">Minutes</label>
      <VTextField
        id="durations" :model-value="durations" inputmode="numeric" :error-messages="errors['durations'] ?? []"
        hide-details="auto" @update:model-value="readDurations"
      />
      <p class="quiet hint">Several, such as 30, 60, let clients choose; the first is the default.</p>
    </div>
    <PlacePanel v-else-if="panel === 'place'" v-model="settings" :errors="errors" />
    <ChairsPanel
      v-else-if="panel === 'chairs'" :model-value="definition.chairs" :hosts="bench.hosts" :errors="errors"
      @update:model-value="definition = { ...definition, chairs: $event }"
    />
    <HoursPanel
      v-else-if="panel === 'hours'" v-model="settings" :chairs="definition.chairs" @unread="emit('unread', 'hours', $event)"
    />
    <template v-else-if="panel === 'leadTime'">
      <TimeSpanField
        :model-value="settings.leadTimeMinutes" label="At least this long before its start"
        :error="errors['leadTimeMinutes']" @update:model-value="set('leadTimeMinutes', $event)"
      />
      <p class="quiet hint">0 lets clients book up to the last moment.</p>
    </template>
    <HorizonPanel v-else-if="panel === 'horizon'" v-model="settings" v-model:holidays="bench.holidays" :errors="errors" />
    <template v-else-if="panel === 'startEvery'">
      <NumberField
        :model-value="settings.startEveryMinutes" label="Clients can start every" unit="minutes"
        :error="errors['startEveryMinutes']" @update:model-value="set('startEveryMinutes', $event)"
      />
      <p class="quiet hint">Counted from where the hours begin. It follows the duration until you set it apart.</p>
    </template>
    <template v-else-if="panel === 'buffers'">
      <NumberField
        :model-value="settings.bufferBeforeMinutes" label="Kept free before" unit="minutes"
        :error="errors['bufferBeforeMinutes']" @update:model-value="set('bufferBeforeMinutes', $event)"
      />
      <NumberField
        :model-value="settings.bufferAfterMinutes" label="Kept free after" unit="minutes"
        :error="errors['bufferAfterMinutes']" @update:model-value="set('bufferAfterMinutes', $event)"
      />
    </template>
    <LimitsPanel v-else-if="panel === 'limits'" v-model="settings" :errors="errors" />
    <template v-else-if="panel === 'seats'">
      <NumberField
        :model-value="settings.seats" label="Seats in a session" unit="seats" :error="errors['seats']"
        @update:model-value="set('seats', $event)"
      />
      <p class="quiet hint">With one seat every client has a session alone. With more, clients who choose the same time share it, and one room.</p>
    </template>
    <template v-else-if="panel === 'approval'">
      <VCheckbox
        :model-value="settings.approval" label="A host approves each booking by hand" hide-details
        @update:model-value="set('approval', $event === true)"
      />
      <p class="quiet hint">Until then the time is held, and no room is made. Requests wait under “Needs you” on Today.</p>
    </template>
    <template v-else-if="panel === 'guests'">
      <VCheckbox
        :model-value="settings.guests" label="Clients may bring guests" hide-details
        @update:model-value="set('guests', $event === true)"
      />
      <p class="quiet hint">Guests get the confirmation and the link. They take no seat of their own.</p>
    </template>
    <QuestionsPanel v-else-if="panel === 'questions'" v-model="settings" :errors="errors" />
    <AfterwardsPanel v-else-if="panel === 'afterwards'" v-model="settings" :errors="errors" />
    <AddressPanel v-else-if="panel === 'address' && bench.view" v-model="definition" :errors="errors" :published="bench.view.definition" :page="bench.view.page" />
    <TeamPanel v-else-if="panel === 'team'" v-model="settings" :errors="errors" />
    <HistoryPanel v-else @bring="emit('bring', $event)" />
  </section>
</template>

<style src="./panel.css"></style>
