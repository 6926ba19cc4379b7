<script setup lang="ts">
import { texts } from '~/locales/rotation'
import { VBtn } from 'vuetify/components'
import type { PeopleView } from '~~/core/views/desk'
import AskDialog from '~/components/desk/AskDialog.vue'
import HandOverDialog from '~/components/people/HandOverDialog.vue'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'
import { usePeople } from '~/stores/people'

/** Somebody leaves or is removed: a host's sessions to come are handed over first. */

const props = defineProps<{ person: PeopleView['people'][number] }>()
const emit = defineEmits<{ close: [], left: [] }>()

const desk = useDesk()
const people = usePeople()
const notice = useNotice()
const isOwn = props.person.member?.own ?? false

async function leave(): Promise<void> {
  const { name, member, host } = props.person
  const done = member ? await people.removeMember(member.id) : host ? await people.removeHost(host.id) : null
  emit('close')
  if (!done) return
  if (!isOwn) {
    notice.show(texts.hasLeft(name))
    emit('left')
    return
  }
  // The session has ended at the server already.
  await desk.signOut().catch(() => {})
  await navigateTo('/desk/sign-in')
}
</script>

<template>
  <HandOverDialog
    v-if="person.host" :model-value="true" :host="{ id: person.host.id, name: person.name }" :leaving="{ isOwn }"
    @update:model-value="emit('close')" @done="people.load" @leave="leave"
  />
  <AskDialog
    v-else :model-value="true" :title="isOwn ? texts.leaveTitle : texts.removeTitle(person.name)" :width="460"
    @update:model-value="emit('close')"
  >
    <p>{{ isOwn ? texts.leaveHint : texts.removeHint(person.name) }}</p>
    <template #actions>
      <LinkButton @click="emit('close')">{{ texts.cancel }}</LinkButton>
      <VBtn @click="leave">{{ isOwn ? texts.leave : texts.remove }}</VBtn>
    </template>
  </AskDialog>
</template>
