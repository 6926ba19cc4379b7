<script setup lang="ts">
import type { Definition } from '~~/core/event-type/definition'
import type { Panel } from '~~/core/event-type/panels'
import type { Phrase } from '~~/core/event-type/sentence'
import { plural } from '~~/core/time/format'
import BenchSentence from './BenchSentence.vue'

/** Name, state and the sentence; what can be done stands at its side. */

const props = defineProps<{
  definition: Definition
  phrases: readonly Phrase[]
  archived: boolean
  changes: number
  isSound: boolean
  saved: 'saved' | 'waiting' | 'failed' | null
}>()
const panel = defineModel<Panel>({ required: true })

const others = [
  ['address', () => `${props.archived ? 'put away, ' : ''}${props.definition.state}, ${props.definition.listed ? 'listed' : 'unlisted'}`],
  ['history', () => 'history'],
] as const
const draftWords = computed(() => {
  if (props.changes === 0) return ''
  if (props.saved === null) return `${plural(props.changes, 'change')}, for you to look at only`
  const saved = { saved: 'saved as your draft', waiting: 'saving…', failed: 'not saved: no answer came' }[props.saved]
  return `${plural(props.changes, 'change')} not published, ${props.isSound ? saved : 'the last valid state is saved'}`
})
</script>

<template>
  <header class="bench-head">
    <div>
      <div class="line">
        <h1><button type="button" :aria-pressed="panel === 'name'" @click="panel = 'name'">{{ definition.settings.name.trim() || 'Without a name' }}</button></h1>
        <button
          v-for="[name, label] in others" :key="name" type="button" :aria-pressed="panel === name" @click="panel = name"
        >{{ label() }}</button>
        <span class="quiet" role="status">{{ draftWords }}</span>
      </div>
      <BenchSentence :phrases="phrases" :panel="panel" @open="panel = $event" />
    </div>
    <div class="do">
      <slot />
    </div>
  </header>
</template>

<style scoped>
.bench-head {
  display: flex;
  justify-content: space-between;
  gap: 32px;
  background: var(--surface);
  border-bottom: 1px solid var(--line);
  padding: 12px 24px;
}

.line {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  align-items: baseline;
  font-size: 13px;
  margin-bottom: 2px;
}

h1 {
  font-family: var(--body);
  font-size: 13px;
  letter-spacing: 0;
}

.line button {
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
  flex: 0 0 270px;
  text-align: right;
  font-size: 13px;
}

.do :deep(p) {
  margin-top: 6px;
  display: flex;
  flex-wrap: wrap;
  justify-content: flex-end;
  gap: 2px 14px;
}

.do :deep(.word:disabled) {
  color: var(--quiet);
  text-decoration: none;
  cursor: default;
}

@media (max-width: 900px) {
  .bench-head {
    display: block;
  }

  .do {
    text-align: left;
    margin-top: 12px;
  }

  .do :deep(p) {
    justify-content: flex-start;
  }
}
</style>
