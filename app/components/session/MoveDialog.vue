<script setup lang="ts">
import { texts } from '~/locales/session'
import { VBtn, VRadio, VRadioGroup, VTextField } from 'vuetify/components'
import { formatInstant } from '~~/core/time/civil'
import { formatDay, formatList, formatTime, formatZone } from '~~/core/time/format'
import type { SessionView } from '~~/core/views/desk'
import AskDialog from '~/components/desk/AskDialog.vue'
import DateField from '~/components/fields/DateField.vue'
import TimesToChoose from '~/components/timetable/TimesToChoose.vue'
import { useEventTypeOpenings, useTurnedOpenings } from '~/composables/event-type-openings'
import { problemOf } from '~/composables/problem'
import { useTypedTime } from '~/composables/typed-time'
import { useDesk } from '~/stores/desk'

/** Another time for one client's booking or for the whole session: from the openings, or any other after a warning. */

const props = defineProps<{ session: SessionView, booking: SessionView['bookings'][number] }>()
const emit = defineEmits<{ moved: [sessionId: string], close: [] }>()
const desk = useDesk()

const isOpen = ref(true)
watch(isOpen, open => open || emit('close'))
const standing = computed(() => props.session.bookings.filter(({ state }) => state === 'confirmed' || state === 'awaitingApproval'))
const who = ref<'one' | 'all'>('one')
const openings = useEventTypeOpenings(
  `/api/desk/bookings/${props.booking.id}`, desk.now, (): Record<string, string> => ({ whole: who.value === 'all' ? 'yes' : 'no' }),
)
const { starts, firstDay, isAtStart, fault: loadFault, begin, turn } = useTurnedOpenings(openings)
onMounted(begin)
watch(who, begin)
const chosen = ref<number | null>(null)
const fault = ref('')
/** Why clients could not book the time; it can be moved there all the same. */
const warnings = ref<string[]>([])
const sending = ref(false)

function choose(at: number): void {
  chosen.value = at
  fault.value = ''
  warnings.value = []
}

const { date, clock, typed } = useTypedTime(() => desk.zone)
watch(typed, at => (at === null ? undefined : choose(at)))

const stamp = (at: number) => `${formatDay(at, desk.zone, desk.locale, desk.now)}, ${formatTime(at, desk.zone, desk.locale)}`
const told = computed(() => formatList([
  ...(who.value === 'all' ? standing.value : [props.booking]).map(({ client }) => client.name), ...props.session.hosts.map(({ name }) => name),
]))

async function move(): Promise<void> {
  if (chosen.value === null) return
  sending.value = true
  fault.value = ''
  try {
    const { sessionId } = await $fetch<{ sessionId: string }>(`/api/desk/bookings/${props.booking.id}/move`, {
      method: 'POST',
      body: { start: formatInstant(chosen.value), whole: who.value === 'all', despite: warnings.value.length > 0 },
    })
    emit('moved', sessionId)
  } catch (error) {
    const { message, document } = problemOf(error)
    warnings.value = document?.reasons ?? []
    if (warnings.value.length === 0) fault.value = message
  } finally {
    sending.value = false
  }
}
</script>

<template>
  <AskDialog v-model="isOpen" :title="texts.moveTitle(booking.client.name)" :width="1040">
    <p class="quiet">{{ texts.nowAt(stamp(session.start)) }} {{ texts.movedIsTold(told) }}</p>
    <VRadioGroup v-if="standing.length > 1" v-model="who" :label="texts.whoMoves" density="compact" hide-details>
      <VRadio value="one" :label="texts.onlyThisClient(booking.client.name)" />
      <VRadio value="all" :label="texts.everybodyOfTheSession(standing.length)" />
    </VRadioGroup>
    <p v-if="starts === null && !loadFault" class="quiet">{{ texts.loading }}</p>
    <div v-else-if="starts" class="times">
      <TimesToChoose
        :starts="starts" :first-day="firstDay" :is-at-start="isAtStart" :zone="desk.zone"
        :other-zone="booking.client.timeZone" :locale="desk.locale" :now="desk.now" :chosen="chosen"
        :title="texts.openingsIn(formatZone(desk.zone))" fault="" @choose="choose" @turn="turn"
      />
    </div>
    <div class="other">
      <span class="quiet">{{ texts.anotherTime }}</span>
      <DateField v-model="date" :locale="desk.locale" :label="texts.date" />
      <VTextField v-model="clock" :label="texts.timeOfDay" :placeholder="texts.timeExample" hide-details="auto" />
    </div>
    <p v-if="chosen !== null">
      <strong>{{ stamp(chosen) }}</strong> {{ openings.withOtherHosts.has(chosen) ? texts.withOtherHosts : '' }}
    </p>
    <div v-if="warnings.length > 0" role="alert">
      <p>{{ texts.clientsCouldNotBookIt }}</p>
      <ul><li v-for="warning in warnings" :key="warning">{{ warning }}</li></ul>
    </div>
    <p v-if="fault || loadFault" class="broken" role="alert">{{ fault || loadFault }}</p>
    <template #actions>
      <VBtn
        :disabled="chosen === null" :loading="sending" @click="move"
      >{{ warnings.length > 0 ? texts.moveAllTheSame : texts.moveAndTell }}</VBtn>
      <LinkButton @click="isOpen = false">{{ texts.keepTheTime }}</LinkButton>
    </template>
  </AskDialog>
</template>

<style scoped>
.times {
  max-height: 46vh;
  overflow-y: auto;
}

.times :deep(.times-head) {
  margin-top: 0;
}

.other {
  display: flex;
  flex-wrap: wrap;
  align-items: start;
  gap: 8px 18px;
}

.other > span {
  padding-top: 9px;
}

.other > :not(span) {
  flex: 0 1 190px;
}
</style>
