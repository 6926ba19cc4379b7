<script setup lang="ts">
import { texts } from '~/locales/workspace'
import { VCheckbox, VSelect, VTextarea, VTextField } from 'vuetify/components'
import { hoursReach, sessionReach } from '~~/core/account/rights'
import { formatInputFault } from '~~/core/catalogue/input'
import { PRESET_QUIET_HOURS } from '~~/core/messages/quiet-hours'
import { inputFaults } from '~~/core/validation'
import { type WorkspaceSettings, workspaceSettingsSchema, type WorkspaceSettingsView } from '~~/core/workspace'
import SaveBar from '~/components/desk/SaveBar.vue'
import RoomWays from '~/components/fields/RoomWays.vue'
import ZoneField from '~/components/fields/ZoneField.vue'
import CalendarLinks from '~/components/workspace/CalendarLinks.vue'
import WorkspaceDeletion from '~/components/workspace/WorkspaceDeletion.vue'
import { useSubmission } from '~/composables/submission'
import { useCalls } from '~/composables/calls'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'

/** Name, address, zone and rules of the workspace as a whole. */

definePageMeta({ layout: 'desk' })
useHead({ title: texts.workspaceTemporia })

const desk = useDesk()
const notice = useNotice()
const calls = useCalls()
const { sending, errors, fault, submit } = useSubmission()
const stored = shallowRef<WorkspaceSettingsView | null>(null)
const edited = ref<WorkspaceSettings | null>(null)
const sessionSteps = sessionReach.map(value => ({ value, title: texts.sessionSteps[value] }))
const hoursSteps = hoursReach.map(value => ({ value, title: texts.hoursSteps[value] }))
const isOwner = computed(() => desk.member?.role === 'owner')

const settingsOf = ({ base: _base, earlier: _earlier, deletion: _deletion, ...settings }: WorkspaceSettingsView): WorkspaceSettings =>
  settings

async function load(): Promise<void> {
  stored.value = await calls.act(() => $fetch<WorkspaceSettingsView>('/api/desk/workspace'))
  edited.value = stored.value && settingsOf(stored.value)
}
onMounted(load)

const isChanged = computed(() => stored.value !== null && JSON.stringify(edited.value) !== JSON.stringify(settingsOf(stored.value)))
const faults = computed((): Record<string, string> => ({
  ...errors.value,
  ...Object.fromEntries(
    inputFaults(workspaceSettingsSchema.safeParse(edited.value).error, edited.value).map(item => [item.path, formatInputFault(item)]),
  ),
}))
watch(edited, () => (errors.value = {}), { deep: true })

const save = () => submit(async () => {
  await $fetch('/api/desk/workspace', { method: 'PUT', body: edited.value })
  await Promise.all([load(), desk.load()])
  notice.show(texts.saved)
})
</script>

<template>
  <div class="workspace-settings">
    <h1>{{ texts.workspace }}</h1>
    <p v-if="!edited || !stored" class="quiet">{{ calls.fault.value || texts.loading }}</p>
    <form v-else @submit.prevent="save">
      <p v-if="!isOwner" class="quiet">{{ texts.onlyOwners }}</p>
      <div class="part">
      <label for="name">{{ texts.name }}</label>
      <VTextField
        id="name" v-model="edited.name" :disabled="!isOwner" :hint="texts.nameHint" persistent-hint :error-messages="faults['name'] ?? []"
        hide-details="auto"
      />
      <label for="about">{{ texts.about }}</label>
      <VTextarea
        id="about" v-model="edited.about" :disabled="!isOwner" rows="3" auto-grow :hint="texts.aboutHint" persistent-hint
        :error-messages="faults['about'] ?? []" hide-details="auto"
      />
      <label for="slug">{{ texts.address }}</label>
      <VTextField
        id="slug" v-model="edited.slug" :disabled="!isOwner" :prefix="`${stored.base}/`" :hint="texts.addressHint(stored.earlier)" persistent-hint
        :error-messages="faults['slug'] ?? []" hide-details="auto"
      />
      <div>
        <ZoneField v-model="edited.timeZone" :label="texts.timeZone" :locale="desk.locale" :now="desk.now" />
        <p class="quiet hint">{{ texts.timeZoneHint }}</p>
      </div>
      <fieldset :disabled="!isOwner">
        <legend>{{ texts.rooms }}</legend>
        <p class="quiet hint">{{ texts.roomsHint }}</p>
        <RoomWays v-model="edited.roomWays" :disabled="!isOwner" />
        <VTextField
          v-model="edited.roomPattern" :disabled="!isOwner" :label="texts.roomPattern" :hint="texts.roomPatternHint" persistent-hint
          :error-messages="faults['roomPattern'] ?? []" hide-details="auto"
        />
      </fieldset>
      </div>
      <div class="part">
      <fieldset :disabled="!isOwner">
        <legend>{{ texts.turns }}</legend>
        <VCheckbox v-model="edited.countsCancelled" :label="texts.countsCancelled" hide-details />
        <VCheckbox v-model="edited.countsMissed" :label="texts.countsMissed" hide-details />
        <p class="quiet hint">{{ texts.turnsHint }}</p>
      </fieldset>
      <fieldset :disabled="!isOwner">
        <legend>{{ texts.silentCalendars }}</legend>
        <VCheckbox v-model="edited.stopsSilent" :label="texts.stopsSilent" hide-details />
        <p class="quiet hint">{{ texts.stopsSilentHint }}</p>
      </fieldset>
      <fieldset :disabled="!isOwner">
        <legend>{{ texts.hostsMay }}</legend>
        <VSelect
          v-model="edited.hostReach.sessions" :disabled="!isOwner" :label="texts.othersSessions" :items="sessionSteps" hide-details
        />
        <VSelect v-model="edited.hostReach.hours" :disabled="!isOwner" :label="texts.othersHours" :items="hoursSteps" hide-details />
        <p class="quiet hint">{{ texts.hostsMayHint }}</p>
      </fieldset>
      <fieldset :disabled="!isOwner">
        <legend>{{ texts.quietHours }}</legend>
        <VCheckbox
          :model-value="edited.quietHours !== null" :label="texts.hasQuietHours" hide-details
          @update:model-value="edited.quietHours = $event ? { ...PRESET_QUIET_HOURS } : null"
        />
        <div v-if="edited.quietHours" class="pair">
          <VTextField v-model="edited.quietHours.from" :label="texts.quietFrom" :error-messages="faults['quietHours.from'] ?? []" hide-details="auto" />
          <VTextField v-model="edited.quietHours.to" :label="texts.quietTo" :error-messages="faults['quietHours.to'] ?? []" hide-details="auto" />
        </div>
        <p class="quiet hint">{{ texts.quietHoursHint }}</p>
      </fieldset>
      <CalendarLinks v-model="edited.calendarLinks" :faults="faults" :disabled="!isOwner" />
      </div>
      <SaveBar
        v-if="isOwner" :is-changed="isChanged" :is-sound="Object.keys(faults).length === 0" :sending="sending" :fault="fault" @save="save"
        @discard="load"
      />
    </form>
    <WorkspaceDeletion v-if="stored && isOwner" :workspace="stored" @changed="load" />
  </div>
</template>

<style scoped>
.workspace-settings {
  padding: 18px 24px 0;
}

h1 {
  font-size: 26px;
}

form {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 6px 48px;
  max-width: 1140px;
  margin-top: 14px;
}

form > :not(.part) {
  grid-column: 1 / -1;
}

.part {
  display: grid;
  align-content: start;
  gap: 6px;
}

label,
legend {
  padding: 0;
  font-weight: 600;
}

.part > .v-input,
.part > div {
  margin-bottom: 12px;
}

fieldset {
  border: 0;
  margin: 0;
  padding: 0 0 20px;
}

.pair {
  display: grid;
  grid-template-columns: repeat(2, 120px);
  gap: 12px;
  margin: 6px 0;
}

.v-select {
  margin: 12px 0 6px;
}

.hint {
  font-size: 12.5px;
}

@media (max-width: 900px) {
  form {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
