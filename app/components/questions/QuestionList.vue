<script setup lang="ts">
import { texts } from '~/locales/questions'
import { VBtn } from 'vuetify/components'
import { commonQuestions, answerTypes } from '~~/core/catalogue/event-type'
import type { Question } from '~~/core/intake'
import QuestionEditor from './QuestionEditor.vue'
import { useReorder } from '~/composables/reorder'

/** Questions being written. One at a time is open; keys stay as they are, so that answers stay with their question. */

const props = defineProps<{
  /** What is wrong, by paths such as `questions.0.label`. */
  errors: Readonly<Record<string, string>>
  /** Questions that are asked beside these. */
  others?: readonly Question[]
  /** The key of a question that is added; a number of its own where none is given. */
  newKey?: () => string
}>()
const questions = defineModel<Question[]>({ required: true })

const list = useTemplateRef<HTMLElement>('list')
const open = ref<string | null>(questions.value[0]?.key ?? null)

function set(changed: Question[]): void {
  questions.value = changed
}

/** What many ask, as far as it is not asked already. */
const readyMade = computed(() =>
  commonQuestions.filter(common => ![...questions.value, ...props.others ?? []].some(question => question.label === common.label)),
)

function numberedKey(): string {
  const taken = new Set(questions.value.map(question => question.key))
  let number = questions.value.length + 1
  while (taken.has(`question${number}`)) number++
  return `question${number}`
}

async function add(question: Pick<Question, 'kind' | 'label'>): Promise<void> {
  open.value = props.newKey?.() ?? numberedKey()
  set([...questions.value, { key: open.value, required: false, ...question }])
  await nextTick()
  list.value?.querySelector<HTMLElement>('li:last-child input')?.focus()
}

const change = (index: number, question: Question) => set(questions.value.map((item, i) => (i === index ? question : item)))
const { move, handle, row } = useReorder(() => questions.value, set)
const remove = (index: number) => set(questions.value.filter((_, i) => i !== index))

/** What is wrong with one question, by the names of its parts. */
function faultsOf(errors: Readonly<Record<string, string>>, index: number): Record<string, string> {
  const prefix = `questions.${index}.`
  return Object.fromEntries(
    Object.entries(errors)
      .filter(([path]) => path.startsWith(prefix))
      .map(([path, message]) => [path.slice(prefix.length).split('.')[0] ?? '', message]),
  )
}
</script>

<template>
  <div class="questions">
    <p v-if="errors['questions']" class="broken" role="alert">{{ errors['questions'] }}</p>
    <ol ref="list">
      <li v-for="(question, index) in questions" :key="question.key" v-bind="row(index)">
        <div class="head">
          <button
            type="button" class="handle" v-bind="handle(index)"
            :aria-label="texts.dragOrMoveQuestion(index + 1, question.label || texts.noWordingYet)"
          >⠿</button>
          <button
            type="button" class="title" :aria-expanded="open === question.key"
            @click="open = open === question.key ? null : question.key"
          >
            <strong>{{ question.label || texts.noWording }}</strong>
            <span class="quiet">{{ answerTypes[question.kind] }}{{ question.required ? texts.commaRequired : '' }}{{ question.showIf ? texts.sometimes : '' }}</span>
          </button>
          <span v-if="open !== question.key && Object.keys(faultsOf(errors, index)).length > 0" class="broken">{{ texts.needsACorrection }}</span>
        </div>
        <QuestionEditor
          v-if="open === question.key" :question="question" :index="index" :count="questions.length"
          :before="questions.slice(0, index)" :errors="faultsOf(errors, index)"
          @change="change(index, $event)" @move="move(index, index + $event)" @remove="remove(index)"
        />
      </li>
    </ol>
    <p class="add">
      <LinkButton @click="add({ kind: 'text', label: '' })">{{ texts.addAQuestion }}</LinkButton>
    </p>
    <p v-if="readyMade.length > 0" class="quiet hint">{{ texts.orAddACommonOne }}</p>
    <p class="ready-made">
      <VBtn
        v-for="question in readyMade" :key="question.label" variant="outlined" size="small" @click="add(question)"
      >{{ question.label }}</VBtn>
    </p>
  </div>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 8px 0 12px;
  padding: 0;
}

li {
  border-top: 1px solid var(--line);
  padding: 6px 0;
}

li.over {
  border-top: 2px solid var(--marigold);
}

.head {
  display: flex;
  align-items: baseline;
  gap: 8px;
}

.handle {
  border: 0;
  background: none;
  color: var(--quiet);
  cursor: grab;
  min-width: 24px;
  min-height: 24px;
  touch-action: none;
}

.title {
  flex: 1;
  border: 0;
  background: none;
  padding: 2px 0;
  text-align: left;
  cursor: pointer;
}

.title .quiet {
  display: block;
  font-size: 12.5px;
}
.ready-made {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-top: 6px;
}
</style>
