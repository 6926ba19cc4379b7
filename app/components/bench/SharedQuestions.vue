<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VBtn, VCheckbox, VTextField } from 'vuetify/components'
import type { Settings } from '~~/core/event-type/settings'
import type { QuestionSet } from '~~/core/intake/question-sets'
import AskDialog from '~/components/desk/AskDialog.vue'
import { useBench } from '~/stores/bench'
import { useNotice } from '~/stores/notice'
import { shareQuestions, useQuestionSets } from '~/stores/question-sets'

/** Which of the workspace's shared questions an event type asks; its own can be made shared ones. */

const props = defineProps<{ error: string }>()
const settings = defineModel<Settings>({ required: true })
const bench = useBench()
const sets = useQuestionSets()
const notice = useNotice()

const choices = computed(() => bench.view?.questionSets ?? [])
const isAsked = (id: string) => settings.value.questionSets.some(set => set.id === id)
const labelsOf = ({ questions }: QuestionSet) => questions.map(question => question.label).join(' · ')

function ask(set: QuestionSet, isOn: boolean | null): void {
  const others = settings.value.questionSets.filter(({ id }) => id !== set.id)
  settings.value = { ...settings.value, questionSets: isOn ? [...others, set] : others }
}

/** Sets that were deleted while this draft still asked them. */
const gone = computed(() => settings.value.questionSets.filter(set => !choices.value.some(choice => choice.id === set.id)))

const isSharing = ref(false)
const name = ref('')
const fault = ref('')
const sending = ref(false)

async function share(): Promise<void> {
  fault.value = name.value.trim() ? '' : texts.giveItAName
  if (fault.value || !bench.view) return
  sending.value = true
  const edited = shareQuestions(name.value.trim(), settings.value.questions)
  const created = await sets.create(edited)
  sending.value = false
  if (!created) {
    fault.value = sets.fault
    return
  }
  const set = { ...edited, id: created.id }
  bench.view = { ...bench.view, questionSets: [...choices.value, set] }
  settings.value = { ...settings.value, questions: [], questionSets: [...settings.value.questionSets, set] }
  isSharing.value = false
  notice.show(texts.theyAreShared(set.name))
}

watch(isSharing, () => {
  name.value = fault.value = ''
})
</script>

<template>
  <section class="shared" aria-labelledby="shared-questions">
    <h3 id="shared-questions">{{ texts.sharedQuestions }}</h3>
    <p class="quiet hint">{{ texts.sharedQuestionsHint }}</p>
    <p v-if="props.error" class="broken" role="alert">{{ props.error }}</p>
    <ul v-if="choices.length + gone.length > 0">
      <li v-for="set in [...choices, ...gone]" :key="set.id">
        <div class="choice">
          <VCheckbox :model-value="isAsked(set.id)" :label="set.name" hide-details @update:model-value="ask(set, $event)" />
          <NuxtLink
            v-if="!gone.includes(set)" :to="`/desk/question-sets/${set.id}`" :aria-label="texts.editSet(set.name)"
          >{{ texts.edit }}</NuxtLink>
        </div>
        <p class="quiet labels">{{ labelsOf(set) }}</p>
      </li>
    </ul>
    <p class="ways">
      <LinkButton v-if="settings.questions.length > 0" @click="isSharing = true">{{ texts.shareTheseQuestions }}</LinkButton>
      <NuxtLink :to="choices.length > 0 ? '/desk/question-sets' : '/desk/question-sets/new'">{{ choices.length > 0 ? texts.manageSharedQuestions : texts.createSharedQuestions }}</NuxtLink>
    </p>
    <AskDialog v-model="isSharing" :title="texts.shareTitle" :width="440">
      <p>{{ texts.shareWhat(settings.questions.length) }}</p>
      <form id="share-questions" class="share" @submit.prevent="share">
        <label for="set-name">{{ texts.nameOfTheSet }}</label>
        <VTextField id="set-name" v-model="name" autofocus maxlength="80" :placeholder="texts.nameOfTheSetExample" :error-messages="fault || []" hide-details="auto" />
      </form>
      <template #actions>
        <VBtn type="submit" form="share-questions" :loading="sending">{{ texts.shareThem }}</VBtn>
        <LinkButton @click="isSharing = false">{{ texts.cancelSharing }}</LinkButton>
      </template>
    </AskDialog>
  </section>
</template>

<style scoped>
.shared {
  border-top: 1px solid var(--line);
  margin-top: 18px;
  padding-top: 12px;
}

h3 {
  font-size: 15px;
}

ul {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
}

.choice {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
}

.labels {
  font-size: 12.5px;
  margin: 0 0 6px 32px;
}

.ways {
  display: grid;
  justify-items: start;
  gap: 6px;
  margin-top: 10px;
}

.share {
  display: grid;
  gap: 6px;
}

.share label {
  font-weight: 600;
}
</style>
