<script setup lang="ts">
import { VBtn, VList, VListItem, VMenu, VTextField } from 'vuetify/components'
import { severityWords } from '~~/core/checks'
import { instantToSeconds } from '~~/core/time/civil'
import { plural, sayNearDayWithin, sayTime } from '~~/core/time/say'
import type { EventTypeRow } from '~~/core/views/desk'
import { problemOf } from '~/composables/problem'
import { useReorder } from '~/composables/reorder'
import { useDesk } from '~/stores/desk'

definePageMeta({ layout: 'desk' })
useHead({ title: 'Event types · Temporia' })

const desk = useDesk()
const route = useRoute()
const rows = ref<EventTypeRow[] | null>(null)
const fault = ref('')
const naming = ref<string | null>(null)
const nameFault = ref('')

/** Which are shown stands in the address. */
const tag = computed(() => (typeof route.query['tag'] === 'string' ? route.query['tag'] : null))
const archived = computed(() => route.query['archived'] !== undefined)
const tags = computed(() => [...new Set((rows.value ?? []).flatMap(row => row.tags))].sort())
const shown = computed(() => (rows.value ?? []).filter(row => row.archived === archived.value && (tag.value === null || row.tags.includes(tag.value))))
const putAway = computed(() => (rows.value ?? []).filter(row => row.archived).length)
const mayChange = computed(() => desk.member?.role !== 'host')

async function load(): Promise<void> {
  try {
    rows.value = await $fetch<EventTypeRow[]>('/api/desk/event-types')
  } catch (error) {
    fault.value = problemOf(error).words
  }
}
onMounted(load)

/** Does something at the server and shows what came of it. */
async function act(doing: () => Promise<unknown>): Promise<void> {
  fault.value = ''
  try {
    await doing()
  } catch (error) {
    fault.value = problemOf(error).words
    await load()
  }
}

async function create(): Promise<void> {
  nameFault.value = naming.value?.trim() ? '' : 'Give it a name'
  if (nameFault.value) return
  await act(async () => {
    const { id } = await $fetch<{ id: string }>('/api/desk/event-types', { method: 'POST', body: { name: naming.value } })
    await navigateTo(`/desk/event-types/${id}`)
  })
}

const duplicate = (row: EventTypeRow) => act(async () => {
  const { id } = await $fetch<{ id: string }>(`/api/desk/event-types/${row.id}/duplicate`, { method: 'POST' })
  await navigateTo(`/desk/event-types/${id}?panel=name`)
})

const archive = (row: EventTypeRow) => act(async () => {
  await $fetch<{ archived: boolean }>(`/api/desk/event-types/${row.id}/archive`, { method: 'POST', body: { archived: !row.archived } })
  await load()
})

const { handle, row: place } = useReorder(() => shown.value, (order) => {
  const rest = (rows.value ?? []).filter(one => !order.includes(one))
  rows.value = [...order, ...rest]
  void act(() => $fetch<{ ids: string[] }>('/api/desk/event-types/order', { method: 'POST', body: { ids: rows.value?.map(one => one.id) } }))
})

const stateWords = { draft: 'Draft', open: 'Open', closed: 'Closed' }

function nextOf(row: EventTypeRow): string {
  if (row.archived) return 'put away'
  if (row.state !== 'open') return `not bookable while it is ${row.state === 'draft' ? 'a draft' : 'closed'}`
  if (!row.nextOpening) return 'no opening in 60 days'
  const at = instantToSeconds(row.nextOpening)
  return `next ${sayNearDayWithin(at, desk.zone, desk.locale, desk.now)} ${sayTime(at, desk.zone, desk.locale)}`
}

const total = (row: EventTypeRow) => row.bookingsPerDay.reduce((sum, one) => sum + one, 0)
const height = (row: EventTypeRow, many: number) => Math.max(many > 0 ? 3 : 1, Math.round(26 * many / Math.max(4, ...row.bookingsPerDay)))
</script>

<template>
  <div class="list">
    <header>
      <h1>Event types</h1>
      <p v-if="tags.length > 0 || putAway > 0" class="filter">
        <NuxtLink :to="{ query: {} }" :class="{ here: !tag && !archived }">all</NuxtLink>
        <NuxtLink v-for="one in tags" :key="one" :to="{ query: { tag: one } }" :class="{ here: tag === one }">{{ one }}</NuxtLink>
        <NuxtLink v-if="putAway > 0" :to="{ query: { archived: null } }" :class="{ here: archived }">put away ({{ putAway }})</NuxtLink>
      </p>
      <form v-if="naming !== null" class="naming" @submit.prevent="create">
        <VTextField v-model="naming" autofocus aria-label="Name of the new event type" placeholder="What can be booked?" :error-messages="nameFault || []" hide-details="auto" @keydown.esc="naming = null" />
        <VBtn type="submit">Begin a draft</VBtn>
      </form>
      <VBtn v-else-if="mayChange" @click="naming = ''">New event type</VBtn>
    </header>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-else-if="!rows" class="quiet">Fetching …</p>
    <p v-else-if="shown.length === 0" class="quiet">{{ tag || archived ? 'None like this.' : 'There is nothing to book yet. Begin with a name.' }}</p>
    <ul>
      <li v-for="(row, index) in shown" :key="row.id" v-bind="place(index)">
        <button v-if="mayChange" type="button" class="handle" v-bind="handle(index)" :aria-label="`${row.name}: drag, or move with the arrow keys`">⠿</button>
        <div class="what">
          <h2><i :style="{ background: row.colour }" /><NuxtLink :to="`/desk/event-types/${row.id}`">{{ row.name }}</NuxtLink></h2>
          <p class="sentence">{{ row.sentence.map(phrase => phrase.text).join('') }}</p>
          <p v-if="row.worst" class="worst" :class="row.worst.severity"><strong>{{ severityWords[row.worst.severity] }}.</strong> {{ row.worst.words }}</p>
        </div>
        <div class="state">
          <p><strong :class="row.state">{{ stateWords[row.state] }}</strong>, {{ row.listed ? 'listed' : 'unlisted' }}</p>
          <p class="quiet" :class="{ broken: row.state === 'open' && !row.archived && !row.nextOpening }">{{ nextOf(row) }}</p>
          <p><a :href="row.page" target="_blank" rel="noopener">The page clients see</a></p>
        </div>
        <figure>
          <svg viewBox="0 0 150 28" role="img" :aria-label="`${plural(total(row), 'booking')} in the last 30 days`">
            <rect v-for="(many, day) in row.bookingsPerDay" :key="day" :x="day * 5" :y="28 - height(row, many)" width="4" :height="height(row, many)" :class="{ none: many === 0 }" />
          </svg>
          <figcaption class="quiet">{{ plural(total(row), 'booking') }} in 30 days</figcaption>
        </figure>
        <VMenu v-if="mayChange">
          <template #activator="{ props: activator }">
            <button type="button" class="word more" v-bind="activator" :aria-label="`More for ${row.name}`">more</button>
          </template>
          <VList>
            <VListItem title="Duplicate" @click="duplicate(row)" />
            <VListItem :title="row.archived ? 'Take out again' : 'Put away'" :subtitle="row.archived ? '' : 'Its link leads nowhere until it is taken out'" @click="archive(row)" />
          </VList>
        </VMenu>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.list {
  padding: 18px 24px 40px;
}

header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 24px;
}

header > :last-child {
  margin-left: auto;
}

h1 {
  font-size: 26px;
}

.filter {
  display: flex;
  gap: 14px;
}

.filter a {
  text-decoration: none;
}

.filter a.here {
  color: var(--ink);
  border-bottom: 2px solid var(--marigold);
}

.naming {
  display: flex;
  gap: 12px;
  align-items: flex-start;
  min-width: 420px;
}

ul {
  list-style: none;
  margin: 12px 0 0;
  padding: 0;
}

li {
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr) 200px 150px 40px;
  gap: 20px;
  border-top: 1px solid var(--line);
  padding: 12px 0;
}

li.over {
  border-top: 2px solid var(--marigold);
}

.handle {
  border: 0;
  background: none;
  color: var(--quiet);
  cursor: grab;
  min-height: 24px;
  align-self: start;
  touch-action: none;
}

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

.more {
  align-self: start;
}

@media (max-width: 900px) {
  li {
    grid-template-columns: 1fr;
    gap: 10px;
  }

  .naming {
    min-width: 0;
  }
}
</style>
