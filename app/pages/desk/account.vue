<script setup lang="ts">
import { texts } from '~/locales/desk'
import { VBtn, VRadio, VRadioGroup, VTextField } from 'vuetify/components'
import { type ClockFace, formatTime, withClock } from '~~/core/time/format'
import type { AccountView } from '~~/core/views/desk'
import AddressChange from '~/components/account/AddressChange.vue'
import DeviceList from '~/components/account/DeviceList.vue'
import SecondFactor from '~/components/account/SecondFactor.vue'
import ZoneField from '~/components/fields/ZoneField.vue'
import { useCalls } from '~/composables/calls'
import { useSubmission } from '~/composables/submission'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'

definePageMeta({ layout: 'desk' })
useHead({ title: texts.yourSettingsTemporia })

const desk = useDesk()
const notice = useNotice()
const timeZone = ref(desk.member?.timeZone ?? 'UTC')
const clock = ref<ClockFace>(desk.clock)
const phone = ref(desk.member?.phone ?? '')
const { sending, errors, fault, submit } = useSubmission()

const shownTime = computed(() => formatTime(desk.now, timeZone.value, withClock(desk.locale, clock.value)))

const account = shallowRef<AccountView | null>(null)
const calls = useCalls()
async function load(): Promise<void> {
  account.value = await calls.act(() => $fetch<AccountView>('/api/desk/account'))
}
onMounted(load)

const save = () => submit(async () => {
  await desk.savePreferences({ timeZone: timeZone.value, clock: clock.value, phone: phone.value.trim() || null })
  phone.value = desk.member?.phone ?? ''
  notice.show(texts.yourSettingsAreSaved)
})
</script>

<template>
  <div class="account">
    <h1>{{ texts.yourSettings }}</h1>
    <p class="quiet">{{ desk.member?.name }}</p>
    <form @submit.prevent="save">
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
    <fieldset>
      <legend>{{ texts.yourPhone }}</legend>
      <VTextField
        v-model="phone" type="tel" autocomplete="tel" :label="texts.phoneNumber" :hint="texts.phoneForTexts" persistent-hint
        :error-messages="errors['phone'] ?? []" hide-details="auto"
      />
    </fieldset>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <VBtn type="submit" :loading="sending">{{ texts.save }}</VBtn>
    </form>
    <div v-if="account" class="sections">
      <AddressChange :account="account" @changed="load" />
      <SecondFactor :account="account" @changed="load" />
      <DeviceList />
    </div>
  </div>
</template>

<style scoped>
.account {
  padding: 18px 24px 40px;
  display: grid;
  grid-template-columns: minmax(280px, 420px) minmax(320px, 560px);
  gap: 8px 56px;
  align-items: start;
}

.account > h1,
.account > p {
  grid-column: 1 / -1;
}

form {
  display: grid;
  gap: 16px;
  justify-items: start;
  margin-top: 12px;
}

.sections {
  display: grid;
  gap: 28px;
  margin-top: 12px;
}

.sections :deep(h2) {
  font-size: 17px;
  margin-bottom: 4px;
}

@media (max-width: 800px) {
  .account {
    grid-template-columns: 1fr;
  }
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
