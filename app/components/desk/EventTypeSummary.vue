<script setup lang="ts">
import { texts } from '~/locales/event-types'
import { formatFinding, severityWords } from '~~/core/catalogue/findings'
import { nameForTeam } from '~~/core/event-type/name-for-team'
import { instantToSeconds } from '~~/core/time/civil'
import { formatShortDay, formatTime } from '~~/core/time/format'
import type { EventTypeRow } from '~~/core/views/event-types'

/** An event type in a list: its sentence and worst check, its state and next opening, its bookings of the last days. */

const props = defineProps<{ row: EventTypeRow, zone: string, locale: string, now: number }>()

const stateWords = { draft: texts.draft, open: texts.open, closed: texts.closed }

const next = computed(() => {
  const { row } = props
  if (row.archived) return row.bookingsAhead > 0 ? texts.stillToCome(texts.bookingCount(row.bookingsAhead)) : texts.noBookingsToCome
  if (row.state === 'draft') return texts.onlyMembersSeeIt
  if (row.state === 'closed') return texts.cannotBeBookedForNow
  if (!row.nextOpening) return texts.noOpeningIn60Days
  const at = instantToSeconds(row.nextOpening)
  return texts.next(formatShortDay(at, props.zone, props.locale, props.now), formatTime(at, props.zone, props.locale))
})

const total = computed(() => props.row.bookingsPerDay.reduce((sum, item) => sum + item, 0))
const most = computed(() => Math.max(4, ...props.row.bookingsPerDay))
const height = (count: number) => Math.max(count > 0 ? 3 : 1, Math.round(26 * count / most.value))
</script>

<template>
  <div class="what">
    <h2><i :style="{ background: row.colour }" /><NuxtLink :to="`/desk/event-types/${row.id}`">{{ nameForTeam(row) }}</NuxtLink></h2>
    <p class="sentence">{{ row.sentence.map(phrase => phrase.text).join('') }}</p>
    <p v-if="row.unpublishedChanges > 0" class="unpublished"><NuxtLink :to="`/desk/event-types/${row.id}`">{{ texts.ofYours(texts.unpublishedChangeCount(row.unpublishedChanges)) }}</NuxtLink></p>
    <p v-if="row.worst" class="worst" :class="row.worst.severity"><strong>{{ severityWords[row.worst.severity] }}.</strong> {{ formatFinding(row.worst, locale).text }}</p>
  </div>
  <div class="state">
    <p v-if="row.archived"><strong class="closed">{{ texts.archived }}</strong></p>
    <p v-else><strong :class="row.state">{{ stateWords[row.state] }}</strong>, {{ row.listed ? texts.listed : texts.unlisted }}</p>
    <p class="quiet" :class="{ broken: row.state === 'open' && !row.archived && !row.nextOpening }">{{ next }}</p>
    <p v-if="!row.archived"><a :href="row.state === 'open' ? row.page : `${row.page}?preview`" target="_blank" rel="noopener">{{ row.state === 'open' ? texts.thePageClientsSee : texts.previewAsAClient }}</a></p>
  </div>
  <figure>
    <svg viewBox="0 0 150 28" role="img" :aria-label="texts.inTheLast30Days(texts.bookingCount(total))">
      <rect
        v-for="(count, day) in row.bookingsPerDay" :key="day" :x="day * 5" :y="28 - height(count)" width="4"
        :height="height(count)" :class="{ none: count === 0 }"
      />
    </svg>
    <figcaption class="quiet">{{ texts.in30Days(texts.bookingCount(total)) }}</figcaption>
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
