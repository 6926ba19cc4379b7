<script setup lang="ts">
import { texts } from '~/locales/booking-form'
import { formatInputFault } from '~~/core/catalogue/input'
import { VBtn, VDefaultsProvider, VRadio, VRadioGroup, VTextField, VThemeProvider } from 'vuetify/components'
import { askedQuestions, checkAnswers, presetAnswers } from '~~/core/intake'
import { formatInstant, instantToSeconds } from '~~/core/time/civil'
import { formatDay, formatTime, formatWeekday } from '~~/core/time/format'
import { zoneOf } from '~~/core/time/zone'
import { costOf, formatPrice } from '~~/core/payment/price'
import type { BookingView, EventTypePage, GivenBefore } from '~~/core/views/client'
import { fieldErrors, problemOf } from '~/composables/problem'
import { installVuetify } from '~/ui/vuetify'
import GuestFields from '~/components/GuestFields.vue'
import QuestionFields from './QuestionFields.vue'

const props = defineProps<{
  path: string
  start: number
  /** Minutes; one of the event type's. */
  duration: number
  people?: number
  /** The host the client picked, if any. */
  host: string | null
  zone: string
  locale: string
  now: number
  eventType: EventTypePage['eventType']
  /** Only to be tried: everything is checked and nothing is sent. */
  isPreview?: boolean
  /** The link of an earlier booking, from which the form is filled in. */
  again?: string | null
}>()
const emit = defineEmits<{ choose: [at: number], taken: [], ready: [] }>()
onMounted(() => emit('ready'))

installVuetify(useNuxtApp().vueApp)

const name = ref('')
const email = ref('')
const phone = ref('')
const place = ref(props.eventType.places[0]?.key ?? '')
const answers = ref(presetAnswers(props.eventType.questions))
const guests = ref<string[]>([])
const errors = ref<Record<string, string>>({})
const message = ref('')
const nearest = ref<number[]>([])
const sending = ref(false)
/** Whether what was entered has passed the checks here. */
const isValid = ref(false)
/** Kept while nobody knows whether the booking was made, so that pressing again cannot book twice. */
const key = ref('')
const form = useTemplateRef<HTMLFormElement>('form')

/** Whether it has been filled in from an earlier booking. */
const isFilledIn = ref(false)
onMounted(async () => {
  if (!props.again) return
  try {
    const given = await $fetch<GivenBefore>(`/api/public/bookings/${encodeURIComponent(props.again)}/again`)
    name.value ||= given.client.name
    email.value ||= given.client.email
    phone.value ||= given.client.phone ?? ''
    // Questions may have changed since.
    const { answers: fitting } = checkAnswers(props.eventType.questions, given.answers)
    answers.value = { ...answers.value, ...Object.fromEntries(fitting.map(({ key, value }) => [key, value])) }
    isFilledIn.value = true
  } catch {
    // Whoever comes with a link that no longer leads anywhere fills it in like everybody.
  }
})

const asked = computed(() => askedQuestions(props.eventType.questions, answers.value))
/** Where the client would like to meet. */
const suggestion = ref('')
const kind = computed(() => props.eventType.places.find(candidate => candidate.key === place.value)?.kind)
const needsPhone = computed(() => kind.value === 'phoneWeCall')
/** What is paid right after, if anything. */
const cost = computed(() => {
  const { price } = props.eventType
  return price?.when === 'booking' ? formatPrice({ ...price, amount: costOf(price, props.people ?? 1) }, props.locale) : ''
})
const press = computed(
  () =>
    cost.value ? texts.payFor(cost.value) : `${props.eventType.approval ? texts.askFor : texts.book} ${formatWeekday(zoneOf(props.zone).dayOf(props.start), 'long', props.locale)} ${formatTime(props.start, props.zone, props.locale)}`,
)

/** Questions change while they are edited; what was answered stays. */
watch(() => props.eventType.questions, (questions) => {
  answers.value = { ...presetAnswers(questions), ...answers.value }
  isValid.value = false
})

watch(() => [props.start, props.duration, props.people, props.host], () => {
  key.value = ''
  message.value = ''
  nearest.value = []
})

async function book(): Promise<void> {
  if (sending.value) return
  const submitted = Object.fromEntries(
    asked.value.map(question => [question.key, answers.value[question.key]]).filter(([, value]) => value !== undefined && value !== ''),
  )
  isValid.value = false
  errors.value = Object.fromEntries([
    ...(name.value.trim() ? [] : [['client.name', texts.enterYourName]]),
    ...(email.value.trim() ? [] : [['client.email', texts.enterYourEMailAddress]]),
    ...(needsPhone.value && !phone.value.trim() ? [['client.phone', texts.phoneNeeded]] : []),
    ...checkAnswers(props.eventType.questions, submitted).errors.map(error => [error.path, formatInputFault(error)]),
  ])
  if (await showFirstError()) return
  isValid.value = true
  if (props.isPreview) return
  const invited = guests.value.map(guest => guest.trim()).filter(Boolean).map(guest => ({ email: guest }))
  guests.value = invited.map(guest => guest.email)
  sending.value = true
  key.value ||= crypto.randomUUID()
  try {
    const { manage, booking } = await $fetch<{ manage: string, booking: BookingView }>(`${props.path}/bookings`, {
      method: 'POST',
      headers: { 'idempotency-key': key.value },
      body: {
        start: formatInstant(props.start),
        timeZone: props.zone,
        place: place.value,
        ...(kind.value === 'clientSuggests' && suggestion.value.trim() ? { suggestion: suggestion.value.trim() } : {}),
        client: {
          name: name.value.trim(),
          email: email.value.trim(),
          locale: navigator.language,
          ...(phone.value.trim() ? { phone: phone.value.trim() } : {}),
        },
        answers: submitted,
        ...(props.duration === props.eventType.durations[0] ? {} : { duration: props.duration }),
        ...(props.people && props.people > 1 ? { people: props.people } : {}),
        ...(props.host ? { host: props.host } : {}),
        ...(invited.length > 0 ? { guests: invited } : {}),
        ...sourceOf(),
      },
    })
    const { payUrl } = booking.payment ?? {}
    // Whoever goes back from paying comes to the booking, and not to a form that books once more.
    await navigateTo({ path: new URL(manage).pathname, ...payUrl ? {} : { query: { booked: null } } }, { replace: payUrl !== undefined })
    if (payUrl) await navigateTo(payUrl, { external: true })
  } catch (error) {
    const { message: problem, document } = problemOf(error)
    message.value = problem
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
</script>

<template>
  <VThemeProvider>
    <VDefaultsProvider :defaults="{ global: { hideDetails: 'auto' } }">
      <form ref="form" class="booking-form" novalidate @submit.prevent="book">
        <p v-if="isFilledIn" class="quiet help" role="status">{{ texts.filledIn }}</p>
        <label for="client-name">{{ texts.yourName }}</label>
        <VTextField id="client-name" v-model="name" autocomplete="name" maxlength="120" :error-messages="errors['client.name']" />
        <label for="client-email">{{ texts.eMail }}</label>
        <VTextField
          id="client-email" v-model="email" type="email" autocomplete="email" maxlength="254"
          :error-messages="errors['client.email']"
        />
        <fieldset v-if="eventType.places.length > 1">
          <legend>{{ texts.where }}</legend>
          <VRadioGroup v-model="place" :error-messages="errors['place']">
            <VRadio v-for="choice in eventType.places" :key="choice.key" :label="choice.label" :value="choice.key" />
          </VRadioGroup>
        </fieldset>
        <template v-if="kind === 'clientSuggests'">
          <label for="client-suggestion">{{ texts.whereToMeet }} <span class="quiet">{{ texts.whereToMeetHint }}</span></label>
          <VTextField id="client-suggestion" v-model="suggestion" maxlength="300" :error-messages="errors['suggestion']" />
        </template>
        <template v-if="needsPhone || eventType.texts">
          <label for="client-phone">{{ texts.phoneNumber }} <span class="quiet">{{ needsPhone ? texts.phoneHint : texts.optional }}</span></label>
          <VTextField
            id="client-phone" v-model="phone" type="tel" autocomplete="tel" :placeholder="texts.phoneExample"
            :hint="eventType.texts ? texts.textsHint(needsPhone) : ''" :persistent-hint="eventType.texts" :error-messages="errors['client.phone']"
          />
        </template>
        <QuestionFields v-model="answers" :questions="eventType.questions" :locale="locale" :errors="errors" />
        <fieldset v-if="eventType.guests" class="guests">
          <legend>{{ texts.guests }} <span class="quiet">{{ texts.optional }}</span></legend>
          <p v-if="guests.length === 0" class="quiet help">{{ texts.theyGetTheConfirmationToo }}</p>
          <GuestFields v-model="guests" :errors="errors" :may-add="true" />
        </fieldset>
        <div aria-live="assertive">
          <p v-if="message" class="message broken">{{ message }}</p>
          <div v-if="nearest.length > 0" class="nearest">
            <button v-for="at in nearest" :key="at" type="button" class="press light" @click="emit('choose', at)">
              {{ formatDay(at, zone, locale, now) }}, {{ formatTime(at, zone, locale) }}
            </button>
          </div>
        </div>
        <p v-if="isPreview && isValid" role="status">{{ texts.theseAnswersAreValid }}</p>
        <VBtn type="submit" block size="large" :loading="sending">{{ isPreview ? texts.checkTheAnswers : press }}</VBtn>
      </form>
    </VDefaultsProvider>
  </VThemeProvider>
</template>

<style src="./booking-form.css"></style>
