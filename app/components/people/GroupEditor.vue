<script setup lang="ts">
import { texts } from '~/locales/rotation'
import { VSelect, VTextField } from 'vuetify/components'
import { formatInputFault } from '~~/core/catalogue/input'
import { editedGroupSchema } from '~~/core/event-type/groups'
import { inputFaults } from '~~/core/validation'
import type { GroupEffect, GroupView } from '~~/core/views/rotation'
import AskDialog from '~/components/desk/AskDialog.vue'
import SaveBar from '~/components/desk/SaveBar.vue'
import ShowAll from '~/components/ShowAll.vue'
import { useFirstRows } from '~/composables/first-rows'
import { useNotice } from '~/stores/notice'
import { usePeople } from '~/stores/people'
import { useRotation } from '~/stores/rotation'

/** The name and the hosts of a group, and which event types and openings a change of it concerns. */

const props = defineProps<{ group: GroupView | null, weights: readonly { id: string, weight: number }[] | null }>()
const emit = defineEmits<{ saved: [] }>()

const rotation = useRotation()
const people = usePeople()
const notice = useNotice()

interface Member {
  id: string
  name: string
  weight: number
}

const name = ref(props.group?.name ?? '')
const members = shallowRef<Member[]>(props.group?.hosts ?? [])
const first = useFirstRows(() => members.value)
const sending = ref(false)
onMounted(people.load)

watch(() => props.weights, (weights) => {
  if (!weights) return
  members.value = weights.map(({ id, weight }) => ({ id, weight, name: nameOf(id) }))
  notice.show(texts.weightsFilledIn)
})

const hosts = computed(() => people.hosts)
const nameOf = (id: string) => hosts.value.find(host => host.id === id)?.name ?? members.value.find(member => member.id === id)?.name ?? ''
const outside = computed(() => hosts.value.filter(host => !members.value.some(member => member.id === host.id))
  .map(host => ({ value: host.id, title: host.name })))

function add(id: string | null): void {
  if (id) members.value = [...members.value, { id, name: nameOf(id), weight: 1 }]
}

function setWeight(id: string, text: string): void {
  const weight = text.trim() === '' ? Number.NaN : Number(text)
  members.value = members.value.map(member => (member.id === id ? { ...member, weight } : member))
}

const edited = computed(() => ({ name: name.value.trim(), hosts: members.value.map(({ id, weight }) => ({ id, weight })) }))
const stored = computed(() => ({ name: props.group?.name ?? '', hosts: (props.group?.hosts ?? []).map(({ id, weight }) => ({ id, weight })) }))
const isChanged = computed(() => JSON.stringify(edited.value) !== JSON.stringify(stored.value))
const errors = computed(() => Object.fromEntries(
  inputFaults(editedGroupSchema.safeParse(edited.value).error, edited.value).map(fault => [fault.path, formatInputFault(fault)]),
))
const isSound = computed(() => Object.keys(errors.value).length === 0)

/** What saving would change for clients, asked for once the typing rests. */
const effects = shallowRef<GroupEffect[] | null>(null)
const REST = 300
let timer: ReturnType<typeof setTimeout> | undefined
let asked = 0
watch(edited, () => {
  clearTimeout(timer)
  const own = ++asked
  const { group } = props
  if (!group || !isChanged.value || !isSound.value) {
    effects.value = null
    return
  }
  timer = setTimeout(async () => {
    const found = await rotation.preview(group.id, edited.value)
    if (own === asked) effects.value = found
  }, REST)
})
onBeforeUnmount(() => clearTimeout(timer))

function describeEffect({ openings }: GroupEffect): string {
  if (!openings) return texts.tooMany
  if (openings.added + openings.removed === 0) return texts.openingsSame(openings.after)
  const parts = [
    ...(openings.removed > 0 ? [texts.gone(openings.removed)] : []),
    ...(openings.added > 0 ? [texts.fresh(openings.added)] : []),
  ]
  return `${texts.openingsChange(openings.before, openings.after)}: ${parts.join(', ')}`
}

function discard(): void {
  name.value = props.group?.name ?? ''
  members.value = props.group?.hosts ?? []
}

async function save(): Promise<void> {
  sending.value = true
  const done = props.group ? await rotation.change(props.group.id, props.group.version, edited.value) : await rotation.create(edited.value)
  sending.value = false
  if (!done) return
  notice.show('id' in done ? texts.created : texts.saved)
  if ('id' in done) {
    discard()
    await navigateTo(`/desk/rotation/${done.id}`, { replace: true })
  } else {
    emit('saved')
  }
}

const isDeleting = ref(false)
async function remove(): Promise<void> {
  if (!props.group || !await rotation.remove(props.group.id)) return
  discard()
  notice.show(texts.deleted)
  await navigateTo('/desk/people')
}
</script>

<template>
  <section class="group" aria-labelledby="group-hosts">
    <h2 id="group-hosts">{{ texts.hostsOfTheGroup }}</h2>
    <label for="group-name">{{ texts.name }}</label>
    <VTextField
      id="group-name" v-model="name" maxlength="80" :placeholder="texts.nameExample"
      :error-messages="name.trim() || !isChanged ? [] : texts.enterAName" hide-details="auto"
    />
    <ul>
      <li v-for="(member, index) in first.shown" :key="member.id">
        <strong>{{ member.name }}</strong>
        <VTextField
          class="weight" inputmode="decimal" :model-value="Number.isNaN(member.weight) ? '' : String(member.weight)" hide-details
          :label="texts.weight" :aria-label="texts.weightOf(member.name)" :error="Boolean(errors[`hosts.${index}.weight`])"
          @update:model-value="setWeight(member.id, $event)"
        />
        <LinkButton
          :aria-label="texts.removeFromGroup(member.name)" @click="members = members.filter(other => other.id !== member.id)"
        >{{ texts.remove }}</LinkButton>
        <p v-if="errors[`hosts.${index}.weight`]" class="broken" role="alert">{{ errors[`hosts.${index}.weight`] }}</p>
      </li>
    </ul>
    <ShowAll :total="first.total" @show="first.showAll" />
    <p v-if="members.length === 0 && isChanged" class="broken" role="alert">{{ texts.addAtLeastOne }}</p>
    <VSelect
      v-if="outside.length > 0" :label="texts.addAHost" :model-value="null" :items="outside" hide-details @update:model-value="add"
    />
    <div v-if="group" class="effects" aria-live="polite">
      <h3>{{ texts.whatSavingChanges }}</h3>
      <p v-if="!isChanged" class="quiet">{{ texts.nothingYet }}</p>
      <p v-else-if="group.usedBy.length === 0" class="quiet">{{ texts.usedByNothing }}</p>
      <ul v-else-if="effects">
        <li v-for="effect in effects" :key="effect.id"><NuxtLink :to="`/desk/event-types/${effect.id}?panel=chairs`">{{ effect.name }}</NuxtLink><template v-if="effect.state !== 'open'">{{ texts.notOpen(effect.state) }}</template>: {{ describeEffect(effect) }}</li>
      </ul>
      <LinkButton v-if="group.usedBy.length === 0" @click="isDeleting = true">{{ texts.deleteGroup }}</LinkButton>
    </div>
    <SaveBar
      :is-changed="isChanged" :is-sound="isSound" :sending="sending" :fault="rotation.fault" @save="save" @discard="discard"
    />
    <AskDialog v-model="isDeleting" :title="texts.deleteGroup" :width="420">
      <template #actions>
        <LinkButton @click="isDeleting = false">{{ texts.cancel }}</LinkButton>
        <LinkButton @click="remove">{{ texts.deleteGroup }}</LinkButton>
      </template>
    </AskDialog>
  </section>
</template>

<style scoped>
h2 {
  font-size: 17px;
  margin-bottom: 8px;
}

h3 {
  font-size: 15px;
}

label {
  font-weight: 600;
}

ul {
  list-style: none;
  margin: 10px 0;
  padding: 0;
}

.group > ul > li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 110px auto;
  align-items: center;
  gap: 4px 14px;
  border-bottom: 1px solid var(--line);
  padding: 8px 0;
}

.group > ul .broken {
  grid-column: 1 / -1;
}

.effects {
  margin: 16px 0;
}

.effects li {
  padding: 3px 0;
}

.save-bar {
  position: static !important;
  background: none !important;
  margin: 0 0 20px !important;
  padding-inline: 0 !important;
}
</style>
