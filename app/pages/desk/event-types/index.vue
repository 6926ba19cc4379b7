<script setup lang="ts">
import { VBtn, VList, VListItem, VMenu, VTextField } from 'vuetify/components'
import type { EventTypeRow } from '~~/core/views/desk'
import EventTypeSummary from '~/components/desk/EventTypeSummary.vue'
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
const shown = computed(() =>
  (rows.value ?? []).filter(row => row.archived === archived.value && (tag.value === null || row.tags.includes(tag.value))),
)
const putAway = computed(() => (rows.value ?? []).filter(row => row.archived).length)
const mayChange = computed(() => desk.member?.role !== 'host')

async function load(): Promise<void> {
  try {
    rows.value = await $fetch<EventTypeRow[]>('/api/desk/event-types')
  } catch (error) {
    fault.value = problemOf(error).message
  }
}
onMounted(load)

/** Does something at the server and shows what came of it. */
async function act(doing: () => Promise<unknown>): Promise<void> {
  fault.value = ''
  try {
    await doing()
  } catch (error) {
    fault.value = problemOf(error).message
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

/** Those that are not shown stay where they are. */
const { handle, row: place } = useReorder(() => shown.value, (order) => {
  const next = order.values()
  rows.value = (rows.value ?? []).map(row => (order.includes(row) ? next.next().value ?? row : row))
  void act(() =>
    $fetch<{ ids: string[] }>('/api/desk/event-types/order', { method: 'POST', body: { ids: rows.value?.map(row => row.id) } }),
  )
})
</script>

<template>
  <div class="list">
    <header>
      <h1>Event types</h1>
      <p v-if="tags.length > 0 || putAway > 0" class="filter">
        <NuxtLink :to="{ query: {} }" :class="{ here: !tag && !archived }">all</NuxtLink>
        <NuxtLink
          v-for="choice in tags" :key="choice" :to="{ query: { tag: choice } }" :class="{ here: tag === choice }"
        >{{ choice }}</NuxtLink>
        <NuxtLink v-if="putAway > 0" :to="{ query: { archived: null } }" :class="{ here: archived }">put away ({{ putAway }})</NuxtLink>
      </p>
      <form v-if="naming !== null" class="naming" @submit.prevent="create">
        <VTextField
          v-model="naming" autofocus aria-label="Name of the new event type" placeholder="What can be booked?"
          :error-messages="nameFault || []" hide-details="auto" @keydown.esc="naming = null"
        />
        <VBtn type="submit">Begin a draft</VBtn>
      </form>
      <VBtn v-else-if="mayChange" @click="naming = ''">New event type</VBtn>
    </header>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-else-if="!rows" class="quiet">Loading…</p>
    <p v-else-if="shown.length === 0" class="quiet">{{ tag || archived ? 'None like this.' : 'There is nothing to book yet. Begin with a name.' }}</p>
    <ul>
      <li v-for="(row, index) in shown" :key="row.id" v-bind="place(index)">
        <button
          v-if="mayChange" type="button" class="handle" v-bind="handle(index)"
          :aria-label="`${row.name}: drag, or move with the arrow keys`"
        >⠿</button>
        <EventTypeSummary :row="row" :zone="desk.zone" :locale="desk.locale" :now="desk.now" />
        <VMenu v-if="mayChange">
          <template #activator="{ props: activator }">
            <LinkButton class="more" v-bind="activator" :aria-label="`More for ${row.name}`">more</LinkButton>
          </template>
          <VList>
            <VListItem title="Duplicate" @click="duplicate(row)" />
            <VListItem
              :title="row.archived ? 'Restore' : 'Archive'"
              :subtitle="row.archived ? '' : 'Its link leads nowhere until it is taken out'" @click="archive(row)"
            />
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
