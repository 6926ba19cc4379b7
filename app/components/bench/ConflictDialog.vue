<script setup lang="ts">
import { VBtn, VDialog } from 'vuetify/components'
import { changesBetween, mergeChanges, sayChange } from '~~/core/event-type/changes'
import type { Definition } from '~~/core/event-type/definition'
import { sayNearDayWithin, sayTime } from '~~/core/time/say'
import type { KeptVersion } from '~~/core/views/desk'

/** Somebody else has published first: what they changed, what you changed, and how to go on. */

const props = defineProps<{ base: Definition, mine: Definition, theirs: KeptVersion, zone: string, locale: string, now: number }>()
const emit = defineEmits<{ go: [definition: Definition] }>()

const their = computed(() => changesBetween(props.base, props.theirs.definition))
const my = computed(() => changesBetween(props.base, props.mine))
const merged = computed(() => mergeChanges(props.base, props.mine, props.theirs.definition))
const when = computed(() => `${sayNearDayWithin(props.theirs.at, props.zone, props.locale, props.now)} at ${sayTime(props.theirs.at, props.zone, props.locale)}`)
</script>

<template>
  <VDialog :model-value="true" persistent max-width="680" scrollable>
    <div class="ask" role="document">
      <h2>{{ theirs.by }} has published first</h2>
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
      <p class="actions">
        <VBtn @click="emit('go', merged.definition)">Put my changes onto theirs</VBtn>
        <button type="button" class="word" @click="emit('go', theirs.definition)">Take theirs and drop mine</button>
      </p>
      <p class="quiet">Either way you look at it once more before anything is published.</p>
    </div>
  </VDialog>
</template>

<style scoped>
.ask {
  font-size: 14px;
  background: var(--surface);
  border-left: 3px solid var(--marigold);
  border-radius: var(--corner);
  padding: 22px;
  display: grid;
  gap: 12px;
  overflow-y: auto;
}

.ask h2 {
  font-size: 18px;
}

.both {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 24px;
}

h3 {
  font-size: 14px;
  margin-bottom: 4px;
}

ul {
  margin: 0;
  padding-left: 18px;
}

li {
  overflow-wrap: anywhere;
}

.actions {
  display: flex;
  align-items: center;
  gap: 18px;
}
</style>
