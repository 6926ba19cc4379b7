<script setup lang="ts">
import { texts } from '~/locales/desk'
import { VBtn, VRadio, VRadioGroup } from 'vuetify/components'
import { type ClockFace, formatTime, withClock } from '~~/core/time/format'
import ZoneField from '~/components/fields/ZoneField.vue'
import { useSubmission } from '~/composables/submission'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'

definePageMeta({ layout: 'desk' })
useHead({ title: texts.yourSettingsTemporia })

const desk = useDesk()
const notice = useNotice()
const timeZone = ref(desk.member?.timeZone ?? 'UTC')
const clock = ref<ClockFace>(desk.clock)
const { sending, fault, submit } = useSubmission()

const shownTime = computed(() => formatTime(desk.now, timeZone.value, withClock(desk.locale, clock.value)))

const save = () => submit(async () => {
  await desk.savePreferences({ timeZone: timeZone.value, clock: clock.value })
  notice.show(texts.yourSettingsAreSaved)
})
</script>

<template>
  <form class="account" @submit.prevent="save">
    <h1>{{ texts.yourSettings }}</h1>
    <p class="quiet">{{ desk.member?.name }}, {{ desk.member?.email }}</p>
    <fieldset>
      <legend>{{ texts.yourTimeZone }}</legend>
      <ZoneField v-model="timeZone" :label="texts.timeZone" :locale="desk.locale" :now="desk.now" />
    </fieldset>
    <fieldset>
      <legend>{{ texts.timesOfDay }}</legend>
      <VRadioGroup v-model="clock" hide-details>
        <VRadio value="24" :label="texts.hours24" />
        <VRadio value="12" :label="texts.hours12" />
      </VRadioGroup>
    </fieldset>
    <p class="quiet">{{ texts.clockHint(shownTime) }}</p>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <VBtn type="submit" :loading="sending">{{ texts.save }}</VBtn>
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
