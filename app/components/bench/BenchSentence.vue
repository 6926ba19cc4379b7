<script setup lang="ts">
import type { Panel } from '~~/core/event-type/panels'
import type { Phrase } from '~~/core/event-type/sentence'

/** The sentence that is also how an event type is edited: each bold phrase opens its panel. */

const props = defineProps<{ phrases: readonly Phrase[], panel: Panel }>()
const emit = defineEmits<{ open: [panel: Panel] }>()

const more: { panel: Panel, label: string }[] = [
  { panel: 'buffers', label: 'time kept free' },
  { panel: 'limits', label: 'limits' },
  { panel: 'seats', label: 'seats' },
  { panel: 'approval', label: 'approval' },
  { panel: 'guests', label: 'guests' },
  { panel: 'questions', label: 'questions' },
  { panel: 'afterwards', label: 'what happens afterwards' },
  { panel: 'team', label: 'notes for the team' },
]
/** What the sentence does not speak of because it is at its default. */
const unsaid = computed(() => more.filter(part => !props.phrases.some(phrase => phrase.panel === part.panel)))
const adding = ref(unsaid.value.some(part => part.panel === props.panel))
</script>

<template>
  <div class="sentence">
    <p>
      <template v-for="(phrase, index) in phrases" :key="index">
        <button
          v-if="phrase.panel" type="button" :aria-pressed="phrase.panel === panel" @click="emit('open', phrase.panel)"
        >{{ phrase.text }}</button>
        <template v-else>{{ phrase.text }}</template>
      </template>
      <button type="button" class="also" :aria-expanded="adding" @click="adding = !adding">and also …</button>
    </p>
    <p v-if="adding" class="unsaid">
      <button
        v-for="part in unsaid" :key="part.panel" type="button" :aria-pressed="part.panel === panel"
        @click="emit('open', part.panel)"
      >{{ part.label }}</button>
    </p>
  </div>
</template>

<style scoped>
.sentence {
  font-size: 18.5px;
  line-height: 1.5;
  max-width: 940px;
}

button {
  display: inline;
  border: 0;
  background: none;
  padding: 0 1px;
  font-weight: 600;
  color: var(--aubergine);
  border-bottom: 2px solid var(--aubergine-soft);
  cursor: pointer;
  text-align: left;
}

button[aria-pressed='true'] {
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

.unsaid button {
  min-height: 24px;
}
</style>
