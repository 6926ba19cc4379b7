<script setup lang="ts">
import { texts } from '~/locales/messages'
import { VBtn, VCard, VCheckbox, VDialog, VSelect, VTextField } from 'vuetify/components'
import { formatInputFault } from '~~/core/catalogue/input'
import { audienceOf, type OwnMessage, ownMessageSchema, type OwnMoment, ownReaders, type OwnReader } from '~~/core/messages/own'
import type { Channel } from '~~/core/messages/occasions'
import { inputFaults } from '~~/core/validation'
import type { MessagesView } from '~~/core/views/messages'
import TimeSpanField from '~/components/bench/TimeSpanField.vue'
import { selectItems } from '~/composables/select-items'
import { useMessages } from '~/stores/messages'
import { useNotice } from '~/stores/notice'

/** When a message of one’s own is sent and to whom: a new one, or one that is changed or removed. */

const props = defineProps<{ added: MessagesView['own'][number] | null }>()
const isOpen = defineModel<boolean>({ required: true })
const messages = useMessages()
const notice = useNotice()
const route = useRoute()

const name = ref(props.added?.name ?? '')
const moment = ref<OwnMoment>(props.added?.moment ?? { kind: 'after', minutes: 120, if: 'notMissed' })
const by = ref<Channel>(props.added?.by ?? 'mail')
const to = ref<OwnReader[]>([...props.added?.to ?? ['client']])
const isSending = ref(false)
// Guests give no number.
watch(by, () => (to.value = to.value.filter(reader => by.value === 'mail' || reader !== 'guests')))
const wasPressed = ref(false)

const definition = computed<OwnMessage>(() => ({
  name: name.value, moment: moment.value, by: by.value, to: ownReaders.filter(reader => to.value.includes(reader)),
}))
const errors = computed(() => Object.fromEntries(
  inputFaults(ownMessageSchema.safeParse(definition.value).error, definition.value).map(fault => [fault.path, formatInputFault(fault)]),
))
const nameFault = computed(() => (wasPressed.value && !name.value.trim() ? texts.enterAName : []))

const first: Record<OwnMoment['kind'], OwnMoment> = {
  before: { kind: 'before', minutes: 1440 }, dayBefore: { kind: 'dayBefore', at: '18:00' }, after: { kind: 'after', minutes: 120, if: 'notMissed' },
  on: { kind: 'on', occasion: 'booked' },
}
const isHostSide = (reader: OwnReader) => audienceOf({ to: [reader] }) === 'host'
/** Ticking one of the other side unticks this one; an existing message stays on its side. */
const isLocked = (reader: OwnReader) => props.added !== null && isHostSide(reader) !== props.added.to.some(isHostSide)
function toggle(reader: OwnReader, ticked: boolean): void {
  const kept = to.value.filter(other => other !== reader && isHostSide(other) === isHostSide(reader))
  to.value = ticked ? [...kept, reader] : to.value.filter(other => other !== reader)
}

async function save(): Promise<void> {
  wasPressed.value = true
  if (Object.keys(errors.value).length > 0) return
  isSending.value = true
  const { added } = props
  const done = added ? await messages.change(added.id, added.version, definition.value) : await messages.add(definition.value)
  isSending.value = false
  if (!done) return
  await messages.load(messages.eventType)
  isOpen.value = false
  if ('id' in done) await navigateTo({ query: { ...route.query, message: `own.${done.id}` } })
}

async function remove(): Promise<void> {
  const { added } = props
  if (!added || !await messages.remove(added.id)) return
  notice.show(texts.removed(added.name))
  isOpen.value = false
  messages.discard()
  await navigateTo({ query: { ...route.query, message: undefined } })
  await messages.load(messages.eventType)
}
</script>

<template>
  <VDialog v-model="isOpen" max-width="520">
    <VCard class="own" :aria-label="added ? texts.changeTitle(added.name) : texts.addTitle(messages.view?.eventType?.name ?? null)">
      <form @submit.prevent="save">
        <h2>{{ added ? texts.changeTitle(added.name) : texts.addTitle(messages.view?.eventType?.name ?? null) }}</h2>
        <label for="own-name">{{ texts.ownName }}</label>
        <VTextField id="own-name" v-model="name" maxlength="80" :hint="texts.ownNameHint" persistent-hint :error-messages="nameFault" hide-details="auto" autofocus />
        <VSelect
          :label="texts.when" :model-value="moment.kind" :items="selectItems(texts.moments)" hide-details @update:model-value="moment = first[$event as OwnMoment['kind']]"
        />
        <TimeSpanField
          v-if="moment.kind === 'before' || moment.kind === 'after'" v-model="moment.minutes"
          :label="moment.kind === 'before' ? texts.howLongBefore : texts.howLongAfter" :error="errors['moment.minutes']"
        />
        <VTextField v-if="moment.kind === 'dayBefore'" v-model="moment.at" :label="texts.timeOfDay" :error-messages="errors['moment.at'] ?? []" hide-details="auto" />
        <VSelect v-if="moment.kind === 'on'" v-model="moment.occasion" :label="texts.whatHappens" :items="selectItems(texts.occasions)" hide-details />
        <VSelect v-if="moment.kind === 'after'" v-model="moment.if" :label="texts.forWhom" :items="selectItems(texts.ifs)" hide-details />
        <VSelect
          v-if="messages.view?.canText || by === 'phone'" v-model="by" :label="texts.how" :items="selectItems(texts.howChoices)" :disabled="added !== null"
          :hint="by === 'phone' ? texts.phoneHint : ''" persistent-hint hide-details="auto"
        />
        <fieldset>
          <legend>{{ texts.sentTo }}</legend>
          <VCheckbox
            v-for="reader in ownReaders" :key="reader" :model-value="to.includes(reader)" :label="texts.ownReaders[reader]"
            :disabled="isLocked(reader) || (by === 'phone' && reader === 'guests')" hide-details @update:model-value="toggle(reader, $event === true)"
          />
          <p class="quiet">{{ texts.twoSidesHint }}</p>
          <p v-if="errors['to']" class="broken" role="alert">{{ errors['to'] }}</p>
        </fieldset>
        <p v-if="messages.fault" class="broken" role="alert">{{ messages.fault }}</p>
        <div class="actions">
          <VBtn type="submit" :loading="isSending">{{ added ? texts.saveChanges : texts.add }}</VBtn>
          <LinkButton @click="isOpen = false">{{ texts.close }}</LinkButton>
          <LinkButton v-if="added" class="remove" @click="remove">{{ texts.remove }}</LinkButton>
        </div>
      </form>
    </VCard>
  </VDialog>
</template>

<style scoped>
.own {
  padding: 20px 24px;
}

form {
  display: grid;
  gap: 12px;
}

h2 {
  font-size: 19px;
}

label,
legend {
  font-weight: 600;
  padding: 0;
}

fieldset {
  border: 0;
  margin: 0;
  padding: 0;
}

fieldset .quiet {
  font-size: 12.5px;
}

.actions {
  display: flex;
  align-items: center;
  gap: 18px;
}

.remove {
  margin-left: auto;
}
</style>
