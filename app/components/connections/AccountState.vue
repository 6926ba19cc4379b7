<script setup lang="ts">
import { texts } from '~/locales/connections'
import { describeFault } from '~~/core/catalogue/faults'
import { type AccountCondition, conditionOf } from '~~/core/rooms/accounts'
import { DAY } from '~~/core/time/civil'
import { formatAgo, formatDay, formatTime } from '~~/core/time/format'
import type { VideoAccountView } from '~~/core/views/connections'
import { useConnections } from '~/stores/connections'
import { useDesk } from '~/stores/desk'

/** How one account is, whose turn it is where it waits, and what it is allowed. */

const props = defineProps<{ account: VideoAccountView, mayLook: boolean }>()
const desk = useDesk()
const store = useConnections()
const looking = ref(false)

async function look(): Promise<void> {
  looking.value = true
  await store.lookAtVideo(props.account.id)
  looking.value = false
}

const since = computed(() => {
  const { refusedSince } = props.account
  if (refusedSince === null) return ''
  const isToday = desk.now - refusedSince < DAY
  return isToday ? formatTime(refusedSince, desk.zone, desk.locale) : formatDay(refusedSince, desk.zone, desk.locale, desk.now)
})
const condition = computed(() => conditionOf(props.account))
const words: Record<AccountCondition, (account: VideoAccountView) => string> = {
  waiting: ({ name }) => texts.waitsForApproval(name),
  lost: ({ name }) => texts.accountLost(name),
  refused: ({ refusal }) => (refusal ? texts.refuses(since.value, describeFault(refusal.fault)) : ''),
  full: () => texts.allowsNoMore,
  works: ({ lookedAt }) => (lookedAt === null ? texts.notTriedYet : texts.worksTried(formatAgo(lookedAt, desk.now, desk.locale))),
}
const text = computed(() => words[condition.value](props.account))
const isBroken = computed(() => condition.value !== 'works' && condition.value !== 'waiting')
const NEARLY = 0.9
const isNearlyFull = computed(() => {
  const { plan } = props.account
  return plan !== null && plan.rooms !== null && plan.roomsUsed > plan.rooms * NEARLY
})
</script>

<template>
  <span :class="{ broken: isBroken }">{{ text }}</span>{{ ' ' }}
  <LinkButton v-if="mayLook && account.state !== 'lost'" :disabled="looking" :aria-label="texts.tryNowNamed(account.name)" @click="look">{{ looking ? texts.looking : texts.tryNow }}</LinkButton>
  <span v-if="account.waiting > 0" class="line broken">{{ texts.sessionsWait(account.waiting) }}</span>
  <span v-if="account.plan" class="line" :class="isNearlyFull || condition === 'full' ? 'broken' : 'quiet'">{{ texts.planOf(account.plan) }}</span>
</template>

<style scoped>
.line {
  display: block;
  font-size: 13px;
}
</style>
