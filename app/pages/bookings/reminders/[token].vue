<script setup lang="ts">
import { texts } from '~/locales/client'
import type { RemindersView } from '~~/core/views/client'
import ClientFrame from '~/components/client/ClientFrame.vue'
import { pageError } from '~/composables/page-error'
import { problemOf } from '~/composables/problem'

/** Where the link at the end of a reminder leads. Nothing happens before a press: mail programs open links by themselves. */

definePageMeta({ ui: 'light' })
useHead({ title: texts.reminders, meta: [{ name: 'robots', content: 'noindex' }, { name: 'referrer', content: 'no-referrer' }] })

const path = `/api/public/bookings/reminders/${encodeURIComponent(String(useRoute().params['token']))}`
const { data, error } = await useFetch<RemindersView>(path, { key: 'reminders' })
if (!data.value) throw pageError(error.value)
const hasChanged = ref(false)
const sending = ref(false)
const fault = ref('')

async function set(wanted: boolean): Promise<void> {
  sending.value = true
  fault.value = ''
  try {
    data.value = await $fetch<RemindersView>(path, { method: 'POST', body: { wanted } })
    hasChanged.value = true
  } catch (problem) {
    fault.value = problemOf(problem).message
  } finally {
    sending.value = false
  }
}
</script>

<template>
  <ClientFrame v-if="data" :name="data.workspace.name" :home="`/${data.workspace.slug}`">
    <div class="reminders">
      <h1>{{ texts.reminders }}</h1>
      <p role="status">{{ (data.wanted ? texts.youAreReminded : texts.youAreNotReminded)(data.address, data.workspace.name) }}</p>
      <p class="quiet">{{ texts.otherMailsStillCome }}</p>
      <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
      <button v-if="data.wanted" type="button" class="press" :class="{ light: hasChanged }" :disabled="sending" @click="set(false)">{{ texts.endReminders }}</button>
      <button v-else type="button" class="press light" :disabled="sending" @click="set(true)">{{ texts.remindMeAgain }}</button>
    </div>
  </ClientFrame>
</template>

<style scoped>
.reminders {
  max-width: 720px;
  background: var(--surface);
  border-left: 3px solid var(--marigold);
  border-radius: 0 var(--corner) var(--corner) 0;
  padding: 24px 28px 28px;
  display: grid;
  gap: 10px;
  justify-items: start;
  overflow-wrap: anywhere;
}
</style>
