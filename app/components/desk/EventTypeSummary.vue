<script setup lang="ts">
import { formatFinding, severityWords } from '~~/core/catalogue/findings'
import { nameForTeam } from '~~/core/event-type/settings'
import { instantToSeconds } from '~~/core/time/civil'
import { plural, formatShortDay, formatTime } from '~~/core/time/format'
import type { EventTypeRow } from '~~/core/views/desk'

/** An event type in a list: its sentence and worst check, its state and next opening, its bookings of the last days. */

const props = defineProps<{ row: EventTypeRow, zone: string, locale: string, now: number }>()

const stateWords = { draft: 'Draft', open: 'Open', closed: 'Closed' }

const next = computed(() => {
  const { row } = props
  if (row.archived) return row.bookingsAhead > 0 ? `${plural(row.bookingsAhead, 'booking')} still to come` : 'no bookings to come'
  if (row.state === 'draft') return 'only members see it'
  if (row.state === 'closed') return 'cannot be booked for now'
  if (!row.nextOpening) return 'no opening in 60 days'
  const at = instantToSeconds(row.nextOpening)
  return `next: ${formatShortDay(at, props.zone, props.locale, props.now)} ${formatTime(at, props.zone, props.locale)}`
})

const total = computed(() => props.row.bookingsPerDay.reduce((sum, item) => sum + item, 0))
const most = computed(() => Math.max(4, ...props.row.bookingsPerDay))
const height = (count: number) => Math.max(count > 0 ? 3 : 1, Math.round(26 * count / most.value))
</script>

<template>
  <div class="what">
    <h2><i :style="{ background: row.colour }" /><NuxtLink :to="`/desk/event-types/${row.id}`">{{ nameForTeam(row) }}</NuxtLink></h2>
    <p class="sentence">{{ row.sentence.map(phrase => phrase.text).join('') }}</p>
    <p v-if="row.unpublishedChanges > 0" class="unpublished"><NuxtLink :to="`/desk/event-types/${row.id}`">{{ plural(row.unpublishedChanges, 'unpublished change') }} of yours</NuxtLink></p>
    <p v-if="row.worst" class="worst" :class="row.worst.severity"><strong>{{ severityWords[row.worst.severity] }}.</strong> {{ formatFinding(row.worst).text }}</p>
  </div>
  <div class="state">
    <p v-if="row.archived"><strong class="closed">Archived</strong></p>
    <p v-else><strong :class="row.state">{{ stateWords[row.state] }}</strong>, {{ row.listed ? 'listed' : 'unlisted' }}</p>
    <p class="quiet" :class="{ broken: row.state === 'open' && !row.archived && !row.nextOpening }">{{ next }}</p>
    <p v-if="!row.archived"><a :href="row.state === 'open' ? row.page : `${row.page}?preview`" target="_blank" rel="noopener">{{ row.state === 'open' ? 'The page clients see' : 'Preview as a client' }}</a></p>
  </div>
  <figure>
    <svg viewBox="0 0 150 28" role="img" :aria-label="`${plural(total, 'booking')} in the last 30 days`">
      <rect
        v-for="(count, day) in row.bookingsPerDay" :key="day" :x="day * 5" :y="28 - height(count)" width="4"
        :height="height(count)" :class="{ none: count === 0 }"
      />
    </svg>
    <figcaption class="quiet">{{ plural(total, 'booking') }} in 30 days</figcaption>
  </figure>
</template>

<style scoped>
h2 {
  font-size: 17px;
}

h2 i {
  display: inline-block;
  width: 10px;
  height: 10px;
  border-radius: 2px;
  margin-right: 8px;
}

h2 a {
  color: var(--ink);
  text-decoration: none;
}

h2 a:hover {
  text-decoration: underline;
}

.sentence {
  margin-top: 2px;
  max-width: 56rem;
  font-size: 14.5px;
}

.unpublished {
  margin-top: 4px;
  font-size: 13px;
}

.worst {
  margin-top: 4px;
  padding-left: 9px;
  border-left: 3px solid var(--marigold);
  font-size: 13px;
  color: var(--quiet);
}

.worst.stops {
  border-color: var(--brick);
}

.worst.look {
  border-color: var(--line);
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
</style>
