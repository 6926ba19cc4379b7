<script setup lang="ts">
import type { NuxtError } from '#app'

const props = defineProps<{ error: NuxtError }>()
const missing = computed(() => props.error.statusCode === 404)
const busy = computed(() => props.error.statusCode === 429)
useHead({ title: () => (missing.value ? 'Nothing here' : 'Something went wrong') })
</script>

<template>
  <main class="error-page">
    <h1>{{ missing ? 'There is nothing at this address' : busy ? 'Too many requests' : 'Something went wrong' }}</h1>
    <p v-if="missing">This link is no longer valid or was mistyped. Please ask whoever sent it to you.</p>
    <p v-else>{{ busy ? 'Your network has asked for many pages just now.' : 'It went wrong on our side.' }} Please try again in a moment.</p>
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
