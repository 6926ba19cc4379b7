<script setup lang="ts">
import { texts } from '~/locales/rotation'
import { VBtn, VSelect } from 'vuetify/components'
import { formatDay, formatTime } from '~~/core/time/format'
import type { HandOverResult, HandOverView } from '~~/core/views/rotation'
import AskDialog from '~/components/desk/AskDialog.vue'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'
import { useRotation } from '~/stores/rotation'

/** A host's sessions to come, each with who takes it; one session only where it is named. With `leaving`, they go afterwards. */

const props = defineProps<{ host: { id: string, name: string }, sessionId?: string, leaving?: { isOwn: boolean } }>()
const emit = defineEmits<{ done: [], leave: [] }>()
const open = defineModel<boolean>({ required: true })

const desk = useDesk()
const rotation = useRotation()
const notice = useNotice()
const view = shallowRef<HandOverView | null>(null)
const sending = ref(false)
/** By session: a host's id, NEXT for whoever is next in turn, LATER to leave it. */
const choices = ref<Record<string, string>>({})
const results = shallowRef<HandOverResult[]>([])
const [NEXT, LATER] = ['next', 'later']

type Seat = HandOverView['seats'][number]

const seats = computed(() => (view.value?.seats ?? []).filter(seat => props.sessionId === undefined || seat.sessionId === props.sessionId))
const nameOf = (id: string | null) => view.value?.hosts.find(host => host.id === id)?.name ?? ''

onMounted(load)
async function load(): Promise<void> {
  view.value = await rotation.seatsOf(props.host.id)
  choices.value = Object.fromEntries(seats.value.map(seat => [seat.sessionId, seat.proposal ? NEXT : LATER]))
}

function itemsOf(seat: Seat) {
  return [
    ...(seat.proposal ? [{ value: NEXT, title: texts.nextInTurn(nameOf(seat.proposal)) }] : []),
    ...seat.free.filter(id => id !== seat.proposal).map(id => ({ value: id, title: texts.freeToo(nameOf(id)) })),
    ...seat.others.map(id => ({ value: id, title: texts.outsideChair(nameOf(id)) })),
    { value: LATER, title: texts.decideLater },
  ]
}

const wanted = computed(() => seats.value.filter(seat => choices.value[seat.sessionId] !== LATER))
const resultOf = (seat: Seat) => results.value.find(result => result.sessionId === seat.sessionId)
const problemWith = (seat: Seat) => {
  const outcome = resultOf(seat)?.outcome
  return outcome && outcome !== 'handedOver' ? texts.notDone[outcome] : ''
}
const stamp = (instant: number) => `${formatDay(instant, desk.zone, desk.locale, desk.now)} ${formatTime(instant, desk.zone, desk.locale)}`

async function handOver(): Promise<void> {
  sending.value = true
  const done = await rotation.handOver(props.host.id, wanted.value.map(({ sessionId }) => {
    const choice = choices.value[sessionId] ?? NEXT
    return { sessionId, to: choice === NEXT ? null : choice }
  }))
  sending.value = false
  if (!done) return
  // What somebody else has changed meanwhile is looked at again.
  const handed = done.filter(result => result.outcome === 'handedOver')
  const left = seats.value.length - handed.length
  notice.show(seats.value.length === 1 && handed[0] ? texts.handedOverTo(handed[0].to ?? '') : texts.handedOverMany(handed.length, left))
  emit('done')
  if (handed.length === done.length) {
    if (props.leaving) emit('leave')
    open.value = false
    return
  }
  await load()
  results.value = done
}

function leave(): void {
  emit('leave')
  open.value = false
}

const title = computed(() => (!props.leaving ? texts.handOverTitle(props.host.name)
  : props.leaving.isOwn ? texts.leaveTitle : texts.removeTitle(props.host.name)))
const buttonText = computed(() => (!props.leaving ? texts.handOverCount(wanted.value.length)
  : props.leaving.isOwn ? texts.handOverAndLeave(wanted.value.length) : texts.handOverAndRemove(wanted.value.length, props.host.name)))
const kept = computed(() => seats.value.length - wanted.value.length)
</script>

<template>
  <AskDialog v-model="open" :title="title" :width="720">
    <p v-if="leaving">{{ leaving.isOwn ? texts.leaveHint : texts.removeHint(host.name) }}</p>
    <p v-if="leaving && view && view.closes.length > 0">{{ texts.closes(view.closes) }}</p>
    <p v-if="rotation.fault" class="broken" role="alert">{{ rotation.fault }}</p>
    <p v-if="!view" class="quiet">{{ texts.loading }}</p>
    <p v-else-if="seats.length === 0" class="quiet">{{ texts.noSessionsToCome(host.name) }}</p>
    <template v-else>
      <p class="quiet">{{ texts.handOverHint }}</p>
      <ul class="seats">
        <li v-for="seat in seats" :key="seat.sessionId">
          <div>
            <strong>{{ stamp(seat.start) }}</strong>
            <span class="under" dir="auto">{{ seat.clients.join(', ') }}</span>
            <span class="under quiet">{{ seat.eventType }}</span>
          </div>
          <VSelect
            v-if="seat.free.length + seat.others.length > 0" v-model="choices[seat.sessionId]" :items="itemsOf(seat)"
            :label="texts.whoTakesIt" :error-messages="problemWith(seat)" hide-details="auto"
          />
          <p v-else class="broken">{{ texts.nobodyIsFree }}</p>
        </li>
      </ul>
    </template>
    <p v-if="leaving && kept > 0" class="quiet">{{ texts.keptUntilDecided(kept) }}</p>
    <template #actions>
      <LinkButton @click="open = false">{{ wanted.length > 0 ? texts.cancel : texts.close }}</LinkButton>
      <VBtn v-if="wanted.length > 0" :loading="sending" @click="handOver">{{ buttonText }}</VBtn>
      <VBtn v-else-if="leaving && view" @click="leave">{{ leaving.isOwn ? texts.leave : texts.remove }}</VBtn>
    </template>
  </AskDialog>
</template>

<style scoped>
.seats {
  list-style: none;
  padding: 0 !important;
}

.seats li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 330px;
  gap: 6px 18px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 10px 0;
}

.seats .under {
  display: block;
}

@media (max-width: 600px) {
  .seats li {
    grid-template-columns: 1fr;
  }
}
</style>
