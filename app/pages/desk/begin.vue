<script setup lang="ts">
import { texts } from '~/locales/onboarding'
import { VBtn, VCheckbox } from 'vuetify/components'
import type { Shape } from '~~/core/event-type/shapes'
import { type Weekday, weekdayNames, weekdays } from '~~/core/time/civil'
import { formatTime, formatZone } from '~~/core/time/format'
import type { SetupStep, TodayView } from '~~/core/views/desk'
import ClockField from '~/components/desk/ClockField.vue'
import EventTypePreview from '~/components/desk/EventTypePreview.vue'
import SetupList from '~/components/desk/SetupList.vue'
import ShapeChoice from '~/components/desk/ShapeChoice.vue'
import ZoneField from '~/components/fields/ZoneField.vue'
import { copyText } from '~/composables/copy-text'
import { fieldErrors, problemOf } from '~/composables/problem'
import { useDesk } from '~/stores/desk'

/** Four questions, and there is something to book. */

definePageMeta({ layout: 'desk' })
useHead({ title: texts.fourQuestionsTemporia })

const desk = useDesk()
const days = ref<Weekday[]>(['MO', 'TU', 'WE', 'TH', 'FR'])
const from = ref('09:00')
const to = ref('17:00')
const timeZone = ref(desk.member?.timeZone ?? 'UTC')
const shape = ref<Shape>('meeting')
const errors = ref<Record<string, string>>({})
const fault = ref('')
const sending = ref(false)
const created = ref<{ id: string, page: string } | null>(null)

/** What a clock in the chosen zone shows, so that nobody takes the wrong one. */
const clock = computed(() => formatTime(desk.now, timeZone.value, desk.locale))

const settled = ref<readonly SetupStep[]>([])
watch(created, async () => {
  const answer = await $fetch<TodayView>('/api/desk/today', { query: { timeZone: desk.zone } }).catch(() => null)
  settled.value = answer?.setup ?? []
})

async function begin(): Promise<void> {
  sending.value = true
  fault.value = ''
  errors.value = {}
  try {
    created.value = await $fetch<{ id: string, page: string }>('/api/desk/begin', {
      method: 'POST',
      body: { days: days.value, from: from.value, to: to.value, timeZone: timeZone.value, shape: shape.value },
    })
    await desk.load()
  } catch (error) {
    const { message: problem, document } = problemOf(error)
    // An earlier press went through although its answer did not come.
    if (document?.created) {
      created.value = document.created
      return
    }
    errors.value = fieldErrors(document)
    fault.value = Object.keys(errors.value).length === 0 ? problem : ''
  } finally {
    sending.value = false
  }
}
</script>

<template>
  <div class="begin">
    <form v-if="!created" @submit.prevent="begin">
      <h1>{{ texts.fourQuestions }}</h1>
      <p class="quiet">{{ texts.allOfItCanBeChanged }}</p>
      <fieldset>
        <legend><span>{{ '1' }}</span> {{ texts.onWhichDays }}</legend>
        <div class="days">
          <VCheckbox v-for="day in weekdays" :key="day" v-model="days" :value="day" :label="weekdayNames[day]" hide-details />
        </div>
        <p v-if="errors['days']" class="broken" role="alert">{{ errors['days'] }}</p>
      </fieldset>
      <fieldset>
        <legend><span>{{ '2' }}</span> {{ texts.fromWhenToWhen }}</legend>
        <div class="times">
          <ClockField v-model="from" :label="texts.from" :locale="desk.locale" />
          <ClockField v-model="to" :label="texts.to" :locale="desk.locale" as-end />
        </div>
        <p v-if="errors['from'] ?? errors['to']" class="broken" role="alert">{{ errors['from'] ?? errors['to'] }}</p>
      </fieldset>
      <fieldset>
        <legend><span>{{ '3' }}</span> {{ texts.inWhichTimeZone }}</legend>
        <ZoneField v-model="timeZone" class="zone" :label="texts.timeZone" :locale="desk.locale" :now="desk.now" />
        <p class="quiet">{{ texts.itIsInNow(clock, formatZone(timeZone)) }}</p>
        <p v-if="errors['timeZone']" class="broken" role="alert">{{ errors['timeZone'] }}</p>
      </fieldset>
      <fieldset>
        <legend><span>{{ '4' }}</span> {{ texts.whatCanClientsBookFirst }}</legend>
        <ShapeChoice v-model="shape" :offered="['shortCall', 'meeting', 'group']" />
      </fieldset>
      <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
      <VBtn type="submit" size="large" :loading="sending">{{ texts.openMyPage }}</VBtn>
    </form>
    <section v-else class="ready" role="status">
      <h1>{{ desk.member?.confirmed ? texts.clientsCanBookYouNow : texts.yourPageIsReady }}</h1>
      <p v-if="!desk.member?.confirmed">
        {{ texts.oneStepIsLeft }} <strong>{{ desk.member?.email }}</strong>{{ texts.untilThenOnlyYou }}
      </p>
      <p class="link"><a :href="created.page" target="_blank" rel="noopener">{{ created.page }}</a> <LinkButton @click="copyText(created.page, texts.theLinkIsCopied)">{{ texts.copyLink }}</LinkButton></p>
      <div class="both">
        <div>
          <SetupList v-if="settled.length > 0" :steps="settled" />
          <p><NuxtLink :to="`/desk/event-types/${created.id}`">{{ texts.changeWhatCanBeBooked }}</NuxtLink> <span class="quiet">{{ texts.whatCanBeChanged }}</span></p>
          <p><NuxtLink to="/desk">{{ texts.goToToday }}</NuxtLink></p>
        </div>
        <EventTypePreview :page="created.page" />
      </div>
    </section>
  </div>
</template>

<style scoped>
.begin {
  max-width: 900px;
  margin: 0 auto;
  padding: 36px 24px;
}

h1 {
  font-size: 30px;
}

fieldset {
  border: 0;
  border-top: 1px solid var(--line);
  margin: 18px 0 0;
  padding: 14px 0 0;
}

legend {
  float: left;
  width: 100%;
  font-family: var(--heading);
  font-weight: 700;
  font-size: 17px;
  padding: 0 0 10px;
}

legend + * {
  clear: both;
}

legend span {
  color: var(--aubergine);
  margin-right: 8px;
}

.days {
  display: flex;
  flex-wrap: wrap;
  gap: 0 16px;
}

.times {
  display: flex;
  gap: 12px;
}

.zone {
  max-width: 360px;
}

form > .v-btn {
  margin-top: 26px;
}

.ready {
  display: grid;
  gap: 14px;
}

.both {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 390px;
  gap: 24px;
  align-items: start;
}

.both > div:first-child {
  display: grid;
  gap: 8px;
}

.link {
  border-left: 3px solid var(--marigold);
  background: var(--surface);
  padding: 14px 18px;
  font-size: 17px;
  display: flex;
  justify-content: space-between;
  gap: 16px;
  overflow-wrap: anywhere;
}

@media (max-width: 860px) {
  .both {
    grid-template-columns: 1fr;
  }
}
</style>
