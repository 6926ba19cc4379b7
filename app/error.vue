<script setup lang="ts">
import { texts } from '~/locales/client'
import type { NuxtError } from '#app'

const props = defineProps<{ error: NuxtError }>()

const kind = computed(() => (props.error.statusCode === 404 ? 'missing' : props.error.statusCode === 429 ? 'busy' : 'failed'))
const pages = {
  missing: { title: texts.thereIsNothingAtThisAddress, text: texts.thisLinkIsNoLongerValid },
  busy: { title: texts.tooManyRequests, text: texts.yourNetworkAsksTooOften },
  failed: { title: texts.somethingWentWrong, text: texts.somethingWentWrongOnOurSide },
}
useHead({ title: () => pages[kind.value].title })

/** Where to go on: from a workspace's missing page to the workspace, and from the desk's to its first screen. */
const path = useRequestURL().pathname
const wayOn = computed(() => {
  if (kind.value !== 'missing') return { to: path, text: texts.tryAgain }
  if (/^\/desk(\/|$)/.test(path)) return { to: '/desk', text: texts.goToToday }
  const [, workspace, page] = path.split('/')
  return workspace && page && workspace !== 'bookings' ? { to: `/${workspace}`, text: texts.seeEverythingThatCanBeBooked } : null
})
</script>

<template>
  <main class="error-page">
    <h1>{{ pages[kind].title }}</h1>
    <p>{{ pages[kind].text }}</p>
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
