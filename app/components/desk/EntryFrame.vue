<script setup lang="ts">
import { texts } from '~/locales/onboarding'
import { VApp } from 'vuetify/components'

/** The one sheet of paper that stands before the desk: signing in, signing up. */

defineProps<{ lead: string }>()
const emit = defineEmits<{ submit: [] }>()
</script>

<template>
  <VApp class="desk">
    <main class="entry-frame">
      <form novalidate @submit.prevent="emit('submit')">
        <h1>{{ texts.temporia }}</h1>
        <p class="quiet">{{ lead }}</p>
        <slot />
      </form>
    </main>
  </VApp>
</template>

<style>
.entry-frame {
  display: grid;
  place-items: center;
  min-height: 90vh;
  padding: 24px;
}

.entry-frame form {
  width: 400px;
  max-width: 100%;
  background: var(--surface);
  border-left: 3px solid var(--marigold);
  padding: 28px;
  display: grid;
  gap: 6px;
}

.entry-frame h1 {
  font-size: 30px;
}

.entry-frame label {
  font-weight: 600;
}

.entry-frame .v-input {
  margin-bottom: 8px;
}

.entry-frame h1 + .quiet {
  margin-bottom: 12px;
}

.entry-frame .other {
  margin-top: 8px;
}
</style>
