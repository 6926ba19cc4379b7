<script setup lang="ts">
import { texts } from '~/locales/rooms'
import { VCheckbox } from 'vuetify/components'
import { wayWords } from '~~/core/catalogue/rooms'
import { type WayKind, wayKinds } from '~~/core/rooms/ways'
import { capitalise } from '~~/core/catalogue/capitalise'

/** Which ways to a room are tried, and in which order. */

defineProps<{ disabled?: boolean }>()
const ways = defineModel<WayKind[]>({ required: true })

const rows = computed(() => [...ways.value, ...wayKinds.filter(kind => !ways.value.includes(kind))])

function toggle(kind: WayKind): void {
  const chosen = ways.value.includes(kind) ? ways.value.filter(other => other !== kind) : [...ways.value, kind]
  // One way at least.
  if (chosen.length > 0) ways.value = chosen
}

function raise(kind: WayKind): void {
  const at = ways.value.indexOf(kind)
  const before = ways.value[at - 1]
  if (before) ways.value = ways.value.map((other, index) => (index === at - 1 ? kind : index === at ? before : other))
}
</script>

<template>
  <ol class="room-ways">
    <li v-for="(kind, index) in rows" :key="kind">
      <VCheckbox
        :model-value="ways.includes(kind)" :disabled="disabled" :label="capitalise(wayWords[kind])" hide-details density="compact"
        @update:model-value="toggle(kind)"
      />
      <span v-if="ways.includes(kind)" class="quiet">{{ texts.places[index] }}</span>
      <LinkButton
        v-if="index > 0 && ways.includes(kind) && !disabled" :aria-label="texts.earlierNamed(wayWords[kind])" @click="raise(kind)"
      >{{ texts.earlier }}</LinkButton>
    </li>
  </ol>
</template>

<style scoped>
.room-ways {
  list-style: none;
  margin: 4px 0;
  padding: 0;
}

li {
  display: flex;
  align-items: center;
  gap: 10px;
}

li .quiet {
  font-size: 13px;
}
</style>
