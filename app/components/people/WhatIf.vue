<script setup lang="ts">
import { texts } from '~/locales/rotation'
import { VBtn, VSelect, VTable, VTextField } from 'vuetify/components'
import { receiveHostTime } from '~~/core/event-type/host-time'
import type { SentWhatIf, WhatIfData, WhatIfHost, WhatIfResult } from '~~/core/rotation/what-if'
import { formatDuration } from '~~/core/time/format'
import { formatHours, parseHours } from '~~/core/time/hours-text'
import ShowAll from '~/components/ShowAll.vue'
import { useFirstRows } from '~/composables/first-rows'
import { problemOf } from '~/composables/problem'

/** The last 90 days' bookings with other weights, hours or hosts, played in a worker. */

const props = defineProps<{ poolId: string, canUse: boolean }>()
const emit = defineEmits<{ use: [weights: WhatIfHost[]] }>()

const data = shallowRef<WhatIfData | null>(null)
const fault = ref('')
const tried = shallowRef<WhatIfHost[]>([])
const now = shallowRef<WhatIfResult | null>(null)
const then = shallowRef<WhatIfResult | null>(null)

let worker: Worker | null = null
let asked = 0
const waiting = new Map<number, (result: WhatIfResult) => void>()

function play(hosts: readonly WhatIfHost[]): Promise<WhatIfResult> {
  const id = ++asked
  worker?.postMessage(JSON.parse(JSON.stringify({ id, hosts })))
  return new Promise(resolve => waiting.set(id, resolve))
}

async function fetchData(...hosts: string[]): Promise<WhatIfData> {
  const sent = await $fetch<SentWhatIf>(`/api/desk/rotation/${props.poolId}/what-if`, { query: { hosts: hosts.join(',') || undefined } })
  return { ...sent, time: receiveHostTime(sent.time) }
}

onMounted(async () => {
  try {
    data.value = await fetchData()
  } catch (error) {
    fault.value = problemOf(error).message
    return
  }
  if (data.value.bookings.length === 0) return
  worker = new Worker(new URL('../../workers/what-if.worker.ts', import.meta.url), { type: 'module' })
  worker.onmessage = ({ data: { id, result } }: MessageEvent<{ id: number, result: WhatIfResult }>) => {
    waiting.get(id)?.(result)
    waiting.delete(id)
  }
  worker.postMessage({ data: data.value })
  tried.value = data.value.pool
  now.value = then.value = await play(data.value.pool)
})
onBeforeUnmount(() => worker?.terminate())

const isSound = computed(() => tried.value.length > 0 && tried.value.every(host => host.weight >= 0.1 && host.weight <= 100))
const hasOtherHours = computed(() => tried.value.some(host => host.weekly))
const isChanged = computed(() => JSON.stringify(tried.value) !== JSON.stringify(data.value?.pool))
let latest = 0
watch(tried, async (hosts) => {
  if (!now.value || !isSound.value) return
  const own = ++latest
  const result = await play(hosts)
  if (own === latest) then.value = result
})

const first = useFirstRows(() => tried.value)
const hostOf = (id: string) => data.value?.hosts.find(host => host.id === id)
const hadBy = (id: string) => data.value?.bookings.filter(booking => booking.host === id).length ?? 0
const outside = computed(() => (data.value?.hosts ?? []).filter(host => !tried.value.some(other => other.id === host.id))
  .map(host => ({ value: host.id, title: host.name })))
const removed = computed(() => (data.value?.pool ?? []).filter(host => !tried.value.some(other => other.id === host.id)))

/** Hours as they are typed while they cannot be read, by host. */
const unread = ref<Record<string, string>>({})
/** Hosts whose hours are open to be tried. */
const hoursShown = ref<string[]>([])
const currentWeek = (id: string) => data.value?.time.find(host => host.id === id)?.plans.find(plan => plan.isDefault)?.plan.weekly ?? []
const hoursText = (host: WhatIfHost) => unread.value[host.id] ?? formatHours(host.weekly ?? currentWeek(host.id))

function setHours(id: string, text: string): void {
  const { [id]: _read, ...others } = unread.value
  try {
    const weekly = parseHours(text)
    unread.value = others
    tried.value = tried.value.map(host => (host.id === id ? { ...host, weekly } : host))
  } catch {
    unread.value = { ...others, [id]: text }
  }
}
function toggleHours({ id }: WhatIfHost): void {
  if (!hoursShown.value.includes(id)) {
    hoursShown.value = [...hoursShown.value, id]
    return
  }
  const { [id]: _dropped, ...others } = unread.value
  unread.value = others
  hoursShown.value = hoursShown.value.filter(other => other !== id)
  tried.value = tried.value.map(host => (host.id === id ? { id, weight: host.weight } : host))
}

/** The time of a host beside the pool is fetched once they are tried. */
async function tryHost(id: string | null): Promise<void> {
  if (!id || !data.value) return
  if (!data.value.time.some(host => host.id === id)) {
    try {
      const more = await fetchData(id)
      data.value = { ...data.value, time: [...data.value.time, ...more.time.filter(host => host.id === id)] }
    } catch (error) {
      fault.value = problemOf(error).message
      return
    }
    worker?.postMessage({ data: data.value })
  }
  tried.value = [...tried.value, { id, weight: 1 }]
}

function setWeight(id: string, text: string): void {
  const weight = text.trim() === '' ? Number.NaN : Number(text.replace(',', '.'))
  tried.value = tried.value.map(host => (host.id === id ? { ...host, weight } : host))
}

const HOUR = 3600
const wait = (seconds: number | null) => (seconds === null ? texts.none
  : formatDuration(seconds < 2 * HOUR ? Math.max(1, Math.round(seconds / 60)) : Math.round(seconds / HOUR) * 60))
const figure = (count: number | null) => (count === null ? texts.none : String(count))
const pair = (before: string, after: string) => (before === after ? before : texts.arrow(before, after))
</script>

<template>
  <section class="what-if" aria-labelledby="what-if">
    <h2 id="what-if">{{ texts.whatIf }}</h2>
    <p class="quiet">{{ texts.whatIfHint(data?.days ?? 90) }}</p>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <p v-else-if="data && data.bookings.length === 0" class="quiet">{{ texts.noBookings }}</p>
    <p v-else-if="!data || !now || !then" class="quiet" role="status">{{ texts.calculating }}</p>
    <template v-else>
      <VTable>
        <thead>
          <tr>
            <th scope="col">{{ texts.host }}</th>
            <th scope="col">{{ texts.weight }}</th>
            <th scope="col" class="figure">{{ texts.had }}</th>
            <th scope="col" class="figure">{{ texts.wouldHaveHad }}</th>
          </tr>
        </thead>
        <tbody>
          <template v-for="host in first.shown" :key="host.id">
            <tr>
              <th scope="row">{{ hostOf(host.id)?.name }}
                <LinkButton :aria-expanded="hoursShown.includes(host.id)" :aria-label="texts.otherHoursOf(hostOf(host.id)?.name ?? '')" @click="toggleHours(host)">{{ hoursShown.includes(host.id) ? texts.usualHours : texts.otherHours }}</LinkButton>
                <LinkButton
                  v-if="tried.length > 1" :aria-label="texts.removeFromGroup(hostOf(host.id)?.name ?? '')"
                  @click="tried = tried.filter(other => other.id !== host.id)"
                >{{ texts.remove }}</LinkButton>
              </th>
              <td>
                <VTextField
                  class="weight" inputmode="decimal" :model-value="Number.isNaN(host.weight) ? '' : String(host.weight)" hide-details
                  :aria-label="texts.weightOf(hostOf(host.id)?.name ?? '')" :error="!(host.weight >= 0.1 && host.weight <= 100)"
                  @update:model-value="setWeight(host.id, $event)"
                />
              </td>
              <td class="figure">{{ hadBy(host.id) }}</td>
              <td class="figure"><strong>{{ then.had[host.id] ?? 0 }}</strong></td>
            </tr>
            <tr v-if="hoursShown.includes(host.id)" class="hours-row">
              <td colspan="4">
                <VTextField
                  :model-value="hoursText(host)" :label="texts.hoursOf(hostOf(host.id)?.name ?? '')" :hint="texts.hoursHint" persistent-hint
                  :error-messages="unread[host.id] === undefined ? [] : texts.hoursUnread" hide-details="auto" @update:model-value="setHours(host.id, $event)"
                />
              </td>
            </tr>
          </template>
          <tr v-for="host in removed" :key="host.id" class="quiet">
            <th scope="row">{{ hostOf(host.id)?.name }}</th>
            <td><LinkButton @click="tried = [...tried, host]">{{ texts.addAHost }}</LinkButton></td>
            <td class="figure">{{ hadBy(host.id) }}</td>
            <td class="figure">{{ 0 }}</td>
          </tr>
        </tbody>
      </VTable>
      <ShowAll :total="first.total" @show="first.showAll" />
      <VSelect
        v-if="outside.length > 0" :label="texts.tryAHost" :model-value="null" :items="outside" hide-details
        @update:model-value="tryHost"
      />
      <dl aria-live="polite">
        <dt>{{ texts.openingsAWeek }}</dt>
        <dd>{{ pair(figure(now.openingsAWeek), figure(then.openingsAWeek)) }}</dd>
        <dt>{{ texts.soonestStart }}</dt>
        <dd>{{ pair(wait(now.soonestStart), wait(then.soonestStart)) }}</dd>
      </dl>
      <p v-if="then.impossible > 0" class="broken">{{ texts.couldNotBeTaken(then.impossible) }}</p>
      <p v-if="canUse && hasOtherHours" class="quiet">{{ texts.hoursAreNotTaken }}</p>
      <VBtn v-if="canUse" :disabled="!isChanged || !isSound" @click="emit('use', tried.map(({ id, weight }) => ({ id, weight })))">{{ texts.useThese }}</VBtn>
    </template>
  </section>
</template>

<style scoped>
.what-if {
  border-left: 1px solid var(--line);
  padding-left: 24px;
}

h2 {
  font-size: 17px;
}

.v-table {
  background: none;
  margin: 8px 0 10px;
}

th,
td {
  text-align: left;
  border-color: var(--line) !important;
  padding: 5px 8px 5px 0 !important;
}

tbody th {
  font-weight: 600;
}

tbody th .link-button {
  display: flex;
  width: max-content;
}

.weight {
  width: 5rem;
}

.figure {
  text-align: right;
}

dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 14px;
  margin: 14px 0;
}

dt {
  font-weight: 600;
}

dd {
  margin: 0;
}

@media (max-width: 1000px) {
  .what-if {
    border-left: 0;
    padding-left: 0;
  }
}
</style>
