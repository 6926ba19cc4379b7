<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VSelect, VTextField } from 'vuetify/components'
import type { Definition } from '~~/core/event-type/definition'
import { type ChairPolicy, chairPolicies } from '~~/core/event-type/settings'
import { type HostGroup, poolIdOf, withCurrentGroups } from '~~/core/event-type/groups'
import { formatList, formatZone } from '~~/core/time/format'
import type { BenchHost } from '~~/core/views/event-types'

/** Who sits on the hosts' side: chairs, the pool of each, and how one of a pool is chosen. */

const props = defineProps<{ hosts: readonly BenchHost[], groups: readonly HostGroup[], errors: Readonly<Record<string, string>> }>()
const chairs = defineModel<Definition['chairs']>({ required: true })

const policyWords: Record<ChairPolicy, string> = {
  fairShare: texts.byFairShare,
  order: texts.inThisOrder,
  client: texts.theClientChooses,
}

const MOST_CHAIRS = 6

type Chair = Definition['chairs'][number]

function change(index: number, part: Partial<Chair>): void {
  chairs.value = chairs.value.map((chair, i) => (i === index ? { ...chair, ...part } : chair))
}

const ownHosts = (chair: Chair) => chair.hosts.filter(host => host.group === undefined)
const outside = (chair: Chair) => props.hosts.filter(host => !ownHosts(chair).some(candidate => candidate.id === host.id))
const otherGroups = (chair: Chair) => props.groups.filter(group => !chair.groups.some(candidate => candidate.id === group.id))
const known = computed(() => new Map(props.groups.map(group => [group.id, group])))

/** A chair with other hosts or groups of its own; those who sit in it through a group follow. */
function seat(index: number, part: Partial<Pick<Chair, 'hosts' | 'groups'>>): void {
  const chair = chairs.value[index]
  if (chair) change(index, withCurrentGroups({ ...chair, hosts: ownHosts(chair), ...part }, known.value))
}
const hostsOfGroup = (chair: Chair, id: string) => formatList(chair.hosts.filter(host => host.group === id).map(host => host.name))

/** Adds a host or a whole group. */
function add(index: number, id: string | null): void {
  const chair = chairs.value[index]
  if (!chair || !id) return
  const group = known.value.get(id)
  const host = props.hosts.find(candidate => candidate.id === id)
  if (group) seat(index, { groups: [...chair.groups, { id, name: group.name }] })
  else if (host) seat(index, { hosts: [...ownHosts(chair), { id: host.id, name: host.name, weight: 1 }] })
}

function setWeight(index: number, place: number, text: string): void {
  const weight = text.trim() === '' ? Number.NaN : Number(text)
  change(index, { hosts: (chairs.value[index]?.hosts ?? []).map((host, i) => (i === place ? { ...host, weight } : host)) })
}

function moveHost(index: number, place: number, by: number): void {
  const chair = chairs.value[index]
  if (!chair) return
  const hosts = [...ownHosts(chair)]
  const [moved] = hosts.splice(place, 1)
  if (moved) hosts.splice(place + by, 0, moved)
  seat(index, { hosts })
}

const adding = ref(false)
/** A chair begins with the host who is to sit in it. */
function addChair(id: string | null): void {
  const host = props.hosts.find(candidate => candidate.id === id)
  adding.value = false
  if (!host) return
  chairs.value = [
    ...chairs.value,
    {
      id: crypto.randomUUID(),
      name: `Chair ${chairs.value.length + 1}`,
      policy: 'fairShare',
      hosts: [{ id: host.id, name: host.name, weight: 1 }],
      groups: [],
    },
  ]
}

const describe = (host: BenchHost) => `${host.name}, ${formatZone(host.timeZone)}`
const choices = (hosts: readonly BenchHost[]) => hosts.map(host => ({ value: host.id, title: describe(host) }))
const additions = (chair: Chair) => [
  ...otherGroups(chair).map(group => ({ value: group.id, title: texts.groupOf(group.name, group.hosts.length) })),
  ...choices(outside(chair)),
]
const policies = chairPolicies.map(policy => ({ value: policy, title: policyWords[policy] }))

/** The share of sessions that a weight comes to while all are free. */
function share(chair: Chair, weight: number): string {
  const sum = chair.hosts.reduce((all, host) => all + host.weight, 0)
  return sum > 0 && Number.isFinite(weight) ? `${Math.round(100 * weight / sum)} %` : ''
}

const addLabel = (index: number) =>
  chairs.value.length > 1 ? texts.addToChair(index + 1, props.groups.length > 0) : texts.addToThePool(props.groups.length > 0)

const zoneOfHost = (id: string) => formatZone(props.hosts.find(host => host.id === id)?.timeZone ?? '')
</script>

<template>
  <div class="chairs">
    <p class="quiet hint">{{ texts.chairHint }}</p>
    <fieldset v-for="(chair, index) in chairs" :key="chair.id" class="entry">
      <legend>{{ chairs.length > 1 ? texts.chair(index + 1) : texts.whoHosts }}</legend>
      <div v-if="chairs.length > 1" class="field">
        <VTextField
          :model-value="chair.name" :aria-label="texts.nameOfChair(index + 1)"
          :error-messages="errors[`chairs.${index}.name`] ?? []" hide-details="auto"
          @update:model-value="change(index, { name: $event })"
        />
      </div>
      <ol>
        <li v-for="(host, place) in ownHosts(chair)" :key="host.id">
          <span class="who"><strong>{{ host.name }}</strong> <span class="quiet">{{ zoneOfHost(host.id) }}</span></span>
          <span class="tools">
            <span v-if="chair.hosts.length > 1 && chair.policy !== 'order'" class="weight">
              <VTextField
                class="weight-field" inputmode="decimal" :model-value="Number.isNaN(host.weight) ? '' : String(host.weight)" hide-details
                :aria-label="texts.weightOf(host.name)" :error="Boolean(errors[`chairs.${index}.hosts.${place}.weight`])"
                @update:model-value="setWeight(index, place, $event)"
              />
              <span class="quiet">{{ share(chair, host.weight) }}</span>
            </span>
            <template v-if="chair.policy === 'order' && chair.hosts.length > 1">
              <LinkButton :disabled="place === 0" :aria-label="texts.moveUp(host.name)"
                @click="moveHost(index, place, -1)"
              >{{ texts.up }}</LinkButton>
              <LinkButton :disabled="place === ownHosts(chair).length - 1"
                :aria-label="texts.moveDown(host.name)" @click="moveHost(index, place, 1)"
              >{{ texts.down }}</LinkButton>
            </template>
            <LinkButton :aria-label="texts.removeFromTheChair(host.name)"
              @click="seat(index, { hosts: ownHosts(chair).filter(other => other.id !== host.id) })"
            >{{ texts.remove }}</LinkButton>
          </span>
          <p
            v-if="errors[`chairs.${index}.hosts.${place}.weight`]" class="broken" role="alert"
          >{{ errors[`chairs.${index}.hosts.${place}.weight`] }}</p>
        </li>
        <li v-for="group in chair.groups" :key="group.id">
          <span class="who"><NuxtLink :to="`/desk/rotation/${group.id}`">{{ texts.groupCalled(group.name) }}</NuxtLink> <span class="quiet">{{ hostsOfGroup(chair, group.id) }}</span></span>
          <span class="tools">
            <LinkButton
              :aria-label="texts.removeFromTheChair(group.name)"
              @click="seat(index, { groups: chair.groups.filter(other => other.id !== group.id) })"
            >{{ texts.remove }}</LinkButton>
          </span>
        </li>
      </ol>
      <p v-if="poolIdOf(chair) !== chair.id" class="quiet hint">{{ texts.sharesTurns(chair.groups[0]?.name ?? '') }}</p>
      <p v-if="errors[`chairs.${index}.hosts`]" class="broken" role="alert">{{ errors[`chairs.${index}.hosts`] }}</p>
      <VSelect
        v-if="additions(chair).length > 0" :label="addLabel(index)" :model-value="null"
        :items="additions(chair)" hide-details @update:model-value="add(index, $event)"
      />
      <VSelect
        v-if="chair.hosts.length > 1" class="policy" :label="texts.howHostsAreAssigned" :model-value="chair.policy" :items="policies" hide-details
        @update:model-value="change(index, { policy: $event })"
      />
      <LinkButton
        v-if="chairs.length > 1"
        @click="chairs = chairs.filter(other => other.id !== chair.id)"
      >{{ texts.removeThisChair }}</LinkButton>
    </fieldset>
    <VSelect
      v-if="adding" :label="texts.whoSitsInTheNewChair" :model-value="null" :items="choices(hosts)" hide-details autofocus
      @update:model-value="addChair"
    />
    <LinkButton v-else-if="chairs.length < MOST_CHAIRS" @click="adding = true">{{ texts.addAChair }}</LinkButton>
    <span v-if="!adding && chairs.length === 1" class="quiet hint">{{ texts.addAChairHint }}</span>
    <p v-if="errors['chairs']" class="broken" role="alert">{{ errors['chairs'] }}</p>
  </div>
</template>

<style scoped>
.chairs > .hint {
  margin-bottom: 12px;
}

ol {
  list-style: none;
  margin: 0 0 10px;
  padding: 0;
}

li {
  border-bottom: 1px solid var(--line);
  padding: 6px 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  gap: 2px 10px;
}

.who .quiet {
  display: block;
  font-size: 12.5px;
}

li .broken {
  grid-column: 1 / -1;
}

.tools {
  display: flex;
  gap: 12px;
  align-items: baseline;
}

.weight {
  display: flex;
  align-items: center;
}

.weight-field {
  width: 4.4rem;
}

.weight .quiet {
  display: inline-block;
  width: 2.6rem;
  text-align: right;
}

.entry .policy {
  margin-top: 10px;
}
</style>
