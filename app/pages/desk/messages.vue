<script setup lang="ts">
import { texts } from '~/locales/messages'
import { VSelect } from 'vuetify/components'
import { messageTimeline } from '~~/core/messages/timeline'
import { audienceOf } from '~~/core/messages/own'
import { type WordedMessage, wordedMessageSchema } from '~~/core/messages/wording'
import MessageEditor from '~/components/messages/MessageEditor.vue'
import MessagePreview from '~/components/messages/MessagePreview.vue'
import MessageTimeline from '~/components/messages/MessageTimeline.vue'
import OwnMessageDialog from '~/components/messages/OwnMessageDialog.vue'
import { useDesk } from '~/stores/desk'
import { useMessages } from '~/stores/messages'

/** What is sent, when and to whom; the words of one message; and how it looks to its readers. */

definePageMeta({ layout: 'desk' })
useHead({ title: texts.title })

const desk = useDesk()
const messages = useMessages()
const route = useRoute()

const ALL = ''
const chosen = computed(() => (typeof route.query['eventType'] === 'string' ? route.query['eventType'] : ALL))
const message = computed((): WordedMessage | null => {
  const [occasion, audience = ''] = String(route.query['message'] ?? 'booked.client').split('.')
  if (occasion === 'own') {
    const added = messages.view?.own.find(({ id }) => id === audience)
    return added ? { occasion, audience: audienceOf(added), by: added.by, ownId: added.id } : null
  }
  const named = wordedMessageSchema.safeParse({ occasion, audience }).data
  return named ? { ...named, by: 'mail', ownId: null } : null
})
const choices = computed(() => [
  { value: ALL, title: texts.wholeWorkspace }, ...(messages.view?.eventTypes ?? []).map(({ id, name }) => ({ value: id, title: name })),
])
const choose = (id: string) => navigateTo({ query: { ...route.query, eventType: id || undefined } })

watch(chosen, async (id) => {
  messages.text = null
  await messages.load(id || null)
  await messages.open(message.value)
}, { immediate: import.meta.client })
watch(message, item => messages.open(item))

const PAUSE_MS = 150
let timer: ReturnType<typeof setTimeout> | undefined
watch(() => [messages.wording, messages.booking, messages.variation], () => {
  clearTimeout(timer)
  timer = setTimeout(messages.loadPreview, PAUSE_MS)
})
onBeforeUnmount(() => clearTimeout(timer))

const readers = computed(() => {
  const { view } = messages
  if (!view || !message.value) return []
  const moments = messageTimeline({ ...view, isEventType: view.eventType !== null, observers: view.observers.length > 0 })
  const { occasion, audience, ownId } = message.value
  const rows = moments.flatMap(moment => moment.rows)
  return rows.find(row => row.occasion === occasion && (row.own?.id ?? null) === ownId)?.readers[audience] ?? []
})
const isAdding = ref(false)
const own = computed(() => messages.view?.changed.filter(({ source, ownId }) => ownId === null && source === (messages.eventType ? 'eventType' : 'workspace')).length ?? 0)

const hasUnsaved = computed(() => Object.keys(messages.drafts).length > 0)
onBeforeRouteLeave(() => {
  if (hasUnsaved.value && !window.confirm(texts.leave)) return false
  messages.drafts = {}
  return true
})
const warn = (event: BeforeUnloadEvent) => {
  if (hasUnsaved.value) event.preventDefault()
}
onMounted(() => window.addEventListener('beforeunload', warn))
onBeforeUnmount(() => window.removeEventListener('beforeunload', warn))
</script>

<template>
  <p v-if="!desk.mayChangeEventTypes" class="lone quiet">{{ texts.only }}</p>
  <div v-else class="messages">
    <section class="sent">
      <p v-if="!messages.view" :class="messages.fault ? 'broken' : 'quiet'">{{ messages.fault || texts.loading }}</p>
      <template v-else>
        <h1>{{ texts.whatIsSent(messages.view.eventType?.name ?? null) }}</h1>
        <p class="quiet">{{ messages.view.eventType ? texts.ownOfEventType(own) : texts.ownOfWorkspace(own) }}</p>
        <VSelect
          class="which" :label="texts.messagesOf" :model-value="chosen" :items="choices" hide-details @update:model-value="choose"
        />
        <MessageTimeline :view="messages.view" />
        <LinkButton class="add" @click="isAdding = true">{{ texts.addAMessage }}</LinkButton>
        <OwnMessageDialog v-if="isAdding" v-model="isAdding" :added="null" />
      </template>
    </section>
    <section v-if="messages.view" class="words">
      <MessageEditor v-if="message" :key="`${chosen} ${message.occasion} ${message.ownId ?? message.audience}`" :readers="readers" />
      <p v-else class="quiet">{{ texts.noSuchMessage }}</p>
    </section>
    <section v-if="messages.view && message" class="look">
      <MessagePreview />
    </section>
  </div>
</template>

<style scoped>
.messages {
  display: grid;
  grid-template-columns: minmax(0, 430px) minmax(0, 1fr) minmax(0, 1fr);
  min-height: calc(100vh - 48px);
  align-items: stretch;
}

.messages > section {
  padding: 18px 20px 32px;
  border-left: 1px solid var(--line);
  min-width: 0;
}

.messages > .sent {
  padding-left: 24px;
  border-left: 0;
}

.words {
  background: var(--surface);
}

.lone {
  padding: 24px;
}

h1 {
  font-size: 24px;
}

.which {
  margin-top: 12px;
}

.add {
  margin-top: 14px;
}

@media (max-width: 1100px) {
  .messages {
    grid-template-columns: minmax(0, 1fr);
    min-height: 0;
  }

  .messages > section {
    border-left: 0;
    border-top: 1px solid var(--line);
    padding-left: 24px;
  }
}
</style>
