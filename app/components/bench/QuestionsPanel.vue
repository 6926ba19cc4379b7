<script setup lang="ts">
import { texts } from '~/locales/bench'
import type { Settings } from '~~/core/event-type/settings'
import QuestionList from '~/components/questions/QuestionList.vue'
import SharedQuestions from '~/components/bench/SharedQuestions.vue'

/** What clients are asked: questions of this event type's own, and those that it shares with others. */

defineProps<{ errors: Readonly<Record<string, string>> }>()
const settings = defineModel<Settings>({ required: true })
</script>

<template>
  <p class="quiet hint">{{ texts.nameAndEMailAreAlwaysAsked }}</p>
  <QuestionList
    :model-value="settings.questions" :errors="errors" :others="settings.questionSets.flatMap(set => set.questions)"
    @update:model-value="settings = { ...settings, questions: $event }"
  />
  <SharedQuestions v-model="settings" :error="errors['questionSets'] ?? errors['questionSets.0'] ?? ''" />
</template>
