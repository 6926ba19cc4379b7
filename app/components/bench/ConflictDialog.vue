<script setup lang="ts">
import { VBtn } from 'vuetify/components'
import { changesBetween, mergeChanges, describeChange } from '~~/core/event-type/changes'
import type { Definition } from '~~/core/event-type/definition'
import { formatRelativeDayInSentence, formatTime } from '~~/core/time/format'
import type { PublishedVersion } from '~~/core/views/desk'
import AskDialog from '~/components/desk/AskDialog.vue'
import { useDesk } from '~/stores/desk'

/** Somebody else has published first: what they changed, what you changed, and how to go on. */

const props = defineProps<{ base: Definition, mine: Definition, theirs: PublishedVersion }>()
const desk = useDesk()
const emit = defineEmits<{ go: [definition: Definition] }>()

const their = computed(() => changesBetween(props.base, props.theirs.definition, desk.locale))
const my = computed(() => changesBetween(props.base, props.mine, desk.locale))
const merged = computed(() => mergeChanges(props.base, props.mine, props.theirs.definition, desk.locale))
const when = computed(
  () =>
    `${formatRelativeDayInSentence(props.theirs.at, desk.zone, desk.locale, desk.now)} at ${formatTime(props.theirs.at, desk.zone, desk.locale)}`,
)
</script>

<template>
  <AskDialog :model-value="true" persistent :title="`${theirs.by} has published first`" :width="680">
    <p>That was {{ when }}, after you began. Nothing was overwritten: neither theirs nor yours.</p>
    <div class="both">
      <section>
        <h3>They changed</h3>
        <ul><li v-for="change in their" :key="change.label">{{ describeChange(change) }}</li></ul>
      </section>
      <section>
        <h3>You changed</h3>
        <ul><li v-for="change in my" :key="change.label">{{ describeChange(change) }}</li></ul>
      </section>
    </div>
    <template v-if="merged.contested.length > 0">
      <p><strong>Both of you changed:</strong></p>
      <ul>
        <li v-for="part in merged.contested" :key="part.label">{{ part.label }}: they wrote {{ part.theirs }}, you wrote {{ part.mine }}. Yours would be in the draft.</li>
      </ul>
    </template>
    <p class="quiet">Either way, you can check it again before anything is published.</p>
    <template #actions>
      <VBtn @click="emit('go', merged.definition)">Apply my changes to theirs</VBtn>
      <LinkButton @click="emit('go', theirs.definition)">Use their version</LinkButton>
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
