<script setup lang="ts">
import type { NuxtError } from '#app'

const props = defineProps<{ error: NuxtError }>()

const kind = computed(() => (props.error.statusCode === 404 ? 'missing' : props.error.statusCode === 429 ? 'busy' : 'failed'))
const texts = {
  missing: { title: 'There is nothing at this address', text: 'This link is no longer valid or was mistyped. Please ask whoever sent it to you.' },
  busy: { title: 'Too many requests', text: 'Your network has asked for many pages just now. Please try again in a moment.' },
  failed: { title: 'Something went wrong', text: 'Something went wrong on our side. Please try again in a moment.' },
}
useHead({ title: () => texts[kind.value].title })

/** Where to go on: from a workspace's missing page to the workspace, and from the desk's to its first screen. */
const path = useRequestURL().pathname
const wayOn = computed(() => {
  if (kind.value !== 'missing') return { to: path, text: 'Try again' }
  if (/^\/desk(\/|$)/.test(path)) return { to: '/desk', text: 'Go to Today' }
  const [, workspace, page] = path.split('/')
  return workspace && page && workspace !== 'bookings' ? { to: `/${workspace}`, text: 'See everything that can be booked here' } : null
})
</script>

<template>
  <main class="error-page">
    <h1>{{ texts[kind].title }}</h1>
    <p>{{ texts[kind].text }}</p>
    <p v-if="wayOn"><a :href="wayOn.to">{{ wayOn.text }}</a></p>
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
