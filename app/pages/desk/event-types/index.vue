<script setup lang="ts">
import { instantToSeconds } from '~~/core/time/civil'
import { plural, sayNearDayWithin, sayTime } from '~~/core/time/say'
import type { EventTypeRow } from '~~/core/views/desk'
import { problemOf } from '~/composables/problem'
import { useDesk } from '~/stores/desk'

definePageMeta({ layout: 'desk' })
useHead({ title: 'Event types · Temporia' })

const desk = useDesk()
const rows = ref<EventTypeRow[] | null>(null)
const fault = ref('')

onMounted(async () => {
  try {
    rows.value = await $fetch<EventTypeRow[]>('/api/desk/event-types')
  } catch (error) {
    fault.value = problemOf(error).words
  }
})

const stateWords = { draft: 'Draft', open: 'Open', closed: 'Closed' }

function nextOf(row: EventTypeRow): string {
  if (row.state !== 'open') return 'not bookable while it is ' + row.state
  if (!row.nextOpening) return 'no opening in 60 days'
  const at = instantToSeconds(row.nextOpening)
  return `next ${sayNearDayWithin(at, desk.zone, desk.locale, desk.now)} ${sayTime(at, desk.zone, desk.locale)}`
}

const total = (row: EventTypeRow) => row.bookingsPerDay.reduce((sum, one) => sum + one, 0)
const height = (row: EventTypeRow, many: number) => Math.max(many > 0 ? 3 : 1, Math.round(26 * many / Math.max(4, ...row.bookingsPerDay)))
</script>

<template>
  <div class="list">
    <h1>Event types</h1>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-else-if="!rows" class="quiet">Fetching …</p>
    <p v-else-if="rows.length === 0" class="quiet">There is nothing to book yet.</p>
    <ul v-else>
      <li v-for="row in rows" :key="row.id">
        <div class="what">
          <h2><NuxtLink :to="`/desk/event-types/${row.id}`">{{ row.name }}</NuxtLink></h2>
          <p class="sentence">{{ row.sentence.map(phrase => phrase.text).join('') }}</p>
        </div>
        <div class="state">
          <p><strong :class="row.state">{{ stateWords[row.state] }}</strong>, {{ row.listed ? 'listed' : 'unlisted' }}</p>
          <p class="quiet" :class="{ broken: row.state === 'open' && !row.nextOpening }">{{ nextOf(row) }}</p>
          <p><a :href="row.page" target="_blank" rel="noopener">The page clients see</a></p>
        </div>
        <figure>
          <svg viewBox="0 0 150 28" role="img" :aria-label="`${plural(total(row), 'booking')} in the last 30 days`">
            <rect v-for="(many, day) in row.bookingsPerDay" :key="day" :x="day * 5" :y="28 - height(row, many)" width="4" :height="height(row, many)" :class="{ none: many === 0 }" />
          </svg>
          <figcaption class="quiet">{{ plural(total(row), 'booking') }} in 30 days</figcaption>
        </figure>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.list {
  padding: 22px 24px 40px;
}

h1 {
  font-size: 26px;
}

ul {
  list-style: none;
  margin: 16px 0 0;
  padding: 0;
}

li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 210px 150px;
  gap: 32px;
  border-top: 1px solid var(--line);
  padding: 18px 0;
}

h2 {
  font-size: 18px;
}

h2 a {
  color: var(--ink);
  text-decoration: none;
}

h2 a:hover {
  text-decoration: underline;
}

.sentence {
  margin-top: 4px;
  max-width: 56rem;
  font-size: 15px;
}

.state {
  font-size: 13px;
}

.state strong.open {
  color: var(--aubergine);
}

.state strong.draft,
.state strong.closed {
  color: var(--quiet);
}

figure {
  margin: 0;
  font-size: 12px;
}

svg {
  width: 150px;
  height: 28px;
}

rect {
  fill: var(--aubergine-soft);
}

rect.none {
  fill: var(--line);
}

@media (max-width: 900px) {
  li {
    grid-template-columns: 1fr;
    gap: 10px;
  }
}
</style>
