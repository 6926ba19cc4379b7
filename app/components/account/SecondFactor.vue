<script setup lang="ts">
import { texts } from '~/locales/account'
import { VBtn, VTextField } from 'vuetify/components'
import { formatDay } from '~~/core/time/format'
import type { AccountView } from '~~/core/views/desk'
import { copyText } from '~/composables/copy-text'
import { useSubmission } from '~/composables/submission'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'

/** Turning the second factor on and off: password, code to scan, first code, recovery codes. */

const props = defineProps<{ account: AccountView }>()
const emit = defineEmits<{ changed: [] }>()

const desk = useDesk()
const notice = useNotice()
const step = ref<'idle' | 'password' | 'scan' | 'codes' | 'off'>('idle')
const password = ref('')
const code = ref('')
const secret = ref('')
const picture = ref('')
const recoveryCodes = shallowRef<string[]>([])
const { sending, errors, fault, submit } = useSubmission()

const since = computed(() => (props.account.secondFactorSince ? formatDay(props.account.secondFactorSince, desk.zone, desk.locale, desk.now) : ''))

function open(next: 'password' | 'off'): void {
  password.value = code.value = ''
  errors.value = {}
  step.value = next
}

const path = '/api/desk/account/second-factor'
const begin = () => submit(async () => {
  const begun = await $fetch<{ secret: string, uri: string }>(path, { method: 'POST', body: { password: password.value } })
  const { toString: toSvg } = await import('qrcode')
  secret.value = begun.secret.replace(/(.{4})(?=.)/g, '$1 ')
  picture.value = `data:image/svg+xml,${encodeURIComponent(await toSvg(begun.uri, { type: 'svg', margin: 2 }))}`
  step.value = 'scan'
})

const confirm = () => submit(async () => {
  const { recoveryCodes: codes } = await $fetch<{ recoveryCodes: string[] }>(`${path}/confirm`, { method: 'POST', body: { code: code.value } })
  recoveryCodes.value = codes
  step.value = 'codes'
})

const end = () => submit(async () => {
  await $fetch(`${path}/end`, { method: 'POST', body: { password: password.value, code: code.value } })
  step.value = 'idle'
  notice.show(texts.turnedOff)
  emit('changed')
})

function finish(): void {
  recoveryCodes.value = []
  step.value = 'idle'
  emit('changed')
}
</script>

<template>
  <section aria-labelledby="second-factor">
    <h2 id="second-factor">{{ texts.secondFactor }}</h2>
    <p class="quiet">{{ account.secondFactorSince ? texts.isOn(since, account.recoveryCodesLeft) : texts.secondFactorHint }}</p>
    <LinkButton v-if="step === 'idle'" @click="open(account.secondFactorSince ? 'off' : 'password')">{{ account.secondFactorSince ? texts.turnOff : texts.turnOn }}</LinkButton>
    <form v-else-if="step === 'password' || step === 'off'" @submit.prevent="step === 'off' ? end() : begin()">
      <VTextField
        v-model="password" type="password" autocomplete="current-password" :label="texts.password" :error-messages="errors['password'] ?? []"
        hide-details="auto" autofocus
      />
      <VTextField
        v-if="step === 'off'" v-model="code" autocomplete="one-time-code" :label="texts.codeOrRecovery" :error-messages="errors['code'] ?? []"
        hide-details="auto"
      />
      <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
      <p class="ways">
        <VBtn type="submit" :loading="sending">{{ step === 'off' ? texts.turnOff : texts.next }}</VBtn>
        <LinkButton @click="step = 'idle'">{{ texts.cancel }}</LinkButton>
      </p>
    </form>
    <form v-else-if="step === 'scan'" @submit.prevent="confirm">
      <p>{{ texts.scan }}</p>
      <img :src="picture" :alt="texts.qrLabel" width="180" height="180">
      <p class="quiet">{{ texts.orType }} <code>{{ secret }}</code></p>
      <VTextField
        v-model="code" autocomplete="one-time-code" inputmode="numeric" :label="texts.code" :error-messages="errors['code'] ?? []"
        hide-details="auto"
      />
      <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
      <p class="ways">
        <VBtn type="submit" :loading="sending">{{ texts.confirm }}</VBtn>
        <LinkButton @click="step = 'idle'">{{ texts.cancel }}</LinkButton>
      </p>
    </form>
    <div v-else class="codes">
      <h3>{{ texts.recoveryTitle }}</h3>
      <p>{{ texts.recoveryHint }}</p>
      <ul>
        <li v-for="item in recoveryCodes" :key="item"><code>{{ item }}</code></li>
      </ul>
      <p class="ways">
        <VBtn @click="finish">{{ texts.keptThem }}</VBtn>
        <LinkButton @click="copyText(recoveryCodes.join('\n'), texts.copied)">{{ texts.copy }}</LinkButton>
      </p>
    </div>
  </section>
</template>

<style scoped>
form {
  display: grid;
  gap: 10px;
  max-width: 420px;
  margin-top: 8px;
}

img {
  background: #fff;
  border: 1px solid var(--line);
  border-radius: var(--corner);
}

code {
  font-family: var(--body);
  font-weight: 600;
  letter-spacing: 0.04em;
}

.ways {
  display: flex;
  align-items: center;
  gap: 18px;
}

.codes {
  margin-top: 10px;
  padding: 12px 16px;
  border-left: 3px solid var(--marigold);
  background: var(--surface);
  display: grid;
  gap: 8px;
}

.codes ul {
  list-style: none;
  margin: 0;
  padding: 0;
  columns: 2;
}

h3 {
  font-size: 15px;
}
</style>
