<script setup lang="ts">
import { texts } from '~/locales/questions'
import { VTextField } from 'vuetify/components'
import { formatInputFault } from '~~/core/catalogue/input'
import { type Question, presetAnswers } from '~~/core/intake'
import { changesOfSet, editedSetSchema } from '~~/core/intake/question-sets'
import { inputFaults } from '~~/core/validation'
import type { QuestionSetView } from '~~/core/views/event-types'
import QuestionFields from '~/components/client/QuestionFields.vue'
import SaveBar from '~/components/desk/SaveBar.vue'
import QuestionList from '~/components/questions/QuestionList.vue'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'
import { sharedKey, useQuestionSets } from '~/stores/question-sets'

/** One set of shared questions, who asks them, and what saving it changes for clients. */

definePageMeta({ layout: 'desk' })

const desk = useDesk()
const sets = useQuestionSets()
const notice = useNotice()
const id = String(useRoute().params['id'])
const isNew = id === 'new'
/** As it is stored; null while it is loaded, and where there is none. */
const stored = shallowRef<Pick<QuestionSetView, 'name' | 'questions' | 'version' | 'usedBy'> | null>(null)
const isLoaded = ref(false)
const name = ref('')
const questions = shallowRef<Question[]>([])
const answers = ref<Record<string, unknown>>({})
const sending = ref(false)

useHead({ title: () => texts.setTemporia(stored.value?.name || texts.newSharedQuestions) })

async function load(): Promise<void> {
  if (!isNew) await sets.load()
  const found = isNew ? { name: '', questions: [], version: 0, usedBy: [] } : sets.rows?.find(row => row.id === id)
  isLoaded.value = true
  stored.value = found ?? null
  name.value = found?.name ?? ''
  questions.value = found?.questions ?? []
}
onMounted(load)

const edited = computed(() => ({ name: name.value.trim(), questions: questions.value }))
const errors = computed(() => Object.fromEntries(
  inputFaults(editedSetSchema.safeParse(edited.value).error, edited.value).map(fault => [fault.path, formatInputFault(fault)]),
))
const isSound = computed(() => Object.keys(errors.value).length === 0)
const isChanged = computed(() => stored.value !== null
  && JSON.stringify(edited.value) !== JSON.stringify({ name: stored.value.name, questions: stored.value.questions }))
const openOnes = computed(() => stored.value?.usedBy.filter(({ state, archived }) => state === 'open' && !archived) ?? [])
const stateOf = ({ state, archived }: QuestionSetView['usedBy'][number]) =>
  archived ? texts.archivedState : state === 'draft' ? texts.draftState : state === 'closed' ? texts.closedState : ''

const isWorded = ({ label }: Question) => label.trim() !== ''
const worded = computed(() => questions.value.filter(isWorded))

/** What clients notice, in sentences. */
const consequences = computed(() => {
  const { added, removed, changed, reordered } = changesOfSet(stored.value?.questions ?? [], questions.value)
  return [
    ...added.filter(isWorded).map(question => texts.newlyAsked(question.label, question.required)),
    ...removed.map(question => texts.noLongerAsked(question.label)),
    ...changed.map(question => texts.askedDifferently(question.label)),
    ...(reordered ? [texts.askedInAnotherOrder] : []),
  ]
})

watch(questions, (asked) => {
  answers.value = { ...presetAnswers(asked), ...answers.value }
})

async function save(): Promise<void> {
  if (!stored.value) return
  sending.value = true
  const done = isNew ? await sets.create(edited.value) : await sets.change(id, stored.value.version, edited.value)
  sending.value = false
  if (!done) return
  notice.show('id' in done ? texts.created : texts.saved)
  if ('id' in done) {
    stored.value = null
    await navigateTo(`/desk/question-sets/${done.id}`, { replace: true })
  } else {
    await load()
  }
}
</script>

<template>
  <div class="set">
    <p v-if="!isLoaded" class="quiet">{{ texts.loading }}</p>
    <p v-else-if="!stored" class="fault" role="alert">{{ sets.fault || texts.thereIsNoSuchSet }} <NuxtLink to="/desk/question-sets">{{ texts.allSharedQuestions }}</NuxtLink></p>
    <template v-else>
      <header>
        <h1>{{ stored.name || texts.newSharedQuestions }}</h1>
        <NuxtLink to="/desk/question-sets">{{ texts.allSharedQuestions }}</NuxtLink>
      </header>
      <div class="columns">
        <section v-if="desk.mayChangeEventTypes" class="bench-panel">
          <label for="set-name">{{ texts.name }}</label>
          <VTextField
            id="set-name" v-model="name" maxlength="80" :placeholder="texts.nameExample" :hint="texts.nameHelp" persistent-hint
            :error-messages="name.trim() || !isChanged ? [] : texts.enterAName" hide-details="auto"
          />
          <QuestionList
            v-model="questions" :new-key="sharedKey"
            :errors="questions.length === 0 ? (isChanged ? { questions: texts.addAtLeastOne } : {}) : errors"
          />
        </section>
        <p v-else class="quiet">{{ texts.onlyOwnersAndCoordinators }}</p>
        <div class="meaning">
          <section>
            <h2>{{ texts.whoAsksThem }}</h2>
            <p v-if="stored.usedBy.length === 0" class="quiet">{{ texts.tickItUnderQuestions }}</p>
            <ul v-else>
              <li v-for="eventType in stored.usedBy" :key="eventType.id">
                <NuxtLink :to="`/desk/event-types/${eventType.id}?panel=questions`">{{ eventType.name }}</NuxtLink> <span class="quiet">{{ stateOf(eventType) }}</span>
              </li>
            </ul>
          </section>
          <section v-if="desk.mayChangeEventTypes && stored.usedBy.length > 0" aria-live="polite">
            <h2>{{ texts.whatSavingChanges }}</h2>
            <p v-if="!isChanged" class="quiet">{{ texts.nothingYet }}</p>
            <p v-else-if="openOnes.length === 0 || consequences.length === 0" class="quiet">{{ texts.notAskedYet }}</p>
            <template v-else>
              <p>{{ texts.clientsOf(openOnes.map(eventType => eventType.name)) }}</p>
              <ul>
                <li v-for="sentence in consequences" :key="sentence">{{ sentence }}</li>
              </ul>
              <p class="quiet">{{ texts.answersStay }}</p>
            </template>
          </section>
          <section v-if="worded.length > 0">
            <h2>{{ texts.asClientsSeeThem }}</h2>
            <div class="booking-form">
              <QuestionFields v-model="answers" :questions="worded" :locale="desk.locale" :errors="{}" />
            </div>
          </section>
        </div>
      </div>
      <SaveBar
        v-if="desk.mayChangeEventTypes" :is-changed="isChanged" :is-sound="isSound" :sending="sending" :fault="sets.fault"
        @save="save" @discard="load"
      />
    </template>
  </div>
</template>

<style src="../../../components/bench/panel.css"></style>

<style src="../../../components/client/booking-form.css"></style>

<style scoped>
.set {
  padding: 18px 24px 0;
}

header {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  justify-content: space-between;
  gap: 8px 24px;
  margin-bottom: 14px;
}

h1 {
  font-size: 24px;
}

h2 {
  font-size: 16px;
  margin-bottom: 4px;
}

.columns {
  display: grid;
  grid-template-columns: minmax(320px, 440px) minmax(280px, 460px);
  gap: 24px 48px;
  padding-bottom: 24px;
}

.columns > section > label {
  font-weight: 600;
}

.meaning {
  display: grid;
  align-content: start;
  gap: 22px;
}

.meaning ul {
  margin: 6px 0;
  padding-left: 18px;
}

.meaning li {
  padding: 3px 0;
}

.booking-form {
  border: 1px solid var(--line);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 16px 20px;
}

@media (max-width: 800px) {
  .columns {
    grid-template-columns: 1fr;
  }
}
</style>
