<script setup lang="ts">
import { VBtn } from 'vuetify/components'
import { changesBetween, mergeChanges, sayChange } from '~~/core/event-type/changes'
import type { Definition } from '~~/core/event-type/definition'
import { sayNearDayWithin, sayTime } from '~~/core/time/say'
import type { KeptVersion } from '~~/core/views/desk'
import AskDialog from '~/components/desk/AskDialog.vue'

/** Somebody else has published first: what they changed, what you changed, and how to go on. */

const props = defineProps<{ base: Definition, mine: Definition, theirs: KeptVersion, zone: string, locale: string, now: number }>()
const emit = defineEmits<{ go: [definition: Definition] }>()

const their = computed(() => changesBetween(props.base, props.theirs.definition))
const my = computed(() => changesBetween(props.base, props.mine))
const merged = computed(() => mergeChanges(props.base, props.mine, props.theirs.definition))
const when = computed(() => `${sayNearDayWithin(props.theirs.at, props.zone, props.locale, props.now)} at ${sayTime(props.theirs.at, props.zone, props.locale)}`)
</script>

<template>
  <AskDialog :model-value="true" persistent :title="`${theirs.by} has published first`" :width="680">
    <p>That was {{ when }}, after you began. Nothing was overwritten: neither theirs nor yours.</p>
    <div class="both">
      <section>
        <h3>They changed</h3>
        <ul><li v-for="change in their" :key="change.label">{{ sayChange(change) }}</li></ul>
      </section>
      <section>
        <h3>You changed</h3>
        <ul><li v-for="change in my" :key="change.label">{{ sayChange(change) }}</li></ul>
      </section>
    </div>
    <template v-if="merged.contested.length > 0">
      <p><strong>Both of you changed:</strong></p>
      <ul>
        <li v-for="one in merged.contested" :key="one.label">{{ one.label }}: they wrote {{ one.theirs }}, you wrote {{ one.mine }}. Yours would stand in the draft.</li>
      </ul>
    </template>
    <p class="quiet">Either way you look at it once more before anything is published.</p>
    <template #actions>
      <VBtn @click="emit('go', merged.definition)">Put my changes onto theirs</VBtn>
      <button type="button" class="word" @click="emit('go', theirs.definition)">Take theirs and drop mine</button>
    </template>
  </AskDialog>
</template>

<style scoped>
.both {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 24px;
}

h3 {
  font-size: 14px;
  margin-bottom: 4px;
}
</style>
