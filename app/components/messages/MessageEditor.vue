<script setup lang="ts">
import { texts } from '~/locales/messages'
import { VBtn, VExpansionPanel, VExpansionPanels, VTextarea } from 'vuetify/components'
import { occasionName, occasionTable } from '~~/core/messages/occasions'
import type { Reader } from '~~/core/messages/timeline'
import { SUBJECT_CHARACTERS, TEXT_CHARACTERS } from '~~/core/messages/wording'
import { formatRelativeDay, formatTime } from '~~/core/time/format'
import OwnMessageDialog from '~/components/messages/OwnMessageDialog.vue'
import { useDesk } from '~/stores/desk'
import { useMessages } from '~/stores/messages'
import { useNotice } from '~/stores/notice'

/** The words of one message: subject and text, the fields they can use, what is wrong with them, and how they were before. */

defineProps<{ readers: readonly Reader[] }>()
const desk = useDesk()
const messages = useMessages()
const notice = useNotice()
const root = ref<HTMLElement | null>(null)
const saving = ref(false)
const allFields = ref(false)
/** Where a field is inserted: where the cursor was last. */
const target = ref<{ part: 'subject' | 'text', at: number } | null>(null)

const added = computed(() => messages.view?.own.find(({ id }) => id === messages.message?.ownId) ?? null)
const name = computed(() => added.value?.name ?? (messages.message ? occasionName(messages.message.occasion) : ''))
const isPhone = computed(() => messages.message?.by === 'phone')
const isChanging = ref(false)
/** Whether it is the event type’s or the workspace’s own, and not one that every event type has. */
const isOurs = computed(() => added.value !== null && added.value.isOfEventType === (messages.eventType !== null))
const faults = computed(() => messages.preview?.faults ?? [])

/** What is looked for most. */
const FIRST_IN_MAIL = ['details', 'manage', 'client.firstName', 'when.date', 'when.time', 'hosts', 'room.link', 'eventType.name']
const FIRST_IN_TEXT = ['client.firstName', 'when.short', 'when.zone', 'place', 'room.link', 'eventType.name', 'booking.page', 'remindersPage']
const printable = computed(() => (messages.text?.fields ?? []).filter(field => texts.fields[field] !== undefined || field.startsWith('answers.')))
const chips = computed(() => {
  const answers = printable.value.filter(field => field.startsWith('answers.'))
  const first = (isPhone.value ? FIRST_IN_TEXT : FIRST_IN_MAIL).filter(field => printable.value.includes(field))
  const others = printable.value.filter(field => !first.includes(field) && !answers.includes(field))
  return [...first, ...answers.slice(0, allFields.value ? undefined : 3), ...allFields.value ? others : []]
})
const has = (field: string) => messages.text?.fields.includes(field) ?? false
const meaning = (field: string) => texts.fieldIs(texts.fields[field] ?? texts.answerField, messages.preview?.values[field] ?? '')

const savedAt = (at: number) => `${formatRelativeDay(at, desk.zone, desk.locale, desk.now)} ${formatTime(at, desk.zone, desk.locale)}`

const lacksDetails = computed(() => {
  const { message, wording } = messages
  return message !== null && wording !== null && occasionTable[message.occasion].calendar === 'REQUEST' && !/\b(details|room\.link)\b/.test(wording.text)
})

function change(part: 'subject' | 'text', value: string): void {
  if (messages.wording) messages.edit({ ...messages.wording, [part]: value })
}

function remember(part: 'subject' | 'text', event: Event): void {
  if (event.target instanceof HTMLTextAreaElement) target.value = { part, at: event.target.selectionStart }
}

async function insert(words: string): Promise<void> {
  const { wording } = messages
  if (!wording) return
  const part = target.value?.part ?? 'text'
  const at = Math.min(target.value?.at ?? wording[part].length, wording[part].length)
  change(part, wording[part].slice(0, at) + words + wording[part].slice(at))
  target.value = { part, at: at + words.length }
  await nextTick()
  const field = root.value?.querySelector<HTMLTextAreaElement>(`#message-${part}`)
  field?.focus()
  field?.setSelectionRange(at + words.length, at + words.length)
}

async function save(): Promise<void> {
  saving.value = true
  if (messages.wording && await messages.save(messages.wording)) notice.show(texts.saved(name.value))
  saving.value = false
}

async function goBack(): Promise<void> {
  if (await messages.save(null)) notice.show(texts.wentBack(name.value))
}

function useTheirs(): void {
  messages.discard()
  void messages.loadPreview()
}
</script>

<template>
  <div v-if="messages.text && messages.wording" ref="root" class="editor">
    <h2>{{ name.charAt(0).toUpperCase() + name.slice(1) }}</h2>
    <p class="quiet">
      {{ texts.to(readers, messages.message?.by ?? 'mail') }}<template v-if="added">, {{ texts.whenOwn(added.moment, desk.locale) }}</template>
      <LinkButton v-if="isOurs" @click="isChanging = true">{{ texts.changeOwn }}</LinkButton>
    </p>
    <OwnMessageDialog v-if="isChanging" v-model="isChanging" :added="added" />
    <div v-if="messages.isOvertaken" class="conflict" role="alert">
      <p>{{ texts.conflict(messages.text.versions[0]?.by ?? texts.someone) }}</p>
      <blockquote class="theirs" dir="auto" tabindex="0"><strong v-if="!isPhone">{{ messages.text.wording.subject }}</strong>{{ messages.text.wording.text }}</blockquote>
      <LinkButton @click="useTheirs">{{ texts.useTheirs }}</LinkButton>
      <LinkButton @click="messages.keepMine">{{ texts.keepMine }}</LinkButton>
    </div>
    <template v-if="!isPhone">
      <label for="message-subject">{{ texts.subject }}</label>
      <VTextarea
        id="message-subject" class="template" :model-value="messages.wording.subject" rows="2" auto-grow hide-details :maxlength="SUBJECT_CHARACTERS"
        @update:model-value="change('subject', $event)" @blur="remember('subject', $event)" @keydown.enter.prevent
      />
    </template>
    <label for="message-text">{{ texts.text }}</label>
    <VTextarea
      id="message-text" class="template" :model-value="messages.wording.text" :rows="isPhone ? 5 : 9" auto-grow hide-details :maxlength="TEXT_CHARACTERS"
      @update:model-value="change('text', $event)" @blur="remember('text', $event)"
    />
    <ul v-if="faults.length > 0" class="faults" role="alert">
      <li v-for="fault in faults" :key="`${fault.part} ${fault.line} ${fault.message}`">
        <strong>{{ fault.part === 'subject' ? texts.inSubject : texts.line(fault.line) }}</strong> {{ fault.message }}
      </li>
    </ul>
    <p v-else-if="isPhone && !messages.view?.canText" class="hint">{{ texts.cannotTextHint }}</p>
    <p v-else-if="lacksDetails" class="hint">{{ texts.noDetails }}</p>
    <h3>{{ texts.insert }}</h3>
    <div class="chips">
      <VBtn v-for="field in chips" :key="field" variant="outlined" size="small" :title="meaning(field)" @click="insert(`{{ ${field} }}`)">{{ field }}</VBtn>
      <VBtn v-if="has('room.link')" variant="outlined" size="small" @click="insert(texts.ifLinkTemplate)">{{ texts.ifLink }}</VBtn>
      <VBtn v-if="has('answerList')" variant="outlined" size="small" @click="insert(texts.eachAnswerTemplate)">{{ texts.eachAnswer }}</VBtn>
      <LinkButton @click="allFields = !allFields">{{ allFields ? texts.fewerFields : texts.moreFields }}</LinkButton>
    </div>
    <p v-if="messages.fault" class="broken" role="alert">{{ messages.fault }}</p>
    <div class="actions">
      <VBtn
        :disabled="!messages.isChanged || faults.length > 0 || messages.isOvertaken" :loading="saving" @click="save"
      >{{ texts.save }}</VBtn>
      <LinkButton v-if="messages.isChanged" @click="useTheirs">{{ texts.discard }}</LinkButton>
      <LinkButton v-else-if="!isOurs && messages.text.source === (messages.eventType ? 'eventType' : 'workspace')" @click="goBack">{{ texts.backTo(messages.text.inheritedFrom) }}</LinkButton>
    </div>
    <VExpansionPanels v-if="messages.text.versions.length > 1" class="versions" variant="accordion" flat>
      <VExpansionPanel :title="texts.versions">
        <template #text>
          <ul>
            <li v-for="version in messages.text.versions.slice(1)" :key="version.version">
              {{ texts.version(savedAt(version.at), version.by, version.wording === null) }}
              <LinkButton v-if="version.wording" @click="messages.edit(version.wording)">{{ texts.takeVersion }}</LinkButton>
            </li>
          </ul>
        </template>
      </VExpansionPanel>
    </VExpansionPanels>
  </div>
  <p v-else class="quiet">{{ messages.fault || texts.loading }}</p>
</template>

<style scoped>
.editor {
  display: grid;
  gap: 8px;
}

h2 {
  font-size: 17px;
}

h3,
label {
  font: 600 14px/1.4 var(--body);
  margin-top: 8px;
  letter-spacing: 0;
}

.template :deep(textarea) {
  font-family: ui-monospace, 'DejaVu Sans Mono', monospace;
  font-size: 13px;
  line-height: 1.55;
}

.faults {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
  color: var(--brick);
}

.hint {
  color: var(--quiet);
  font-size: 12.5px;
}

.chips,
.actions {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
}

.chips .v-btn--variant-outlined {
  color: var(--ink) !important;
  border-color: var(--line);
  font-weight: 400;
  padding-inline: 9px;
}

.actions {
  gap: 16px;
  margin-top: 10px;
}

.conflict {
  padding: 8px 12px;
  border-left: 3px solid var(--brick);
  background: var(--brick-tint);
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}

.conflict p,
.theirs {
  flex-basis: 100%;
}

.theirs {
  max-height: 45vh;
  margin: 4px 0 8px;
  overflow: auto;
  font: 13px/1.55 ui-monospace, 'DejaVu Sans Mono', monospace;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}

.theirs strong {
  display: block;
}

.versions :deep(.v-expansion-panel-title),
.versions :deep(.v-expansion-panel-text__wrapper) {
  padding-inline: 0;
}

.versions ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

.versions li {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 2px 12px;
}
</style>
