<script setup lang="ts">
import { VBtn, VRadio, VRadioGroup } from 'vuetify/components'
import { type ClockFace, formatTime, withClock } from '~~/core/time/format'
import ZoneField from '~/components/fields/ZoneField.vue'
import { problemOf } from '~/composables/problem'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'

definePageMeta({ layout: 'desk' })
useHead({ title: 'Your settings · Temporia' })

const desk = useDesk()
const notice = useNotice()
const timeZone = ref(desk.member?.timeZone ?? 'UTC')
const clock = ref<ClockFace>(desk.clock)
const fault = ref('')
const sending = ref(false)

const shownTime = computed(() => formatTime(desk.now, timeZone.value, withClock(desk.locale, clock.value)))

async function save(): Promise<void> {
  sending.value = true
  fault.value = ''
  try {
    await desk.savePreferences({ timeZone: timeZone.value, clock: clock.value })
    notice.show('Your settings are saved.')
  } catch (error) {
    fault.value = problemOf(error).message
  } finally {
    sending.value = false
  }
}
</script>

<template>
  <form class="account" @submit.prevent="save">
    <h1>Your settings</h1>
    <p class="quiet">{{ desk.member?.name }}, {{ desk.member?.email }}</p>
    <fieldset>
      <legend>Your time zone</legend>
      <ZoneField v-model="timeZone" label="Time zone" :locale="desk.locale" :now="desk.now" />
    </fieldset>
    <fieldset>
      <legend>Times of day</legend>
      <VRadioGroup v-model="clock" hide-details>
        <VRadio value="24" label="24 hours, such as 14:30" />
        <VRadio value="12" label="12 hours, such as 2:30 pm" />
      </VRadioGroup>
    </fieldset>
    <p class="quiet">It is {{ shownTime }} for you now. Screens and your mails use these settings.</p>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <VBtn type="submit" :loading="sending">Save</VBtn>
  </form>
</template>

<style scoped>
.account {
  max-width: 480px;
  padding: 24px;
  display: grid;
  gap: 16px;
  justify-items: start;
}

h1 {
  font-size: 24px;
}

fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  width: 100%;
}

legend {
  font-weight: 600;
  margin-bottom: 8px;
}
</style>
