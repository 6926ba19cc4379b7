<script setup lang="ts">
import { texts } from '~/locales/event-types'
import { VBtn, VList, VListItem, VMenu } from 'vuetify/components'
import { nameForTeam } from '~~/core/event-type/name-for-team'
import type { EventTypeRow } from '~~/core/views/event-types'
import AskDialog from '~/components/desk/AskDialog.vue'
import EventTypeSummary from '~/components/desk/EventTypeSummary.vue'
import NewEventTypeDialog from '~/components/desk/NewEventTypeDialog.vue'
import ShowAll from '~/components/ShowAll.vue'
import { useFirstRows } from '~/composables/first-rows'
import { copyText } from '~/composables/copy-text'
import { useReorder } from '~/composables/reorder'
import { useDesk } from '~/stores/desk'
import { useEventTypes } from '~/stores/event-types'
import { useNotice } from '~/stores/notice'

definePageMeta({ layout: 'desk' })
useHead({ title: texts.eventTypesTemporia })

const desk = useDesk()
const eventTypes = useEventTypes()
const notice = useNotice()
const route = useRoute()
const creating = ref(false)
const deleting = ref<EventTypeRow | null>(null)

/** Which are shown stands in the address. */
const tag = computed(() => (typeof route.query['tag'] === 'string' ? route.query['tag'] : null))
const archivedShown = computed(() => route.query['archived'] !== undefined)
const all = computed(() => eventTypes.rows ?? [])
const tags = computed(() => [...new Set(all.value.flatMap(row => row.tags))].sort())
const shown = computed(() =>
  all.value.filter(row => row.archived === archivedShown.value && (tag.value === null || row.tags.includes(tag.value))),
)
const archivedCount = computed(() => all.value.filter(row => row.archived).length)
const nameOf = (row: EventTypeRow) => nameForTeam(row)

onMounted(eventTypes.load)

async function duplicate(row: EventTypeRow): Promise<void> {
  const made = await eventTypes.duplicate(row.id)
  if (made) await navigateTo(`/desk/event-types/${made.id}?panel=name`)
}

async function archive(row: EventTypeRow): Promise<void> {
  const done = await eventTypes.archive(row.id, !row.archived)
  if (done) notice.show(`${done.archived ? texts.archived : texts.restored}: ${nameOf(row)}`, () => eventTypes.archive(row.id, row.archived))
}

async function turn(row: EventTypeRow): Promise<void> {
  const before = row.state
  const done = await eventTypes.setState(row.id, before === 'open' ? 'closed' : 'open')
  if (!done) return
  const undo = before === 'draft' ? null : () => eventTypes.setState(row.id, before)
  notice.show(done.state === 'open' ? texts.clientsCanBookNow(nameOf(row)) : texts.isClosedNow(nameOf(row)), undo)
}

async function remove(): Promise<void> {
  const row = deleting.value
  deleting.value = null
  if (row && await eventTypes.remove(row.id)) notice.show(texts.deleted(nameOf(row)))
}

const first = useFirstRows(() => shown.value)
const { handle, row: place } = useReorder(() => shown.value, order => void eventTypes.reorder(order))
</script>

<template>
  <div class="list">
    <header>
      <h1>{{ texts.eventTypes }}</h1>
      <p v-if="tags.length > 0 || archivedCount > 0" class="filter">
        <NuxtLink :to="{ query: {} }" :class="{ here: !tag && !archivedShown }">{{ texts.all }}</NuxtLink>
        <NuxtLink
          v-for="choice in tags" :key="choice" :to="{ query: { tag: choice } }" :class="{ here: tag === choice }"
        >{{ choice }}</NuxtLink>
        <NuxtLink
          v-if="archivedCount > 0" :to="{ query: { archived: null } }" :class="{ here: archivedShown }"
        >{{ texts.archivedCount(archivedCount) }}</NuxtLink>
      </p>
      <NuxtLink to="/desk/question-sets" class="shared">{{ texts.sharedQuestions }}</NuxtLink>
      <VBtn v-if="desk.mayChangeEventTypes" @click="creating = true">{{ texts.newEventType }}</VBtn>
    </header>
    <p v-if="eventTypes.fault" class="fault" role="alert">{{ eventTypes.fault }}</p>
    <p v-else-if="!eventTypes.rows" class="quiet">{{ texts.loading }}</p>
    <p v-else-if="shown.length === 0" class="quiet">{{ tag || archivedShown ? texts.noEventTypeMatchesThisFilter : texts.noEventTypesYetCreateOne }}</p>
    <ul>
      <li v-for="(row, index) in first.shown" :key="row.id" v-bind="place(index)">
        <button
          v-if="desk.mayChangeEventTypes" type="button" class="handle" v-bind="handle(index)"
          :aria-label="texts.dragOrMove(nameOf(row))"
        >⠿</button>
        <EventTypeSummary :row="row" :zone="desk.zone" :locale="desk.locale" :now="desk.now" />
        <div class="actions">
          <LinkButton
            :aria-label="texts.copyTheLinkTo(nameOf(row))" @click="copyText(row.page, texts.theLinkIsCopied)"
          >{{ texts.copyLink }}</LinkButton>
          <VMenu v-if="desk.mayChangeEventTypes">
            <template #activator="{ props: activator }">
              <LinkButton v-bind="activator" :aria-label="texts.moreFor(nameOf(row))">{{ texts.more }}</LinkButton>
            </template>
            <VList role="menu">
              <VListItem
                v-if="!row.archived"
                role="menuitem" :title="row.state === 'open' ? texts.close : texts.openForClients"
                :subtitle="row.state === 'open' ? texts.untilOpened : ''" @click="turn(row)"
              />
              <VListItem role="menuitem" :title="texts.duplicate" @click="duplicate(row)" />
              <VListItem
                role="menuitem"
                :title="row.archived ? texts.restore : texts.archive"
                :subtitle="row.archived ? '' : texts.untilRestored" @click="archive(row)"
              />
              <VListItem
                v-if="!row.everBooked"
                role="menuitem" :title="texts.deleteForGood" :subtitle="texts.nobodyHasEverBookedIt" @click="deleting = row"
              />
            </VList>
          </VMenu>
        </div>
      </li>
    </ul>
    <ShowAll :total="first.total" @show="first.showAll" />
    <NewEventTypeDialog v-if="creating" v-model="creating" />
    <AskDialog
      v-if="deleting" :model-value="true" :title="texts.deleteQuestion(nameOf(deleting))" :width="420"
      @update:model-value="deleting = null"
    >
      <p>{{ texts.whatDeletingMeans }}</p>
      <template #actions>
        <VBtn color="error" @click="remove">{{ texts.deleteForGood }}</VBtn>
        <LinkButton @click="deleting = null">{{ texts.cancel }}</LinkButton>
      </template>
    </AskDialog>
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

header > .shared {
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

ul {
  list-style: none;
  margin: 12px 0 0;
  padding: 0;
}

li {
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr) 200px 150px 70px;
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

.actions {
  display: grid;
  gap: 4px;
  justify-items: end;
  align-content: start;
}

@media (max-width: 900px) {
  li {
    grid-template-columns: 1fr;
    gap: 10px;
  }
}
</style>
