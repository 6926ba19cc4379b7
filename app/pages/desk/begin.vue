<script setup lang="ts">
import { VBtn } from 'vuetify/components'
import { type Weekday, weekdayNames, weekdays } from '~~/core/time/civil'
import { formatTime, formatZone } from '~~/core/time/format'
import ClockField from '~/components/desk/ClockField.vue'
import { fieldErrors, problemOf } from '~/composables/problem'
import { useDesk } from '~/stores/desk'

/** Three questions, and there is something to book. */

definePageMeta({ layout: 'desk' })
useHead({ title: 'Three questions · Temporia' })

const desk = useDesk()
const days = ref<Weekday[]>(['MO', 'TU', 'WE', 'TH', 'FR'])
const from = ref('09:00')
const to = ref('17:00')
const timeZone = ref(desk.member?.timeZone ?? 'UTC')
const zones = computed(() => [...new Set([timeZone.value, ...Intl.supportedValuesOf('timeZone')])])
const errors = ref<Record<string, string>>({})
const fault = ref('')
const sending = ref(false)
const created = ref<{ id: string, page: string } | null>(null)
const copied = ref(false)

/** What a clock in the chosen zone shows, so that nobody takes the wrong one. */
const clock = computed(() => formatTime(desk.now, timeZone.value, desk.locale))

function choose(day: Weekday, event: Event): void {
  const on = event.target instanceof HTMLInputElement && event.target.checked
  days.value = on ? [...days.value, day] : days.value.filter(other => other !== day)
}

async function begin(): Promise<void> {
  sending.value = true
  fault.value = ''
  errors.value = {}
  try {
    created.value = await $fetch<{ id: string, page: string }>('/api/desk/begin', {
      method: 'POST',
      body: { days: days.value, from: from.value, to: to.value, timeZone: timeZone.value },
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

async function copy(): Promise<void> {
  await navigator.clipboard.writeText(created.value?.page ?? '').then(() => (copied.value = true), () => (copied.value = false))
}
</script>

<template>
  <div class="begin">
    <form v-if="!created" @submit.prevent="begin">
      <h1>Three questions</h1>
      <p class="quiet">All of it can be changed later.</p>
      <fieldset>
        <legend><span>1</span> On which days can clients talk with you?</legend>
        <div class="days">
          <label v-for="day in weekdays" :key="day" :class="{ on: days.includes(day) }"><input type="checkbox" :checked="days.includes(day)" @change="choose(day, $event)"> {{ weekdayNames[day] }}</label>
        </div>
        <p v-if="errors['days']" class="broken" role="alert">{{ errors['days'] }}</p>
      </fieldset>
      <fieldset>
        <legend><span>2</span> From when to when?</legend>
        <label>from <ClockField v-model="from" :locale="desk.locale" /></label>
        <label>to <ClockField v-model="to" :locale="desk.locale" as-end /></label>
        <p v-if="errors['from'] ?? errors['to']" class="broken" role="alert">{{ errors['from'] ?? errors['to'] }}</p>
      </fieldset>
      <fieldset>
        <legend><span>3</span> In which zone?</legend>
        <select v-model="timeZone" aria-label="Zone"><option v-for="zone in zones" :key="zone" :value="zone">{{ zone.replaceAll('_', ' ').replaceAll('/', ' / ') }}</option></select>
        <span class="quiet"> It is {{ clock }} in {{ formatZone(timeZone) }} now.</span>
        <p v-if="errors['timeZone']" class="broken" role="alert">{{ errors['timeZone'] }}</p>
      </fieldset>
      <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
      <VBtn type="submit" size="large" :loading="sending">Open my page</VBtn>
    </form>
    <section v-else class="ready" role="status">
      <h1>{{ desk.member?.confirmed ? 'Clients can book you now' : 'Your page is ready' }}</h1>
      <p v-if="!desk.member?.confirmed">One step is left: follow the link in the mail to <strong>{{ desk.member?.email }}</strong>. Until then only you see the page.</p>
      <p class="link"><a :href="created.page" target="_blank" rel="noopener">{{ created.page }}</a> <LinkButton @click="copy">{{ copied ? 'Copied' : 'Copy the link' }}</LinkButton></p>
      <p>A talk of 30 minutes by phone: clients leave their number and you call them. Send them the link, or put it into your mail signature.</p>
      <ul>
        <li><NuxtLink :to="`/desk/event-types/${created.id}`">Shape it</NuxtLink> <span class="quiet">how long, how soon, what you ask, what is kept free</span></li>
        <li><NuxtLink to="/desk/connections">Connect a video account</NuxtLink> <span class="quiet">then talks can be by video, with a link made by itself</span></li>
        <li><NuxtLink to="/desk">Go to today</NuxtLink></li>
      </ul>
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
  gap: 8px;
}

.days label {
  border: 1px solid var(--line);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 7px 12px;
}

.days label.on {
  border-color: var(--aubergine);
  box-shadow: inset 3px 0 0 var(--aubergine);
}

input,
select {
  accent-color: var(--aubergine);
}

fieldset input[type='text'],
select {
  border: 1px solid var(--quiet);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 7px 10px;
  margin-right: 14px;
}

form > .v-btn {
  margin-top: 26px;
}

.ready {
  display: grid;
  gap: 14px;
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

ul {
  margin: 0;
  padding: 0;
  list-style: none;
  display: grid;
  gap: 8px;
}
</style>
