<script setup lang="ts">
import { texts } from '~/locales/bench'
import type { Panel } from '~~/core/event-type/panels'
import { nameForTeam } from '~~/core/event-type/name-for-team'
import { useBench } from '~/stores/bench'
import BenchSentence from './BenchSentence.vue'

/** Name, state and the sentence, with what can be done above it. */

const props = defineProps<{ panel: Panel, saved: 'saved' | 'waiting' | 'failed' | null }>()
const emit = defineEmits<{ open: [panel: Panel, byKeyboard: boolean] }>()
const bench = useBench()

const states = { draft: texts.draft, open: texts.open, closed: texts.closed }
const state = computed(() => {
  const { draft, view } = bench
  if (!draft || !view) return ''
  return `${view.archived ? texts.archived : states[draft.state]}, ${draft.listed ? 'listed' : 'unlisted'}`
})
const name = computed(() => (bench.draft ? nameForTeam(bench.draft.settings).trim() : '') || texts.noNameYet)
const draftWords = computed(() => {
  const changes = bench.changes.length
  if (changes === 0) return ''
  if (props.saved === null) return texts.onlyForYouToLookAt(texts.changeCount(changes))
  const saved = { saved: texts.savedAsYourDraft, waiting: 'saving…', failed: texts.notSavedNoAnswerCame }[props.saved]
  return `${texts.unpublishedChangeCount(changes)}, ${bench.isSound ? saved : texts.theLastValidVersionIsSaved}`
})
const press = (panel: Panel, event: MouseEvent) => emit('open', panel, event.detail === 0)

const root = useTemplateRef<HTMLElement>('root')
/** Puts the focus on what opens a panel. */
function focusOn(panel: Panel): void {
  root.value?.querySelector<HTMLElement>(`[data-panel="${panel}"]`)?.focus()
}
defineExpose({ focusOn })
</script>

<template>
  <header ref="root" class="bench-head">
    <div class="line">
      <h1><button type="button" data-panel="name" :aria-pressed="panel === 'name'" @click="press('name', $event)">{{ name }}</button></h1>
      <button type="button" data-panel="address" :aria-pressed="panel === 'address'" @click="press('address', $event)">{{ state }}</button>
      <button type="button" data-panel="history" :aria-pressed="panel === 'history'" @click="press('history', $event)">{{ texts.history }}</button>
      <span class="quiet" role="status">{{ draftWords }}</span>
      <div class="do"><slot /></div>
    </div>
    <BenchSentence :phrases="bench.phrases" :panel="panel" @open="(panel, byKeyboard) => emit('open', panel, byKeyboard)" />
    <slot name="fault" />
  </header>
</template>

<style scoped>
.bench-head {
  background: var(--surface);
  border-bottom: 1px solid var(--line);
  padding: 10px 24px 12px;
}

.line {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  align-items: center;
  font-size: 13px;
  margin-bottom: 4px;
}

h1 {
  font-family: var(--heading);
  font-size: 16px;
  letter-spacing: 0;
}

.line > button,
h1 button {
  min-height: 24px;
  border: 0;
  background: none;
  padding: 0 2px;
  cursor: pointer;
  border-bottom: 1px dotted var(--quiet);
}

.line button[aria-pressed='true'] {
  background: var(--marigold);
  color: var(--on-marigold);
}

.do {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 12px;
  margin-left: auto;
}
</style>
