<script setup lang="ts">
import { texts } from '~/locales/client'
import {
  formatDay,
  formatAlternatives,
  formatList,
  formatDuration,
  formatRelativeDay,
  formatTime,
  formatZone,
} from '~~/core/time/format'
import { costOf, describeRefund, formatPrice } from '~~/core/payment/price'
import { startsByDay, suggestStarts } from '~~/core/timetable/suggestions'
import type { EventTypePage } from '~~/core/views/client'
import ClientChoices from '~/components/client/ClientChoices.vue'
import ClientFrame from '~/components/client/ClientFrame.vue'
import TimesToChoose from '~/components/timetable/TimesToChoose.vue'
import ZonePicker from '~/components/client/ZonePicker.vue'
import { useClientZone } from '~/composables/client-zone'
import { useEventTypeOpenings, useTurnedOpenings } from '~/composables/event-type-openings'
import { useReaderLocale } from '~/composables/reader-locale'
import { pageError } from '~/composables/page-error'

definePageMeta({ ui: 'light' })

const BookingForm = defineAsyncComponent(() => import('~/components/client/BookingForm.vue'))

const route = useRoute()
const slug = String(route.params['workspace'])
const path = `/api/public/${encodeURIComponent(slug)}/${encodeURIComponent(String(route.params['eventType']))}`
/** A member looks at a draft of theirs, or at what is not open. */
const isPreview = route.query['preview'] !== undefined
const preview = isPreview ? { preview: '' } : {}
const now = useState('now', () => Math.floor(Date.now() / 1000))
/** Minutes and host, where clients may choose; none is the first duration and any host. */
const duration = ref<number | null>(null)
const people = ref(1)
/** The host's own page leads here with the host chosen. */
const host = ref<string | null>(typeof route.query['host'] === 'string' ? route.query['host'] : null)
/** The link of an earlier booking of the client's, where they came from it. */
const again = typeof route.query['again'] === 'string' ? route.query['again'] : null
const openings = useEventTypeOpenings(path, now.value, () => ({
  ...(duration.value === null ? {} : { duration: duration.value }), ...(host.value === null ? {} : { host: host.value }),
  ...(people.value === 1 ? {} : { people: people.value }), ...preview,
}))

const request = useRequestFetch()
const { data, error } = await useAsyncData(`${path} ${isPreview}`, async () => {
  const wanted = request<EventTypePage>(path, { query: preview })
  // Only a host whom clients may choose is asked for.
  if (host.value !== null && !(await wanted).eventType.hosts?.some(choice => choice.id === host.value)) host.value = null
  const [page, first] = await Promise.all([wanted, openings.loadFirst()])
  return { page, first }
})
if (!data.value) throw pageError(error.value)
const { page, first } = data.value
if (!page.eventType.hosts?.some(choice => choice.id === host.value)) host.value = null
const { eventType, workspace } = page
// An earlier address leads on to the present one.
if (eventType.slug !== route.params['eventType'])
  await navigateTo({ path: `/${slug}/${eventType.slug}`, query: route.query }, { redirectCode: 301, replace: true })
const minutes = computed(() => duration.value ?? eventType.durations[0] ?? 30)
useHead({ title: `${eventType.name} · ${workspace.name}` })

const locale = useReaderLocale()
const { zone, chooseZone } = useClientZone(eventType.timeZone)
/** Where the chosen host is, or any of the hosts. */
const hostZones = computed(() => {
  const chosenZone = eventType.hosts?.find(choice => choice.id === host.value)?.timeZone
  return chosenZone ? [chosenZone] : page.hostZones
})
const otherZone = computed(() => hostZones.value[0] ?? eventType.timeZone)

const { starts, firstDay, isAtStart, fault, begin, turn, reload } = useTurnedOpenings(openings, first)
/** The first view's, from which suggestions are made, wherever the timetable has been turned to. */
const soonest = ref(first.starts)
const chosen = ref<number | null>(null)

const suggestions = computed(() => suggestStarts(startsByDay(soonest.value, zone.value), zone.value).map(suggestion => ({
  ...suggestion,
  title: { soonest: texts.soonest, nextDay: texts.theDayAfter, mostChoice: texts.mostChoice }[suggestion.kind],
  text: suggestion.kind === 'mostChoice'
    ? texts.times(formatRelativeDay(suggestion.at, zone.value, locale.value, now.value), suggestion.count)
    : `${formatRelativeDay(suggestion.at, zone.value, locale.value, now.value)} ${formatTime(suggestion.at, zone.value, locale.value)}`,
})))

const panel = useTemplateRef<HTMLElement>('panel')

async function choose(at: number): Promise<void> {
  chosen.value = at
  await nextTick()
  showPanel()
}

/** On a narrow screen the form stands below the times; it is as long as it will be only once it has arrived. */
function showPanel(): void {
  if (window.matchMedia('(max-width: 960px)').matches) panel.value?.scrollIntoView({ behavior: 'smooth', block: 'start' })
}

async function refresh(): Promise<void> {
  await reload()
  if (isAtStart.value) soonest.value = starts.value ?? []
}

/** Another duration, number of people or host has other times; what was chosen stays where it still can be had. */
async function chooseAnew(): Promise<void> {
  const found = await begin()
  if (!found) return
  soonest.value = found.starts
  if (chosen.value !== null && !found.starts.includes(chosen.value)) chosen.value = null
}

/** What is paid right after booking, if anything. */
const payNow = computed(() => (eventType.price?.when === 'booking'
  ? formatPrice({ ...eventType.price, amount: costOf(eventType.price, people.value) }, locale.value) : ''))
const facts = computed(() => [
  ...(eventType.durations.length === 1 ? [formatDuration(minutes.value)] : []),
  formatAlternatives(eventType.places.map(place => place.label)),
  ...(eventType.price ? [texts.price(eventType.price, people.value, locale.value)] : []),
].join(', '))
</script>

<template>
  <ClientFrame :name="workspace.name" :home="`/${slug}`">
    <template #aside>
      <span>
        <ZonePicker :zone="zone" :host-zones="hostZones" :now="now" @choose="chooseZone" />
        <template v-if="hostZones.length > 1">{{ texts.hostsIn(formatList(hostZones.map(formatZone))) }}</template>
      </span>
    </template>
    <p v-if="isPreview" class="preview-note" role="status">
      {{ texts.previewOfADraft }}
    </p>
    <div class="booking-page" :class="{ open: chosen !== null }">
      <section class="times">
        <h1 :style="{ borderColor: eventType.colour }">{{ eventType.name }}</h1>
        <p class="facts">{{ facts }}</p>
        <!-- eslint-disable-next-line vue/no-v-html -- made by the server's Markdown renderer, which lets no HTML through -->
        <div class="description" v-html="eventType.descriptionHtml" />
        <ClientChoices
          v-if="eventType.durations.length > 1 || eventType.mostPeople > 1 || eventType.hosts"
          v-model:duration="duration" v-model:people="people" v-model:host="host" :most-people="eventType.mostPeople"
          :durations="eventType.durations" :hosts="eventType.hosts ?? []" @update="chooseAnew"
        />
        <div v-if="suggestions.length > 0" class="suggestions">
          <button
            v-for="suggestion in suggestions" :key="suggestion.kind" type="button"
            :class="{ chosen: suggestion.at === chosen }" @click="choose(suggestion.at)"
          >
            <span class="quiet">{{ suggestion.title }}</span>
            <strong>{{ suggestion.text }}</strong>
          </button>
        </div>
        <template v-if="soonest.length > 0">
          <TimesToChoose
            :starts="starts ?? []" :first-day="firstDay" :is-at-start="isAtStart" :zone="zone" :other-zone="otherZone"
            :locale="locale" :now="now" :chosen="chosen" :title="texts.orChooseFromTheTimetable" :fault="fault"
            @choose="choose" @turn="turn"
          />
        </template>
        <p v-else class="none">{{ texts.thereIsNoTimeToBook(workspace.name) }}</p>
      </section>
      <aside v-if="chosen !== null" ref="panel" class="panel" :aria-label="texts.yourBooking">
        <h2>
          {{ texts.dayFromTo(
            formatDay(chosen, zone, locale, now), formatTime(chosen, zone, locale), formatTime(chosen + minutes * 60, zone, locale),
          ) }}
        </h2>
        <p v-if="otherZone !== zone" class="quiet">
          {{ texts.timeInZone(formatTime(chosen, otherZone, locale), formatZone(otherZone)) }}
        </p>
        <BookingForm
          :path="path" :start="chosen" :duration="minutes" :people="people" :host="host" :zone="zone" :locale="locale" :now="now"
          :event-type="eventType" :is-preview="isPreview" :again="again"
          @choose="choose" @taken="refresh" @ready="showPanel"
        />
        <p class="foot quiet">
          <template v-if="eventType.price">{{ texts.youPay(eventType.price.when, describeRefund(eventType.price, 'client')) }}</template>
          {{ texts.whatYouGet(eventType.approval ? texts.theTimeIsHeldForYou : '', eventType.places.length === 1 && eventType.places[0]?.kind === 'video' ? texts.youGetTheVideoLinkHere : '') }}
        </p>
      </aside>
      <aside v-else-if="soonest.length > 0" class="panel waiting">
        <h2>{{ texts.chooseATime }}</h2>
        <p class="quiet">
          {{ texts.whatComesAfterATime(eventType.questions.length > 0 ? texts.andAnswer(eventType.questions.length === 1 ? texts.oneQuestion : texts.questions(eventType.questions.length)) : '', eventType.approval, payNow) }}
        </p>
      </aside>
    </div>
  </ClientFrame>
</template>

<style src="~/components/client/booking-page.css"></style>
