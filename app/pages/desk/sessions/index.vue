<script setup lang="ts">
import { NuxtLink } from '#components'
import { texts } from '~/locales/sessions'
import { VBtnToggle, VBtn, VSelect, VTable, VTextField } from 'vuetify/components'
import { bookingStates, bookingStateWords } from '~~/core/booking/states'
import { formatDay, formatTime } from '~~/core/time/format'
import type { SessionList, SessionRow } from '~~/core/views/session-list'
import DateField from '~/components/fields/DateField.vue'
import { useCalls } from '~/composables/calls'
import { useDesk } from '~/stores/desk'

/** All sessions, past and to come, by client, date, host, event type and state. The address keeps the search. */

definePageMeta({ layout: 'desk' })
useHead({ title: texts.sessionsTemporia })

const desk = useDesk()
const route = useRoute()
const list = shallowRef<SessionList | null>(null)
const hosts = shallowRef<{ id: string, name: string }[]>([])
const eventTypes = shallowRef<{ id: string, name: string }[]>([])
const { fault, act } = useCalls()

const text = (name: string) => String(route.query[name] ?? '')
const when = computed(() => (text('when') === 'past' ? 'past' : 'coming'))
const page = computed(() => Math.max(1, Number(text('page')) || 1))
const isFiltered = computed(() => ['search', 'from', 'to', 'host', 'eventType', 'state', 'tag'].some(name => text(name) !== ''))

/** Changes a part of the search; every change begins at the first page. */
function change(part: Record<string, string | number | null>): void {
  const query = { ...route.query, page: undefined, ...part }
  void navigateTo({ query: Object.fromEntries(Object.entries(query).filter(([, value]) => value !== null && value !== undefined && value !== '')) }, { replace: true })
}

const search = ref(text('search'))
const REST = 250
let timer: ReturnType<typeof setTimeout> | undefined
watch(search, (typed) => {
  clearTimeout(timer)
  timer = setTimeout(() => change({ search: typed.trim() }), REST)
})
onBeforeUnmount(() => clearTimeout(timer))

let asked = 0
async function load(): Promise<void> {
  const own = ++asked
  const found = await act(() => $fetch<SessionList>('/api/desk/sessions', { query: { ...route.query, timeZone: desk.zone } }))
  if (own === asked && found) list.value = found
}
watch(() => [route.query, desk.zone], load, { immediate: true })

onMounted(async () => {
  hosts.value = (await $fetch<{ hosts: { id: string, name: string }[] }>('/api/desk/hosts').catch(() => ({ hosts: [] }))).hosts
  eventTypes.value = await $fetch<{ id: string, name: string }[]>('/api/desk/event-types/names').catch(() => [])
})

const withAny = (title: string, items: readonly { id: string, name: string }[]) =>
  [{ value: '', title }, ...items.map(item => ({ value: item.id, title: item.name }))]
const states = [{ value: '', title: texts.anyState }, ...bookingStates.map(value => ({ value, title: bookingStateWords[value] }))]

const SHOWN = 3
function clientsOf({ clients }: SessionRow): string {
  const names = clients.slice(0, SHOWN).map(client => client.name).join(', ')
  return clients.length > SHOWN ? names + texts.andMore(clients.length - SHOWN) : names
}
const stateOf = ({ cancelled, clients }: SessionRow) =>
  (cancelled ? texts.cancelled : [...new Set(clients.map(client => bookingStateWords[client.state]))].join(', '))
</script>

<template>
  <div class="sessions">
    <header>
      <h1>{{ texts.sessions }}</h1>
      <VBtnToggle :model-value="when" mandatory :aria-label="texts.when" @update:model-value="change({ when: $event === 'past' ? 'past' : null })">
        <VBtn value="coming">{{ texts.coming }}</VBtn>
        <VBtn value="past">{{ texts.past }}</VBtn>
      </VBtnToggle>
    </header>
    <div class="filters" role="search">
      <VTextField v-model="search" type="search" :label="texts.search" hide-details />
      <DateField :model-value="text('from')" clearable :label="texts.from" :locale="desk.locale" @update:model-value="change({ from: $event })" />
      <DateField :model-value="text('to')" clearable :label="texts.to" :locale="desk.locale" @update:model-value="change({ to: $event })" />
      <VSelect
        :model-value="text('host')" :items="withAny(texts.anyHost, hosts)" :label="texts.host" hide-details
        @update:model-value="change({ host: $event })"
      />
      <VSelect
        :model-value="text('eventType')" :items="withAny(texts.anyEventType, eventTypes)" :label="texts.eventType" hide-details
        @update:model-value="change({ eventType: $event })"
      />
      <VSelect
        :model-value="text('state')" :items="states" :label="texts.state" hide-details @update:model-value="change({ state: $event })"
      />
    </div>
    <p v-if="text('tag')" class="tagged">
      {{ texts.taggedWith }} <strong>{{ text('tag') }}</strong> <LinkButton @click="change({ tag: null })">{{ texts.anyTag }}</LinkButton>
    </p>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <p v-if="!list" class="quiet">{{ texts.loading }}</p>
    <p v-else-if="list.rows.length === 0" class="quiet none">
      {{ when === 'past' ? texts.nonePast : texts.noneComing }}
      <NuxtLink v-if="isFiltered" :to="{ query: when === 'past' ? { when } : {} }" @click="search = ''">{{ texts.clear }}</NuxtLink>
    </p>
    <VTable v-else>
      <thead>
        <tr>
          <th scope="col">{{ texts.when }}</th>
          <th scope="col">{{ texts.client }}</th>
          <th scope="col">{{ texts.eventType }}</th>
          <th scope="col">{{ texts.hosts }}</th>
          <th scope="col">{{ texts.state }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in list.rows" :key="row.id" :class="{ over: row.cancelled }">
          <th scope="row"><component :is="row.open ? NuxtLink : 'span'" v-bind="row.open ? { to: `/desk/sessions/${row.id}` } : {}">{{ formatDay(row.start, desk.zone, desk.locale, desk.now) }}, {{ formatTime(row.start, desk.zone, desk.locale) }}</component></th>
          <td dir="auto">{{ clientsOf(row) }}</td>
          <td>{{ row.eventType }}<span v-if="row.tags.length > 0" class="quiet tags">{{ row.tags.join(', ') }}</span></td>
          <td>{{ row.hosts.join(', ') }}</td>
          <td>{{ stateOf(row) }}</td>
        </tr>
      </tbody>
    </VTable>
    <nav v-if="list && (page > 1 || list.hasMore)" class="pages" :aria-label="texts.page(page)">
      <LinkButton :disabled="page === 1" @click="change({ page: page > 2 ? page - 1 : null })">{{ texts.previous }}</LinkButton>
      <span class="quiet">{{ texts.page(page) }}</span>
      <LinkButton :disabled="!list.hasMore" @click="change({ page: page + 1 })">{{ texts.next }}</LinkButton>
    </nav>
  </div>
</template>

<style scoped>
.sessions {
  padding: 18px 24px 40px;
}

header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 24px;
}

h1 {
  font-size: 26px;
}

.filters {
  display: grid;
  grid-template-columns: minmax(0, 1.6fr) repeat(2, minmax(0, 1fr)) minmax(0, 1.2fr) minmax(0, 1.4fr) minmax(0, 1fr);
  gap: 10px;
  margin: 14px 0;
}

.v-table {
  background: none;
}

th,
td {
  text-align: left;
  border-color: var(--line) !important;
}

th:first-child {
  padding-left: 0 !important;
  white-space: nowrap;
}

.tags {
  display: block;
}

.tagged {
  margin-bottom: 10px;
}

tbody th {
  font-weight: 600;
}

.over td,
.over th {
  color: var(--quiet);
}

.none {
  margin-top: 20px;
}

.pages {
  display: flex;
  gap: 18px;
  align-items: center;
  margin-top: 14px;
}

@media (max-width: 900px) {
  .filters {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
