<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VBtn } from 'vuetify/components'
import { changesBetween, mergeChanges, describeChange } from '~~/core/event-type/changes'
import type { Definition } from '~~/core/event-type/definition'
import { formatRelativeDayInSentence, formatTime } from '~~/core/time/format'
import type { PublishedVersion } from '~~/core/views/event-types'
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
    texts.at(
      formatRelativeDayInSentence(props.theirs.at, desk.zone, desk.locale, desk.now),
      formatTime(props.theirs.at, desk.zone, desk.locale),
    ),
)
</script>

<template>
  <AskDialog :model-value="true" persistent :title="texts.hasPublishedFirst(theirs.by)" :width="680">
    <p>{{ texts.theyPublishedAfterYouBegan(when) }}</p>
    <div class="both">
      <section>
        <h3>{{ texts.theyChanged }}</h3>
        <ul><li v-for="change in their" :key="change.label">{{ describeChange(change) }}</li></ul>
      </section>
      <section>
        <h3>{{ texts.youChanged }}</h3>
        <ul><li v-for="change in my" :key="change.label">{{ describeChange(change) }}</li></ul>
      </section>
    </div>
    <template v-if="merged.contested.length > 0">
      <p><strong>{{ texts.bothOfYouChanged }}</strong></p>
      <ul>
        <li
          v-for="part in merged.contested" :key="part.label"
        >{{ texts.contestedPart(part.label, part.theirs, part.mine) }}</li>
      </ul>
    </template>
    <p class="quiet">{{ texts.eitherWay }}</p>
    <template #actions>
      <VBtn @click="emit('go', merged.definition)">{{ texts.applyMyChangesToTheirs }}</VBtn>
      <LinkButton @click="emit('go', theirs.definition)">{{ texts.useTheirVersion }}</LinkButton>
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
