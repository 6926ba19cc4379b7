<script setup lang="ts">
/** A host's picture, or their initials. The name stands beside it, so it says nothing of its own. */

const props = defineProps<{ name: string, picture: string | null, size: number }>()

const SMALL_PIXELS = 48
const source = computed(() => props.picture && `/assets/pictures/${props.picture}-${props.size > SMALL_PIXELS ? 'large' : 'small'}.webp`)
const initials = computed(() => props.name.split(/\s+/).map(part => part[0]).filter(Boolean).slice(0, 2).join(''))
</script>

<template>
  <img v-if="source" class="host-picture" :src="source" alt="" :width="size" :height="size">
  <span v-else class="host-picture" aria-hidden="true" :style="{ width: `${size}px`, height: `${size}px`, fontSize: `${size * 0.38}px` }">{{ initials }}</span>
</template>

<style>
.host-picture {
  flex: none;
  border-radius: var(--corner);
  object-fit: cover;
}

span.host-picture {
  display: inline-grid;
  place-items: center;
  background: var(--surface);
  border: 1px solid var(--line);
  color: var(--quiet);
  font-weight: 600;
}
</style>
