<script setup lang="ts">
import { texts } from '~/locales/common'

/** The way to the rest of a list; nothing where all of it is shown. */

defineProps<{ total: number }>()
const emit = defineEmits<{ show: [] }>()
</script>

<template>
  <p v-if="total > 0"><LinkButton @click="emit('show')">{{ texts.showAll(total) }}</LinkButton></p>
</template>
