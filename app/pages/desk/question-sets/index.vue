<script setup lang="ts">
import { texts } from '~/locales/questions'
import { VBtn } from 'vuetify/components'
import type { QuestionSetView } from '~~/core/views/event-types'
import AskDialog from '~/components/desk/AskDialog.vue'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'
import { useQuestionSets } from '~/stores/question-sets'

definePageMeta({ layout: 'desk' })
useHead({ title: texts.sharedQuestionsTemporia })

const desk = useDesk()
const sets = useQuestionSets()
const notice = useNotice()
const deleting = ref<QuestionSetView | null>(null)

onMounted(sets.load)

const labelsOf = ({ questions }: QuestionSetView) => questions.map(question => question.label).join(' · ')

async function remove(): Promise<void> {
  const set = deleting.value
  deleting.value = null
  if (!set || !await sets.remove(set.id)) return
  notice.show(texts.deleted(set.name))
  await sets.load()
}
</script>

<template>
  <div class="sets">
    <header>
      <div>
        <h1>{{ texts.sharedQuestions }}</h1>
        <p class="quiet">{{ texts.whatSharedQuestionsAre }}</p>
      </div>
      <VBtn v-if="desk.mayChangeEventTypes" to="/desk/question-sets/new">{{ texts.newSet }}</VBtn>
    </header>
    <p v-if="sets.fault" class="fault" role="alert">{{ sets.fault }}</p>
    <p v-else-if="!sets.rows" class="quiet">{{ texts.loading }}</p>
    <p v-else-if="sets.rows.length === 0" class="quiet">{{ texts.noSetsYet }}</p>
    <ul>
      <li v-for="set in sets.rows ?? []" :key="set.id">
        <div>
          <NuxtLink :to="`/desk/question-sets/${set.id}`">{{ set.name }}</NuxtLink>
          <p class="quiet">{{ set.usedBy.length > 0 ? texts.askedBy(set.usedBy.map(eventType => eventType.name)) : texts.askedByNobody }}</p>
        </div>
        <p>{{ labelsOf(set) }}</p>
        <LinkButton
          v-if="desk.mayChangeEventTypes && set.usedBy.length === 0" :aria-label="texts.deleteSet(set.name)" @click="deleting = set"
        >{{ texts.delete }}</LinkButton>
      </li>
    </ul>
    <AskDialog
      v-if="deleting" :model-value="true" :title="texts.deleteSetQuestion(deleting.name)" :width="420"
      @update:model-value="deleting = null"
    >
      <p>{{ texts.nothingAsksIt }}</p>
      <template #actions>
        <VBtn color="error" @click="remove">{{ texts.delete }}</VBtn>
        <LinkButton @click="deleting = null">{{ texts.cancel }}</LinkButton>
      </template>
    </AskDialog>
  </div>
</template>

<style scoped>
.sets {
  padding: 18px 24px 40px;
}

header {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-start;
  justify-content: space-between;
  gap: 8px 24px;
}

h1 {
  font-size: 26px;
}

ul {
  list-style: none;
  margin: 14px 0 0;
  padding: 0;
}

li {
  display: grid;
  grid-template-columns: minmax(220px, 2fr) 3fr 60px;
  gap: 24px;
  border-top: 1px solid var(--line);
  padding: 12px 0;
}

li a {
  font-weight: 600;
}

@media (max-width: 700px) {
  li {
    grid-template-columns: 1fr;
    justify-items: start;
    gap: 4px;
  }
}
</style>
