<script setup lang="ts">
import { VTextField } from 'vuetify/components'
import type { Definition } from '~~/core/event-type/definition'
import { type ChairPolicy, chairPolicies } from '~~/core/event-type/settings'
import { formatZone } from '~~/core/time/format'
import type { BenchHost } from '~~/core/views/desk'

/** Who sits on the hosts' side: chairs, the pool of each, and how one of a pool is chosen. */

const props = defineProps<{ hosts: readonly BenchHost[], errors: Readonly<Record<string, string>> }>()
const chairs = defineModel<Definition['chairs']>({ required: true })

const policyWords: Record<ChairPolicy, string> = {
  fairShare: 'by fair share',
  order: 'the first who is free, in this order',
  client: 'the client chooses',
}

type Chair = Definition['chairs'][number]

function change(index: number, part: Partial<Chair>): void {
  chairs.value = chairs.value.map((chair, i) => (i === index ? { ...chair, ...part } : chair))
}

const outside = (chair: Chair) => props.hosts.filter(host => !chair.hosts.some(candidate => candidate.id === host.id))

function addHost(index: number, event: Event): void {
  const chair = chairs.value[index]
  const host =
    event.target instanceof HTMLSelectElement && props.hosts.find(candidate => candidate.id === (event.target as HTMLSelectElement).value)
  if (chair && host) change(index, { hosts: [...chair.hosts, { id: host.id, name: host.name, weight: 1 }] })
  if (event.target instanceof HTMLSelectElement) event.target.value = ''
}

function setPolicy(index: number, event: Event): void {
  const policy = chairPolicies.find(candidate => event.target instanceof HTMLSelectElement && candidate === event.target.value)
  if (policy) change(index, { policy })
}

function setWeight(index: number, place: number, event: Event): void {
  if (!(event.target instanceof HTMLInputElement)) return
  const weight = event.target.value.trim() === '' ? Number.NaN : Number(event.target.value)
  change(index, { hosts: (chairs.value[index]?.hosts ?? []).map((host, i) => (i === place ? { ...host, weight } : host)) })
}

function moveHost(index: number, place: number, by: number): void {
  const hosts = [...(chairs.value[index]?.hosts ?? [])]
  const [moved] = hosts.splice(place, 1)
  if (moved) hosts.splice(place + by, 0, moved)
  change(index, { hosts })
}

function addChair(): void {
  const first =
    props.hosts.find(host => !chairs.value.some(chair => chair.hosts.some(candidate => candidate.id === host.id))) ?? props.hosts[0]
  chairs.value = [
    ...chairs.value,
    {
      id: crypto.randomUUID(),
      name: `Chair ${chairs.value.length + 1}`,
      policy: 'fairShare',
      hosts: first ? [{ id: first.id, name: first.name, weight: 1 }] : [],
    },
  ]
}

/** The share of sessions that a weight comes to while all are free. */
function share(chair: Chair, weight: number): string {
  const sum = chair.hosts.reduce((all, host) => all + host.weight, 0)
  return sum > 0 && Number.isFinite(weight) ? `${Math.round(100 * weight / sum)} %` : ''
}

const zoneOfHost = (id: string) => formatZone(props.hosts.find(host => host.id === id)?.timeZone ?? '')
</script>

<template>
  <div class="chairs">
    <p class="quiet hint">Every chair is filled by one host, all of them at once. One chair with several hosts shares the sessions among them.</p>
    <fieldset v-for="(chair, index) in chairs" :key="chair.id" class="entry">
      <legend>{{ chairs.length > 1 ? `Chair ${index + 1}` : 'Who hosts it' }}</legend>
      <div v-if="chairs.length > 1" class="field">
        <VTextField
          :model-value="chair.name" :aria-label="`Name of chair ${index + 1}`"
          :error-messages="errors[`chairs.${index}.name`] ?? []" hide-details="auto"
          @update:model-value="change(index, { name: $event })"
        />
      </div>
      <ol>
        <li v-for="(host, place) in chair.hosts" :key="host.id">
          <span class="who"><strong>{{ host.name }}</strong> <span class="quiet">{{ zoneOfHost(host.id) }}</span></span>
          <span class="tools">
            <label v-if="chair.hosts.length > 1 && chair.policy !== 'order'" class="weight">
              <span class="visually-hidden">Weight of {{ host.name }}</span>
              <input
                type="text" inputmode="decimal" :value="Number.isNaN(host.weight) ? '' : host.weight"
                :class="{ wrong: errors[`chairs.${index}.hosts.${place}.weight`] }"
                @input="setWeight(index, place, $event)"
              >
              <span class="quiet">{{ share(chair, host.weight) }}</span>
            </label>
            <template v-if="chair.policy === 'order' && chair.hosts.length > 1">
              <LinkButton :disabled="place === 0" :aria-label="`Move ${host.name} up`"
                @click="moveHost(index, place, -1)"
              >Up</LinkButton>
              <LinkButton :disabled="place === chair.hosts.length - 1"
                :aria-label="`Move ${host.name} down`" @click="moveHost(index, place, 1)"
              >Down</LinkButton>
            </template>
            <LinkButton :aria-label="`Remove ${host.name} from the chair`"
              @click="change(index, { hosts: chair.hosts.filter(other => other.id !== host.id) })"
            >Remove</LinkButton>
          </span>
          <p
            v-if="errors[`chairs.${index}.hosts.${place}.weight`]" class="broken" role="alert"
          >{{ errors[`chairs.${index}.hosts.${place}.weight`] }}</p>
        </li>
      </ol>
      <p v-if="errors[`chairs.${index}.hosts`]" class="broken" role="alert">{{ errors[`chairs.${index}.hosts`] }}</p>
      <select v-if="outside(chair).length > 0" :aria-label="`Add a host to chair ${index + 1}`" value="" @change="addHost(index, $event)">
        <option value="">Add a host …</option>
        <option v-for="host in outside(chair)" :key="host.id" :value="host.id">{{ host.name }}, {{ formatZone(host.timeZone) }}</option>
      </select>
      <label v-if="chair.hosts.length > 1" class="policy">How hosts are assigned
        <select :value="chair.policy" @change="setPolicy(index, $event)">
          <option v-for="policy in chairPolicies" :key="policy" :value="policy">{{ policyWords[policy] }}</option>
        </select>
      </label>
      <LinkButton
        v-if="chairs.length > 1"
        @click="chairs = chairs.filter(other => other.id !== chair.id)"
      >Remove this chair</LinkButton>
    </fieldset>
    <LinkButton v-if="chairs.length < 6" @click="addChair">Add a chair, so that two sit in together</LinkButton>
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

.weight input {
  width: 3.2rem;
  border: 1px solid var(--quiet);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 2px 6px;
  text-align: right;
}

.weight input.wrong {
  border-color: var(--brick);
}

.weight .quiet {
  display: inline-block;
  width: 2.6rem;
  text-align: right;
}

.policy {
  display: block;
  font-weight: 600;
}

.policy select {
  font-weight: 400;
  margin-top: 4px;
}
</style>
