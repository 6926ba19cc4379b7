<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VCheckbox, VTextField } from 'vuetify/components'
import type { Definition } from '~~/core/event-type/definition'
import type { Panel } from '~~/core/event-type/panels'
import type { Settings } from '~~/core/event-type/settings'
import { useBench } from '~/stores/bench'
import NumberField from './NumberField.vue'
import TimeSpanField from './TimeSpanField.vue'

/** The panel of the chosen phrase. */

/** Each is fetched once it is opened. */
const AddressPanel = defineAsyncComponent(() => import('./AddressPanel.vue'))
const AfterwardsPanel = defineAsyncComponent(() => import('./AfterwardsPanel.vue'))
const ChairsPanel = defineAsyncComponent(() => import('./ChairsPanel.vue'))
const HistoryPanel = defineAsyncComponent(() => import('./HistoryPanel.vue'))
const HoldsPanel = defineAsyncComponent(() => import('./HoldsPanel.vue'))
const HorizonPanel = defineAsyncComponent(() => import('./HorizonPanel.vue'))
const HoursPanel = defineAsyncComponent(() => import('./HoursPanel.vue'))
const LimitsPanel = defineAsyncComponent(() => import('./LimitsPanel.vue'))
const NamePanel = defineAsyncComponent(() => import('./NamePanel.vue'))
const PaymentPanel = defineAsyncComponent(() => import('./PaymentPanel.vue'))
const PlacePanel = defineAsyncComponent(() => import('./PlacePanel.vue'))
const QuestionsPanel = defineAsyncComponent(() => import('./QuestionsPanel.vue'))
const RemindersPanel = defineAsyncComponent(() => import('./RemindersPanel.vue'))
const TeamPanel = defineAsyncComponent(() => import('./TeamPanel.vue'))
const TermsPanel = defineAsyncComponent(() => import('./TermsPanel.vue'))

const props = defineProps<{ panel: Panel }>()
const definition = defineModel<Definition>({ required: true })
const bench = useBench()
const errors = computed(() => bench.errors)
const emit = defineEmits<{ unread: [path: string, message: string | null], bring: [definition: Definition] }>()

const titles: Record<Panel, string> = {
  name: texts.whatIsIt,
  duration: texts.howLongDoesItTake,
  place: texts.whereDoesItTakePlace,
  chairs: texts.whoHostsIt,
  hours: texts.whenCanItBeBooked,
  leadTime: texts.howSoonBefore,
  horizon: texts.howFarAhead,
  startEvery: texts.howOftenCanItStart,
  buffers: texts.howMuchTimeIsKeptFree,
  limits: texts.howManyAtMost,
  holds: texts.whichEntriesDoNotCount,
  seats: texts.howManyClientsShareASession,
  payment: texts.whatItCosts,
  approval: texts.mustEachBookingBeApproved,
  guests: texts.mayClientsBringOthers,
  clientTerms: texts.mayClientsMoveAndCancel,
  reminders: texts.whenAreClientsReminded,
  questions: texts.whatDoClientsAnswer,
  afterwards: texts.whatHappensAfterBooking,
  address: texts.whoCanBookItAndWhere,
  team: texts.whatShouldTheTeamKnow,
  history: texts.whatHasChanged,
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
  emit('unread', 'durations', found ? null : texts.severalDurationsFault)
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
      <label for="durations">{{ texts.minutes }}</label>
      <VTextField
        id="durations" :model-value="durations" inputmode="numeric" :error-messages="errors['durations'] ?? []"
        hide-details="auto" @update:model-value="readDurations"
      />
      <p class="quiet hint">{{ texts.severalDurationsHint }}</p>
    </div>
    <PlacePanel v-else-if="panel === 'place'" v-model="settings" :errors="errors" />
    <ChairsPanel
      v-else-if="panel === 'chairs'" :model-value="definition.chairs" :hosts="bench.hosts" :groups="bench.view?.groups ?? []" :errors="errors"
      @update:model-value="definition = { ...definition, chairs: $event }"
    />
    <HoursPanel
      v-else-if="panel === 'hours'" v-model="settings" :chairs="definition.chairs" @unread="emit('unread', 'hours', $event)"
    />
    <template v-else-if="panel === 'leadTime'">
      <TimeSpanField
        :model-value="settings.leadTimeMinutes" :label="texts.leadTimeLabel"
        :error="errors['leadTimeMinutes']" @update:model-value="set('leadTimeMinutes', $event)"
      />
      <p class="quiet hint">{{ texts.leadTimeHint }}</p>
    </template>
    <HorizonPanel v-else-if="panel === 'horizon'" v-model="settings" v-model:holidays="bench.holidays" :errors="errors" />
    <template v-else-if="panel === 'startEvery'">
      <NumberField
        :model-value="settings.startEveryMinutes" :label="texts.clientsCanStartEvery" :unit="texts.minutesUnit"
        :error="errors['startEveryMinutes']" @update:model-value="set('startEveryMinutes', $event)"
      />
      <p class="quiet hint">{{ texts.startEveryHint }}</p>
    </template>
    <template v-else-if="panel === 'buffers'">
      <NumberField
        :model-value="settings.bufferBeforeMinutes" :label="texts.keptFreeBefore" :unit="texts.minutesUnit"
        :error="errors['bufferBeforeMinutes']" @update:model-value="set('bufferBeforeMinutes', $event)"
      />
      <NumberField
        :model-value="settings.bufferAfterMinutes" :label="texts.keptFreeAfter" :unit="texts.minutesUnit"
        :error="errors['bufferAfterMinutes']" @update:model-value="set('bufferAfterMinutes', $event)"
      />
    </template>
    <LimitsPanel v-else-if="panel === 'limits'" v-model="settings" :errors="errors" />
    <HoldsPanel v-else-if="panel === 'holds'" v-model="settings" :errors="errors" />
    <template v-else-if="panel === 'seats'">
      <NumberField
        :model-value="settings.seats" :label="texts.seatsInASession" :unit="texts.seatsUnit" :error="errors['seats']"
        @update:model-value="set('seats', $event)"
      />
      <p class="quiet hint">{{ texts.seatsHint }}</p>
      <template v-if="settings.seats > 1 || settings.mostPeople > 1">
        <NumberField
          :model-value="settings.mostPeople" :label="texts.mostPeople" :unit="texts.peopleUnit" :error="errors['mostPeople']"
          @update:model-value="set('mostPeople', $event)"
        />
        <p class="quiet hint">{{ texts.mostPeopleHint }}</p>
      </template>
    </template>
    <PaymentPanel v-else-if="panel === 'payment'" v-model="settings" :errors="errors" @unread="(field, fault) => emit('unread', field, fault)" />
    <template v-else-if="panel === 'approval'">
      <VCheckbox
        :model-value="settings.approval" :label="texts.approvalLabel" hide-details
        @update:model-value="set('approval', $event === true)"
      />
      <div v-if="settings.approval" class="field">
        <label for="approval-hours">{{ texts.approvalHoursLabel }}</label>
        <VTextField
          id="approval-hours" :model-value="settings.approvalHours ?? ''" inputmode="numeric" :placeholder="texts.untilTheStart" :suffix="texts.hoursUnit"
          :error-messages="errors['approvalHours'] ?? []" hide-details="auto"
          @update:model-value="set('approvalHours', $event.trim() === '' ? null : Number($event))"
        />
      </div>
      <p class="quiet hint">{{ texts.approvalHint }}</p>
    </template>
    <template v-else-if="panel === 'guests'">
      <VCheckbox
        :model-value="settings.guests" :label="texts.clientsMayBringGuests" hide-details
        @update:model-value="set('guests', $event === true)"
      />
      <p class="quiet hint">{{ texts.guestsHint }}</p>
    </template>
    <TermsPanel v-else-if="panel === 'clientTerms'" v-model="settings" :errors="errors" />
    <RemindersPanel v-else-if="panel === 'reminders'" v-model="settings" :errors="errors" />
    <QuestionsPanel v-else-if="panel === 'questions'" v-model="settings" :errors="errors" />
    <AfterwardsPanel v-else-if="panel === 'afterwards'" v-model="settings" :errors="errors" />
    <AddressPanel v-else-if="panel === 'address' && bench.view" v-model="definition" :errors="errors" :published="bench.view.definition" :page="bench.view.page" />
    <TeamPanel v-else-if="panel === 'team'" v-model="settings" :members="bench.view?.members ?? []" :errors="errors" />
    <HistoryPanel v-else @bring="emit('bring', $event)" />
  </section>
</template>

<style src="./panel.css"></style>
