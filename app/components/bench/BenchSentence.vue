<script setup lang="ts">
import { texts } from '~/locales/bench'
import type { Panel } from '~~/core/event-type/panels'
import type { Phrase } from '~~/core/event-type/sentence'

/**
 * The sentence that is also how an event type is edited: each bold phrase opens its panel. The phrases are spans, since a
 * button is one box that punctuation can be torn away from.
 */

const props = defineProps<{ phrases: readonly Phrase[], panel: Panel }>()
const emit = defineEmits<{ open: [panel: Panel, byKeyboard: boolean] }>()

const more: { panel: Panel, label: string }[] = [
  { panel: 'buffers', label: texts.timeKeptFree },
  { panel: 'limits', label: 'limits' },
  { panel: 'holds', label: texts.calendarHolds },
  { panel: 'seats', label: 'seats' },
  { panel: 'payment', label: 'payment' },
  { panel: 'approval', label: 'approval' },
  { panel: 'guests', label: 'guests' },
  { panel: 'clientTerms', label: texts.movingAndCancelling },
  { panel: 'reminders', label: 'reminders' },
  { panel: 'questions', label: 'questions' },
  { panel: 'afterwards', label: texts.afterBooking },
  { panel: 'team', label: texts.notesForTheTeam },
]
/** What the sentence does not speak of because it is at its default. */
const unsaid = computed(() => more.filter(part => !props.phrases.some(phrase => phrase.panel === part.panel)))
const adding = ref(unsaid.value.some(part => part.panel === props.panel))

const opens = (panel: Panel) => ({
  'role': 'button',
  'tabindex': 0,
  'data-panel': panel,
  'aria-pressed': panel === props.panel,
  'onClick': () => emit('open', panel, false),
  'onKeydown': (event: KeyboardEvent) => {
    if (event.key !== 'Enter' && event.key !== ' ') return
    event.preventDefault()
    emit('open', panel, true)
  },
})
</script>

<template>
  <div class="sentence">
    <p>
      <template v-for="(phrase, index) in phrases" :key="index"><span v-if="phrase.panel" class="phrase" v-bind="opens(phrase.panel)">{{ phrase.text }}</span><template v-else>{{ phrase.text }}</template></template>
      <button type="button" class="also" :aria-expanded="adding" @click="adding = !adding">{{ texts.andAlso }}</button>
    </p>
    <p v-if="adding" class="unsaid">
      <span v-for="part in unsaid" :key="part.panel" class="phrase" v-bind="opens(part.panel)">{{ part.label }}</span>
    </p>
  </div>
</template>

<style scoped>
.sentence {
  font-size: 18.5px;
  line-height: 1.5;
  max-width: 1180px;
}

.phrase,
.also {
  padding: 0 1px;
  font-weight: 600;
  color: var(--aubergine);
  border: 0;
  border-bottom: 2px solid var(--aubergine-soft);
  background: none;
  cursor: pointer;
}

.phrase[aria-pressed='true'] {
  background: var(--marigold);
  color: var(--on-marigold);
  border-bottom-color: var(--marigold);
  border-radius: 2px;
}

.also {
  margin-left: 6px;
  color: var(--quiet);
  border-bottom: 2px dotted var(--quiet);
}

.unsaid {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  font-size: 14px;
  margin-top: 2px;
}

.unsaid .phrase {
  min-height: 24px;
}
</style>
