<script setup lang="ts">
import { texts } from '~/locales/client'
import { bookingStateWords, expectedStates } from '~~/core/booking/states'
import { instantToSeconds } from '~~/core/time/civil'
import { formatDay, formatTime, formatZone } from '~~/core/time/format'
import { withHosts } from '~~/core/messages/with-hosts'
import { capitalise } from '~~/core/catalogue/capitalise'
import type { ClientListView } from '~~/core/views/client'
import AskForBookings from '~/components/client/AskForBookings.vue'
import ClientFrame from '~/components/client/ClientFrame.vue'
import { pageError } from '~/composables/page-error'
import { useReaderLocale } from '~/composables/reader-locale'

/** All bookings of a client with a workspace, behind the link in their mail. */

definePageMeta({ ui: 'light' })
useHead({ title: texts.allYourBookings, meta: [{ name: 'robots', content: 'noindex' }, { name: 'referrer', content: 'no-referrer' }] })

const { data, error } = await useFetch<ClientListView>(
  `/api/public/bookings/lists/${encodeURIComponent(String(useRoute().params['token']))}`, { key: 'list of bookings' })
if (!data.value) throw pageError(error.value)
const locale = useReaderLocale()
const now = useState('now', () => Math.floor(Date.now() / 1000))

const rows = computed(() => (data.value?.bookings ?? []).map((booking) => {
  const [start, end] = [instantToSeconds(booking.start), instantToSeconds(booking.end)]
  const isComing = end > now.value && expectedStates.includes(booking.state)
  // That a session of the past was confirmed says nothing.
  const state = end > now.value || booking.state !== 'confirmed' ? [capitalise(bookingStateWords[booking.state])] : []
  return {
    ...booking, isComing,
    when: texts.dayFromTo(
      formatDay(start, booking.timeZone, locale.value, now.value),
      formatTime(start, booking.timeZone, locale.value), formatTime(end, booking.timeZone, locale.value),
    ),
    see: isComing ? texts.seeMoveOrCancel : texts.seeBooking,
    zoneAndState: [texts.time(formatZone(booking.timeZone)), ...state].join(' · '),
  }
}))
const groups = computed(() => [
  { title: texts.coming, rows: rows.value.filter(row => row.isComing).reverse(), none: texts.nothingComing },
  { title: texts.past, rows: rows.value.filter(row => !row.isComing), none: '' },
].filter(group => group.rows.length > 0 || group.none))
</script>

<template>
  <ClientFrame v-if="data" :name="data.workspace.name" :home="`/${data.workspace.slug}`">
    <div v-if="data.hasEnded" class="list">
      <h1>{{ texts.listEnded }}</h1>
      <p>{{ texts.listEndedHint }}</p>
      <AskForBookings :workspace="data.workspace.slug" />
    </div>
    <div v-else class="list">
      <h1>{{ texts.allYourBookings }}</h1>
      <p class="quiet">{{ texts.withWorkspaceFor(data.workspace.name, data.address) }}</p>
      <section v-for="group in groups" :key="group.title">
        <h2>{{ group.title }}</h2>
        <p v-if="group.rows.length === 0" class="quiet">{{ group.none }}</p>
        <ul>
          <li v-for="row in group.rows" :key="row.page">
            <div>
              <strong>{{ row.when }}</strong>
              <span class="quiet">{{ row.zoneAndState }}</span>
            </div>
            <div>
              <span dir="auto">{{ withHosts(row.eventType, row.hosts) }}</span>
              <span class="ways">
                <NuxtLink :to="row.page" :aria-label="`${row.see}, ${row.when}`">{{ row.see }}</NuxtLink>
                <NuxtLink v-if="!row.isComing && row.bookAgain" :to="row.bookAgain" :aria-label="`${texts.bookThisAgain}, ${row.when}`">
                  {{ texts.bookThisAgain }}
                </NuxtLink>
              </span>
            </div>
          </li>
        </ul>
      </section>
      <NuxtLink class="press light" :to="`/${data.workspace.slug}`">{{ texts.bookAgain }}</NuxtLink>
    </div>
  </ClientFrame>
</template>

<style scoped>
.list {
  max-width: 820px;
  display: grid;
  gap: 8px;
  justify-items: start;
}

section {
  width: 100%;
  margin-top: 14px;
}

h2 {
  font-size: 1.1rem;
}

ul {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
}

li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 2px 16px;
  padding: 12px 14px;
  margin-bottom: 6px;
  background: var(--surface);
  border-left: 3px solid var(--marigold);
  border-radius: 0 var(--corner) var(--corner) 0;
  overflow-wrap: anywhere;
}

section + section li {
  border-left-color: var(--line);
}

li div {
  display: grid;
  gap: 2px;
  align-content: start;
}

.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
}

@media (max-width: 720px) {
  li {
    grid-template-columns: 1fr;
  }
}
</style>
