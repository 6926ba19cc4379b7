<script setup lang="ts">
import { texts } from '~/locales/guests'
import { VDefaultsProvider, VThemeProvider } from 'vuetify/components'
import type { ClientPageView } from '~~/core/views/client'
import GuestFields from '~/components/GuestFields.vue'
import { useGuestChange } from '~/composables/guest-change'
import { installVuetify } from '~/ui/vuetify'

/** Whom a client brings along, changed after booking. */

const props = defineProps<{ path: string, page: ClientPageView }>()
const emit = defineEmits<{ changed: [], keep: [] }>()

installVuetify(useNuxtApp().vueApp)
const { addresses, errors, sending, save } = useGuestChange(`${props.path}/guests`, props.page.guests)
const form = useTemplateRef<HTMLFormElement>('form')
onMounted(() => form.value?.scrollIntoView({ behavior: 'smooth', block: 'center' }))
</script>

<template>
  <VThemeProvider>
    <VDefaultsProvider>
      <form ref="form" class="guests" novalidate @submit.prevent="save().then(isDone => isDone && emit('changed'))">
        <h2>{{ texts.whoElseComes }}</h2>
        <p class="quiet">{{ texts.whatGuestsGet }}</p>
        <GuestFields v-model="addresses" :errors="errors" :may-add="page.mayInvite || addresses.length < page.guests.length" />
        <div class="actions">
          <button type="submit" class="press" :disabled="sending">{{ texts.saveAndTell }}</button>
          <button type="button" class="word" @click="emit('keep')">{{ texts.leaveAsItIs }}</button>
        </div>
      </form>
    </VDefaultsProvider>
  </VThemeProvider>
</template>

<style src="./actions.css"></style>

<style scoped>
.guests {
  display: grid;
  gap: 8px;
  border-top: 1px solid var(--line);
  padding-top: 16px;
}

.guests h2 {
  font-size: 1.1rem;
}

.actions {
  margin-top: 8px;
}
</style>
