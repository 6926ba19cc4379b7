<script setup lang="ts">
import { VBtn, VCheckbox, VDefaultsProvider, VRadio, VRadioGroup, VTextarea, VTextField, VThemeProvider } from 'vuetify/components'
import { checkAnswers, isAsked } from '~~/core/intake'
import { formatInstant, instantToSeconds } from '~~/core/time/civil'
import { sayDay, sayTime, sayWeekday } from '~~/core/time/say'
import { zoneOf } from '~~/core/time/zone'
import type { EventTypePage } from '~~/core/views/client'
import { fieldErrors, problemOf } from '~/composables/problem'
import { installVuetify } from '~/ui/vuetify'

const props = defineProps<{
  path: string
  start: number
  zone: string
  locale: string
  now: number
  eventType: EventTypePage['eventType']
}>()
const emit = defineEmits<{ choose: [at: number], taken: [], ready: [] }>()
onMounted(() => emit('ready'))

installVuetify(useNuxtApp().vueApp)

const name = ref('')
const email = ref('')
const phone = ref('')
const place = ref(props.eventType.places[0]?.key ?? '')
const answers = reactive<Record<string, unknown>>({})
const errors = ref<Record<string, string>>({})
const message = ref('')
const nearest = ref<number[]>([])
const sending = ref(false)
/** Kept while nobody knows whether the booking was made, so that pressing again cannot book twice. */
const key = ref('')
const form = useTemplateRef<HTMLFormElement>('form')

const asked = computed(() => props.eventType.questions.filter(question => isAsked(question, answers)))
const kind = computed(() => props.eventType.places.find(one => one.key === place.value)?.kind)
const needsPhone = computed(() => kind.value === 'phoneWeCall')
const press = computed(() => `${props.eventType.approval ? 'Ask for' : 'Book'} ${sayWeekday(zoneOf(props.zone).dayOf(props.start), 'long', props.locale)} ${sayTime(props.start, props.zone, props.locale)}`)

watch(() => props.start, () => {
  key.value = ''
  message.value = ''
  nearest.value = []
})

async function book(): Promise<void> {
  if (sending.value) return
  const given = Object.fromEntries(asked.value.map(question => [question.key, answers[question.key]]).filter(([, value]) => value !== undefined && value !== ''))
  errors.value = Object.fromEntries([
    ...(name.value.trim() ? [] : [['client.name', 'Please give your name']]),
    ...(email.value.trim() ? [] : [['client.email', 'Please give your address']]),
    ...(needsPhone.value && !phone.value.trim() ? [['client.phone', 'We call you, so please give your number']] : []),
    ...checkAnswers(props.eventType.questions, given).errors.map(error => [error.path, error.message]),
  ])
  if (await showFirstError()) return
  sending.value = true
  key.value ||= crypto.randomUUID()
  try {
    const { manage } = await $fetch<{ manage: string }>(`${props.path}/bookings`, {
      method: 'POST',
      headers: { 'idempotency-key': key.value },
      body: {
        start: formatInstant(props.start),
        timeZone: props.zone,
        place: place.value,
        client: { name: name.value.trim(), email: email.value.trim(), locale: navigator.language, ...(phone.value.trim() ? { phone: phone.value.trim() } : {}) },
        answers: given,
        ...sourceOf(),
      },
    })
    await navigateTo(new URL(manage).pathname)
  } catch (error) {
    const { words, document } = problemOf(error)
    message.value = words
    errors.value = fieldErrors(document)
    nearest.value = document?.nearest?.map(opening => instantToSeconds(opening.start)) ?? []
    if (document) key.value = ''
    if (document?.status === 409) emit('taken')
    if (await showFirstError()) message.value = ''
  } finally {
    sending.value = false
  }
}

function sourceOf(): { source?: string } {
  const { source } = useRoute().query
  return typeof source === 'string' && source ? { source: source.slice(0, 100) } : {}
}

/** Takes the reader to the first field at fault; false where there is none. */
async function showFirstError(): Promise<boolean> {
  await nextTick()
  const field = form.value?.querySelector<HTMLElement>('.v-input--error input, .v-input--error textarea')
  field?.focus()
  return Object.keys(errors.value).length > 0 && field !== null
}

function setChoices(question: string, value: string, on: boolean | null): void {
  const before = Array.isArray(answers[question]) ? answers[question].filter((one): one is string => typeof one === 'string' && one !== value) : []
  answers[question] = on ? [...before, value] : before
}

function has(question: string, value: string): boolean {
  return Array.isArray(answers[question]) && answers[question].includes(value)
}

function text(question: string): string {
  const value = answers[question]
  return typeof value === 'string' || typeof value === 'number' ? String(value) : ''
}

function setNumber(question: string, value: string): void {
  answers[question] = value.trim() === '' ? undefined : Number(value)
}

const inputTypes: Record<string, string> = { email: 'email', phone: 'tel', date: 'date', number: 'number' }
</script>

<template>
  <VThemeProvider>
    <VDefaultsProvider :defaults="{ global: { hideDetails: 'auto' } }">
      <form ref="form" class="booking-form" novalidate @submit.prevent="book">
        <label for="client-name">Your name</label>
        <VTextField id="client-name" v-model="name" autocomplete="name" maxlength="120" :error-messages="errors['client.name']" />
        <label for="client-email">E-mail</label>
        <VTextField id="client-email" v-model="email" type="email" autocomplete="email" maxlength="254" :error-messages="errors['client.email']" />
        <fieldset v-if="eventType.places.length > 1">
          <legend>Where</legend>
          <VRadioGroup v-model="place" :error-messages="errors['place']">
            <VRadio v-for="one in eventType.places" :key="one.key" :label="one.label" :value="one.key" />
          </VRadioGroup>
        </fieldset>
        <template v-if="needsPhone">
          <label for="client-phone">Phone number <span class="quiet">with country code; we call you</span></label>
          <VTextField id="client-phone" v-model="phone" type="tel" autocomplete="tel" placeholder="+351 …" :error-messages="errors['client.phone']" />
        </template>
        <template v-for="question in asked" :key="question.key">
          <fieldset v-if="question.kind === 'choice' || question.kind === 'yesNo'">
            <legend>{{ question.label }}<span v-if="!question.required" class="quiet"> (if you like)</span></legend>
            <p v-if="question.help" class="quiet help">{{ question.help }}</p>
            <VRadioGroup v-model="answers[question.key]" :error-messages="errors[`answers.${question.key}`]">
              <template v-if="question.kind === 'yesNo'">
                <VRadio label="Yes" :value="true" />
                <VRadio label="No" :value="false" />
              </template>
              <VRadio v-for="option in question.options ?? []" v-else :key="option.value" :label="option.label" :value="option.value" />
            </VRadioGroup>
          </fieldset>
          <fieldset v-else-if="question.kind === 'choices'">
            <legend>{{ question.label }}<span v-if="!question.required" class="quiet"> (if you like)</span></legend>
            <p v-if="question.help" class="quiet help">{{ question.help }}</p>
            <VCheckbox
              v-for="(option, index) in question.options ?? []" :key="option.value" :label="option.label" :model-value="has(question.key, option.value)"
              :error-messages="index === (question.options?.length ?? 0) - 1 ? errors[`answers.${question.key}`] : []"
              @update:model-value="setChoices(question.key, option.value, $event)"
            />
          </fieldset>
          <template v-else>
            <label :for="`question-${question.key}`">{{ question.label }}<span v-if="!question.required" class="quiet"> (if you like)</span></label>
            <p v-if="question.help" class="quiet help">{{ question.help }}</p>
            <VTextarea
              v-if="question.kind === 'paragraph'" :id="`question-${question.key}`" :model-value="text(question.key)" rows="3" auto-grow maxlength="5000"
              :error-messages="errors[`answers.${question.key}`]" @update:model-value="answers[question.key] = $event"
            />
            <VTextField
              v-else :id="`question-${question.key}`" :type="inputTypes[question.kind] ?? 'text'" :model-value="text(question.key)"
              :error-messages="errors[`answers.${question.key}`]"
              @update:model-value="question.kind === 'number' ? setNumber(question.key, $event) : (answers[question.key] = $event)"
            />
          </template>
        </template>
        <div aria-live="assertive">
          <p v-if="message" class="message broken">{{ message }}</p>
          <div v-if="nearest.length > 0" class="nearest">
            <button v-for="at in nearest" :key="at" type="button" class="press light" @click="emit('choose', at)">
              {{ sayDay(at, zone, locale, now) }}, {{ sayTime(at, zone, locale) }}
            </button>
          </div>
        </div>
        <VBtn type="submit" block size="large" :loading="sending">{{ press }}</VBtn>
      </form>
    </VDefaultsProvider>
  </VThemeProvider>
</template>

<style>
.booking-form {
  margin-top: 16px;
  display: grid;
  gap: 4px;
}

.booking-form label:not(.v-label),
.booking-form legend {
  font-size: 0.9rem;
  font-weight: 600;
  padding: 0;
}

.booking-form label .quiet,
.booking-form legend .quiet {
  font-weight: 400;
}

.booking-form fieldset {
  border: 0;
  margin: 0 0 10px;
  padding: 0;
  min-width: 0;
}

.booking-form > .v-input {
  margin-bottom: 10px;
}

.booking-form .help {
  font-size: 0.82rem;
}

.booking-form .message {
  margin: 6px 0 10px;
  font-weight: 600;
}

.booking-form .nearest {
  display: grid;
  gap: 6px;
  margin-bottom: 14px;
}
</style>
