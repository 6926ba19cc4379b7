<script setup lang="ts">
import { VCard, VDialog } from 'vuetify/components'

/** A sheet that asks before something is done. */

defineProps<{ title: string, width: number, persistent?: boolean }>()
const open = defineModel<boolean>({ required: true })
</script>

<template>
  <VDialog v-model="open" :max-width="width" :persistent="persistent" scrollable>
    <VCard class="ask">
      <h2>{{ title }}</h2>
      <slot />
      <p class="ask-actions"><slot name="actions" /></p>
    </VCard>
  </VDialog>
</template>

<style>
.ask {
  font-size: 14px;
  background: var(--surface);
  border-left: 3px solid var(--marigold);
  border-radius: var(--corner);
  padding: 22px;
  display: grid;
  gap: 12px;
  overflow-y: auto;
}

.ask h2 {
  font-size: 18px;
}

.ask ul {
  margin: 0;
  padding-left: 18px;
}

.ask li {
  overflow-wrap: anywhere;
}

.ask-actions {
  display: flex;
  align-items: center;
  gap: 18px;
}
</style>
