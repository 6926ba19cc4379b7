<script setup lang="ts">
import { VBtn } from 'vuetify/components'
import { formatNoLongerAllowed } from '~~/core/catalogue/affected-sessions'
import type { Affected, NoLongerAllowed } from '~~/core/event-type/affected-sessions'
import { type Change, describeChange } from '~~/core/event-type/changes'
import { instantToSeconds } from '~~/core/time/civil'
import { plural, formatDay, formatList, formatTime } from '~~/core/time/format'
import AskDialog from '~/components/desk/AskDialog.vue'
import { firstNames } from '~/composables/first-names'

/** What publishing means, in words, before it is done. */

const props = defineProps<{
  changes: readonly Change[]
  difference: { added: number, gone: number }
  /** Null while it is worked out. */
  affected: readonly Affected[] | null
  sending: boolean
  faults: readonly string[]
  hosts: readonly { id: string, name: string }[]
  zone: string
  locale: string
  now: number
}>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ publish: [] }>()

const names = computed(() => firstNames(props.hosts))
function reasonsFor(reasons: readonly NoLongerAllowed[]): string {
  const { zone, locale, now } = props
  return reasons.flatMap(reason => formatNoLongerAllowed(reason, { zone, locale, now, names: names.value })).join(' ')
}
</script>

<template>
  <AskDialog v-model="open" :title="`Publish ${plural(changes.length, 'change')}?`" :width="620">
    <ul>
      <li v-for="change in changes" :key="change.label">{{ describeChange(change) }}<span v-if="!change.forClients" class="quiet"> (clients do not see this)</span></li>
    </ul>
    <p>
      In the next two weeks clients see {{ plural(difference.added, 'new opening') }}, and {{ difference.gone === 0 ? 'none go' : difference.gone === 1 ? '1 goes' : `${difference.gone} go` }}.
    </p>
    <p v-if="affected === null" class="quiet">Looking at what is booked already …</p>
    <p v-else-if="affected.length === 0">Everything booked already would still be allowed.</p>
    <template v-else>
      <p><strong>{{ affected.length === 1 ? 'One session that is booked would no longer be allowed' : `${affected.length} sessions that are booked would no longer be allowed` }}.</strong> {{ affected.length === 1 ? 'It stays' : 'They stay' }} as booked; nobody is told.</p>
      <ul class="affected">
        <li v-for="booked in affected" :key="booked.session.id">
          <NuxtLink :to="`/desk/sessions/${booked.session.id}`" target="_blank">{{ formatDay(instantToSeconds(booked.session.start), zone, locale, now) }} {{ formatTime(instantToSeconds(booked.session.start), zone, locale) }}, {{ formatList(booked.session.clients) }}</NuxtLink>
          <span class="quiet">{{ reasonsFor(booked.reasons) }}</span>
        </li>
      </ul>
    </template>
    <p v-for="fault in faults" :key="fault" class="broken" role="alert">{{ fault }}</p>
    <template #actions>
      <VBtn :loading="sending" @click="emit('publish')">Publish</VBtn>
      <button type="button" class="word" @click="open = false">Keep editing</button>
    </template>
  </AskDialog>
</template>

<style scoped>
.affected {
  max-height: 200px;
  overflow-y: auto;
}

.affected .quiet {
  display: block;
}
</style>
