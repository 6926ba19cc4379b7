<script setup lang="ts">
import type { NuxtError } from '#app'

const props = defineProps<{ error: NuxtError }>()
const missing = computed(() => props.error.statusCode === 404)
useHead({ title: () => (missing.value ? 'Nothing here' : 'Something failed') })
</script>

<template>
  <main class="error-page">
    <h1>{{ missing ? 'There is nothing at this address' : 'Something failed here' }}</h1>
    <p v-if="missing">The link may have been closed or typed with a slip. Please ask whoever sent it to you.</p>
    <p v-else>It is not your doing. Please try again in a moment.</p>
  </main>
</template>

<style scoped>
.error-page {
  max-width: 560px;
  margin: 15vh auto;
  padding: 24px 28px;
  background: var(--surface);
  border-left: 3px solid var(--marigold);
}

.error-page p {
  margin-top: 10px;
}
</style>
