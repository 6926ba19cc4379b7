<script setup lang="ts">
import { texts } from '~/locales/connections'
import { describeFault } from '~~/core/catalogue/faults'
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
const share = computed(() => {
  const { plan } = props.account
  return plan === null || plan.rooms === null ? 0 : plan.roomsUsed >= plan.rooms ? 1 : plan.roomsUsed / plan.rooms
})
const isFull = computed(() => share.value === 1)
const text = computed(() => {
  const { account } = props
  if (account.state === 'waiting') return texts.waitsForApproval(account.name)
  if (account.state === 'lost') return texts.accountLost(account.name)
  if (account.refusal) return texts.refuses(since.value, describeFault(account.refusal.fault))
  if (isFull.value) return texts.allowsNoMore
  return account.lookedAt === null ? texts.notTriedYet : texts.worksTried(formatAgo(account.lookedAt, desk.now, desk.locale))
})
const isBroken = computed(() => props.account.state === 'lost' || props.account.refusal !== null || isFull.value)
</script>

<template>
  <span :class="{ broken: isBroken }">{{ text }}</span>{{ ' ' }}
  <LinkButton v-if="mayLook && account.state !== 'lost'" :disabled="looking" :aria-label="texts.tryNowNamed(account.name)" @click="look">{{ looking ? texts.looking : texts.tryNow }}</LinkButton>
  <span v-if="account.waiting > 0" class="line broken">{{ texts.sessionsWait(account.waiting) }}</span>
  <span v-if="account.plan" class="line" :class="share > 0.9 ? 'broken' : 'quiet'">{{ texts.planOf(account.plan) }}</span>
</template>

<style scoped>
.line {
  display: block;
  font-size: 13px;
}
</style>
