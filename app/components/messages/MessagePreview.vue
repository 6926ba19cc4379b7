<script setup lang="ts">
import { texts } from '~/locales/messages'
import { variations } from '~~/core/messages/wording'
import MessagePart from '~/components/messages/MessagePart.vue'
import { useMessages } from '~/stores/messages'
import { useNotice } from '~/stores/notice'

/** A message as it is being worded, as its readers will see it. */

const messages = useMessages()
const notice = useNotice()
const isText = ref(false)
const sending = ref(false)

async function send(): Promise<void> {
  sending.value = true
  const sent = await messages.sendTest()
  sending.value = false
  if (sent) notice.show(texts.sent(sent.to))
}
</script>

<template>
  <div v-if="messages.preview" class="preview">
    <p class="choices">
      <strong>{{ texts.as }}</strong> {{ messages.preview.client ?? texts.madeUp }}
      <LinkButton v-if="messages.preview.client" @click="messages.booking++">{{ texts.anotherBooking }}</LinkButton>
      <strong>{{ texts.with }}</strong>
      <LinkButton
        v-for="variation in variations" :key="variation" :aria-pressed="messages.variation === variation"
        :class="{ chosen: messages.variation === variation }"
        @click="messages.variation = messages.variation === variation ? null : variation"
      >{{ texts.variations[variation] }}</LinkButton>
    </p>
    <p v-if="messages.preview.faults.length > 0" class="quiet">{{ texts.previewFaulty }}</p>
    <article v-if="messages.preview.size" class="phone">
      <p dir="auto">{{ messages.preview.plain }}</p>
    </article>
    <p v-if="messages.preview.size" class="quiet">{{ texts.length(messages.preview.size.characters, messages.preview.size.parts) }}</p>
    <article v-else :class="{ text: isText }">
      <h3><MessagePart v-for="(part, index) in messages.preview.subject" :key="index" :part="part" is-line /></h3>
      <pre v-if="isText">{{ messages.preview.plain }}</pre>
      <MessagePart v-for="(part, index) in messages.preview.text" v-else :key="index" :part="part" />
    </article>
    <p class="actions">
      <LinkButton :loading="sending" :disabled="messages.preview.faults.length > 0" @click="send">{{ texts.sendToMe }}</LinkButton>
      <LinkButton v-if="!messages.preview.size" @click="isText = !isText">{{ isText ? texts.asMail : texts.asText }}</LinkButton>
    </p>
  </div>
</template>

<style scoped>
.preview {
  display: grid;
  gap: 10px;
}

.choices,
.actions {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 2px 10px;
}

.chosen {
  background: var(--marigold-tint) !important;
  color: var(--ink) !important;
}

article {
  background: var(--surface);
  border: 1px solid var(--line);
  border-left: 3px solid var(--marigold);
  border-radius: var(--corner);
  padding: 16px 18px;
  display: grid;
  gap: 12px;
  min-width: 0;
  overflow-wrap: anywhere;
}

article.phone {
  border-left: 1px solid var(--line);
  border-bottom-left-radius: 0;
  max-width: 320px;
}

.phone p {
  white-space: pre-line;
}

h3 {
  font: 700 15px/1.4 var(--body);
  letter-spacing: 0;
}

pre {
  margin: 0;
  white-space: pre-wrap;
  font: 12.5px/1.5 ui-monospace, 'DejaVu Sans Mono', monospace;
}
</style>
