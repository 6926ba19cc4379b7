<script setup lang="ts">
import { texts } from '~/locales/host'
import { texts as peopleTexts } from '~/locales/people'
import { VSelect } from 'vuetify/components'
import FeedAddresses from '~/components/people/FeedAddresses.vue'
import { describeShare } from '~~/core/catalogue/shares'
import { describeWeek } from '~~/core/time/hours-text'
import { formatDay, formatTime } from '~~/core/time/format'
import type { HostView } from '~~/core/views/host'
import { useCalls } from '~/composables/calls'
import { poolName } from '~/composables/pool-names'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'

/** What a host works with, what is ahead of them, and their share of it. */

const props = defineProps<{ host: HostView }>()
const emit = defineEmits<{ changed: [] }>()
const desk = useDesk()
const notice = useNotice()
const { fault, act } = useCalls()

const standard = computed(() => props.host.plans?.find(plan => plan.isDefault))
const choices = computed(() => (props.host.plans ?? []).map(({ id, name, shared }) =>
  ({ value: id, title: shared ? texts.sharedPlan(name) : name })))
const weekOf = ({ weekly, hasMore }: NonNullable<HostView['plans']>[number]) => {
  const week = weekly.length > 0 ? describeWeek(weekly, desk.locale) : peopleTexts.noWeeklyHours
  return hasMore ? peopleTexts.andMore(week) : week
}

async function chooseDefault(planId: string): Promise<void> {
  const done = await act(() => $fetch(`/api/desk/hosts/${props.host.id}/default-hours`, { method: 'POST', body: { planId } }))
  if (done) notice.show(texts.hoursAreChosen)
  emit('changed')
}

const rounded = (target: number) => String(Math.round(target * 10) / 10)
const isBroken = computed(() => props.host.video.state === 'none' || props.host.video.state === 'lost')
</script>

<template>
  <div class="side">
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <section v-if="host.plans" aria-labelledby="host-hours">
      <h2 id="host-hours">{{ texts.hours }}</h2>
      <VSelect
        v-if="host.mayChange && host.plans.length > 1" :label="texts.defaultHours" :model-value="standard?.id" :items="choices" hide-details
        @update:model-value="chooseDefault($event ?? '')"
      />
      <p v-if="standard">{{ weekOf(standard) }} <NuxtLink :to="`/desk/hours/${standard.id}`">{{ host.mayChange && !standard.shared ? texts.change : texts.see }}</NuxtLink></p>
    </section>
    <section aria-labelledby="host-video">
      <h2 id="host-video">{{ texts.video }}</h2>
      <p :class="{ broken: isBroken }">{{ texts.videoStates[host.video.state](host.video.label) }} <NuxtLink v-if="host.mayChange" to="/desk/connections">{{ isBroken ? texts.connect : texts.change }}</NuxtLink></p>
    </section>
    <section v-if="host.calendars" aria-labelledby="host-calendars">
      <h2 id="host-calendars">{{ texts.calendars }}</h2>
      <p v-for="line in host.calendars.faults" :key="line" class="broken">{{ line }}</p>
      <p :class="{ broken: host.calendars.blocking.length === 0 }">{{ host.calendars.blocking.length > 0 ? texts.blockedBy(host.calendars.blocking) : texts.nothingBlocks }} {{ host.calendars.receiving ? texts.sessionsGoInto(host.calendars.receiving) : '' }} <NuxtLink :to="{ path: '/desk/connections', query: { host: host.id } }">{{ host.calendars.blocking.length > 0 ? texts.seeCalendars : texts.connect }}</NuxtLink></p>
    </section>
    <section v-if="host.mayChange" aria-labelledby="host-feeds">
      <h2 id="host-feeds">{{ texts.feeds }}</h2>
      <FeedAddresses :host-id="host.id" />
    </section>
    <section aria-labelledby="host-coming">
      <h2 id="host-coming">{{ texts.coming }}</h2>
      <p v-if="host.comingCount === 0" class="quiet">{{ texts.nothingComing }}</p>
      <p v-else-if="host.coming.length === 0" class="quiet">{{ texts.comingHidden(host.comingCount) }}</p>
      <ul v-else>
        <li v-for="row in host.coming" :key="row.id">
          <NuxtLink v-if="row.open" :to="`/desk/sessions/${row.id}`">{{ formatDay(row.start, desk.zone, desk.locale, desk.now) }}, {{ formatTime(row.start, desk.zone, desk.locale) }}</NuxtLink>
          <template v-else>{{ formatDay(row.start, desk.zone, desk.locale, desk.now) }}, {{ formatTime(row.start, desk.zone, desk.locale) }}</template>
          {{ ' ' }}<span class="quiet">{{ row.eventType }}<template v-if="row.clients.length > 0">: <bdi>{{ row.clients.map(client => client.name).join(', ') }}</bdi></template></span>
        </li>
      </ul>
      <p v-if="host.coming.length > 0 && host.comingCount > host.coming.length"><NuxtLink :to="{ path: '/desk/sessions', query: { host: host.id } }">{{ texts.allComing(host.comingCount) }}</NuxtLink></p>
    </section>
    <section aria-labelledby="host-shares">
      <h2 id="host-shares">{{ texts.shares(host.days) }}</h2>
      <p v-if="host.shares.length === 0" class="quiet">{{ texts.noShares }}</p>
      <dl>
        <template v-for="{ own, total, ...pool } in host.shares" :key="pool.id">
          <dt><NuxtLink :to="`/desk/rotation/${pool.id}`">{{ poolName(pool) }}</NuxtLink></dt>
          <dd>
            {{ texts.hadOf(own.had, total) }}{{ own.target !== null && total > 0 ? texts.targetIs(rounded(own.target)) : '' }}
            <span v-if="own.reasons.length > 0" class="quiet">{{ describeShare(own.reasons) }}</span>
          </dd>
        </template>
      </dl>
    </section>
  </div>
</template>

<style scoped>
section + section {
  margin-top: 22px;
}

section > p,
section > ul,
dl {
  margin: 6px 0 0;
}

.v-select {
  margin-top: 8px;
  max-width: 360px;
}

ul {
  list-style: none;
  padding: 0;
}

li {
  padding: 5px 0;
  border-top: 1px solid var(--line);
}

dl {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
  gap: 6px 18px;
}

dd {
  margin: 0;
}

dd .quiet {
  display: block;
}
</style>
