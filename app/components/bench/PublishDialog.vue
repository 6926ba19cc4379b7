<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VBtn } from 'vuetify/components'
import { capitalise } from '~~/core/catalogue/capitalise'
import { formatNoLongerAllowed } from '~~/core/catalogue/affected-sessions'
import type { Affected, NoLongerAllowed } from '~~/core/event-type/affected-sessions'
import { describeChange } from '~~/core/event-type/changes'
import type { OpeningsDifference } from '~~/core/event-type/consequences'
import { instantToSeconds } from '~~/core/time/civil'
import { formatDay, formatList, formatTime } from '~~/core/time/format'
import AskDialog from '~/components/desk/AskDialog.vue'
import { firstNames } from '~/composables/first-names'
import { useBench } from '~/stores/bench'
import { useDesk } from '~/stores/desk'

/** What publishing means, in words, before it is done. */

const props = defineProps<{
  /** Null while it is counted. */
  difference: OpeningsDifference | null
  /** Null while it is worked out. */
  affected: readonly Affected[] | null
  sending: boolean
  faults: readonly string[]
}>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ publish: [opens: boolean] }>()
const bench = useBench()
const desk = useDesk()
const state = computed(() => bench.draft?.state ?? 'draft')
const when = (at: number) => `${formatDay(at, desk.zone, desk.locale, bench.now)} ${formatTime(at, desk.zone, desk.locale)}`

const clientsSee = computed(() => {
  const { gained, lost } = props.difference ?? { gained: 0, lost: 0 }
  if (gained === 0 && lost === 0) return texts.clientsSeeTheSame
  const parts = [
    ...(gained > 0 ? [texts.gain(texts.openingCount(gained))] : []),
    ...(lost > 0 ? [texts.lose(texts.openingCount(lost))] : []),
  ]
  return texts.clientsGainOrLose(formatList(parts))
})
const names = computed(() => firstNames(bench.hosts))
function reasonsFor(reasons: readonly NoLongerAllowed[]): string {
  const reader = { zone: desk.zone, locale: desk.locale, now: bench.now, names: names.value, ownHost: bench.ownHost }
  return reasons.flatMap(reason => formatNoLongerAllowed(reason, reader)).join(' ')
}
</script>

<template>
  <AskDialog v-model="open" :title="texts.publishQuestion(texts.changeCount(bench.changes.length))" :width="620">
    <ul>
      <li v-for="change in bench.changes" :key="change.label">{{ describeChange(change) }}<span v-if="!change.forClients" class="quiet">{{ texts.clientsDoNotSeeThis }}</span></li>
    </ul>
    <p v-if="difference === null" class="quiet">{{ texts.countingOpenings }}</p>
    <p v-else>{{ state === 'draft' ? texts.onceItIsOpen(clientsSee) : capitalise(clientsSee) }}</p>
    <p v-if="affected === null" class="quiet">{{ texts.checkingWhatIsAlreadyBooked }}</p>
    <p v-else-if="affected.length === 0">{{ texts.nothingBookedIsAffected }}</p>
    <template v-else>
      <p><strong>{{ affected.length === 1 ? texts.oneSessionIsAffected : texts.sessionsAreAffected(affected.length) }}.</strong> {{ texts.asBookedAndNobodyIsNotified(affected.length === 1 ? texts.itStays : texts.theyStay) }}</p>
      <ul class="affected">
        <li v-for="booked in affected" :key="booked.session.id">
          <NuxtLink :to="`/desk/sessions/${booked.session.id}`" target="_blank">{{ when(instantToSeconds(booked.session.start)) }}, {{ formatList(booked.session.clients) }}</NuxtLink>
          <span class="quiet">{{ reasonsFor(booked.reasons) }}</span>
        </li>
      </ul>
    </template>
    <p v-for="fault in faults" :key="fault" class="broken" role="alert">{{ fault }}</p>
    <template #actions>
      <template v-if="state === 'draft'">
        <VBtn :loading="sending" @click="emit('publish', true)">{{ texts.publishAndOpen }}</VBtn>
        <VBtn variant="outlined" :loading="sending" @click="emit('publish', false)">{{ texts.publishAsADraft }}</VBtn>
      </template>
      <VBtn v-else :loading="sending" @click="emit('publish', false)">{{ texts.publishNow }}</VBtn>
      <LinkButton @click="open = false">{{ texts.keepEditing }}</LinkButton>
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
