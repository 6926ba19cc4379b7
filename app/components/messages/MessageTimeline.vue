<script setup lang="ts">
import { texts } from '~/locales/messages'
import type { Audience } from '~~/core/messages/occasions'
import { occasionName } from '~~/core/messages/occasions'
import { messageTimeline, type TimelineRow } from '~~/core/messages/timeline'
import type { WordedMessage } from '~~/core/messages/wording'
import type { MessagesView } from '~~/core/views/messages'
import { useDesk } from '~/stores/desk'
import { useMessages } from '~/stores/messages'

/** What is sent when, as sentences along the life of a booking. */

const props = defineProps<{ view: MessagesView }>()
const desk = useDesk()
const messages = useMessages()
const route = useRoute()

const moments = computed(() => messageTimeline({
  ...props.view, isEventType: props.view.eventType !== null, observers: props.view.observers.length > 0,
}))
const sides = ['client', 'host'] as const
const sidesOf = (row: TimelineRow) => sides.filter(side => row.readers[side].length > 0)
const address = ({ occasion, own }: TimelineRow, side: Audience) => ({ query: { ...route.query, message: own ? `own.${own.id}` : `${occasion}.${side}` } })
const wordedOf = ({ occasion, own }: TimelineRow, audience: Audience): WordedMessage => ({ occasion, audience, by: own?.by ?? 'mail', ownId: own?.id ?? null })
const isSame = (a: Omit<WordedMessage, 'by'>, b: WordedMessage | null) => a.occasion === b?.occasion && a.audience === b.audience && a.ownId === b.ownId
const isHere = (row: TimelineRow, side: Audience) => isSame(wordedOf(row, side), messages.message)
const nameOf = ({ occasion, own }: TimelineRow) => own?.name ?? occasionName(occasion)

/** What is particular about a message: whose words it has, whether they work, and whether they are saved. */
function notes(row: TimelineRow, side: Audience): string[] {
  const message = wordedOf(row, side)
  const changed = props.view.changed.find(item => isSame(item, message))
  return [
    ...changed && !row.own ? [texts.source(changed.source, props.view.eventType !== null)].filter(Boolean) : [],
    ...row.own?.by === 'phone' && !props.view.canText ? [texts.cannotText] : [],
    ...changed?.isFaulty ? [texts.broken] : [],
    ...messages.isUnsaved(message) ? [texts.unsaved] : [],
  ]
}
</script>

<template>
  <ol class="timeline">
    <li v-for="{ moment, rows } in moments" :key="JSON.stringify(moment)" class="moment">
      <h2>{{ texts.moment(moment, desk.locale) }}</h2>
      <ul>
        <li v-for="row in rows" :key="row.own?.id ?? row.occasion">
          <template v-for="(side, index) in sidesOf(row)" :key="side">
            <template v-if="index === 0">{{ texts.get(row.readers[side]) + ' ' }}</template>
            <template v-else>{{ `, ${texts.toReader(row.readers[side])} ` }}</template>
            <NuxtLink
              :to="address(row, side)" :aria-label="texts.linkOf(nameOf(row), row.readers[side], index > 0)"
              :aria-current="isHere(row, side) ? 'true' : undefined" :class="{ here: isHere(row, side) }" replace
            >{{ index === 0 ? nameOf(row) : texts.theirs }}</NuxtLink>
            <template v-if="row.own?.by === 'phone'">{{ ` ${texts.byPhone}` }}</template>
            <span v-if="notes(row, side).length > 0" class="quiet">, {{ notes(row, side).join(', ') }}</span>
          </template>
        </li>
      </ul>
      <p v-if="moment.kind === 'before'" class="quiet">{{ texts.remindersHint }}</p>
      <NuxtLink v-if="moment.kind === 'reminder' && view.eventType" class="small" :to="`/desk/event-types/${view.eventType.id}?panel=reminders`">{{ texts.changeReminders }}</NuxtLink>
    </li>
  </ol>
</template>

<style scoped>
.timeline {
  list-style: none;
  margin: 18px 0 0;
  padding: 4px 0 4px 22px;
  border-left: 3px solid var(--marigold);
  display: grid;
  gap: 18px;
}

.moment {
  position: relative;
  display: grid;
  grid-template-columns: 104px minmax(0, 1fr);
  gap: 0 12px;
}

.moment::before {
  content: '';
  position: absolute;
  left: -31px;
  top: 2px;
  width: 15px;
  height: 15px;
  border: 3px solid var(--marigold);
  border-radius: 50%;
  background: var(--paper);
}

h2 {
  grid-row: 1 / span 2;
  font: 600 13px/1.45 var(--body);
  letter-spacing: 0;
}

ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 4px;
}

.small,
.moment > .quiet,
.moment li .quiet {
  font-size: 12.5px;
}

.moment > .small,
.moment > .quiet {
  grid-column: 2;
}

a {
  font-weight: 600;
}

.moment > .small {
  font-weight: 400;
}

a.here {
  background: var(--marigold-tint);
  color: var(--ink);
}
</style>
