<script setup lang="ts">
import type { MessagePreview } from '~~/core/views/messages'

/** A paragraph of a message, with what its fields gave marked, or its facts. Its links are shown, not followed. */

defineProps<{ part: MessagePreview['text'][number], isLine?: boolean }>()
</script>

<template>
  <component :is="isLine ? 'span' : 'p'" v-if="part.kind === 'paragraph'" dir="auto"><component
    :is="piece.isValue ? 'mark' : 'span'" v-for="(piece, index) in part.pieces" :key="index" :class="{ link: piece.link }"
  >{{ piece.text }}</component></component>
  <dl v-else>
    <template v-for="[name, value] in part.facts" :key="name">
      <dt dir="auto">{{ name }}</dt>
      <dd dir="auto">{{ value }}</dd>
    </template>
  </dl>
</template>

<style scoped>
p,
dd {
  white-space: pre-line;
}

mark {
  background: var(--marigold-tint);
  color: inherit;
}

.link {
  text-decoration: underline;
  text-underline-offset: 3px;
  color: var(--aubergine);
}

dl {
  display: grid;
  grid-template-columns: minmax(70px, 30%) minmax(0, 1fr);
  gap: 6px 12px;
  margin: 0;
}

dt {
  color: var(--quiet);
}

dd {
  margin: 0;
}
</style>
