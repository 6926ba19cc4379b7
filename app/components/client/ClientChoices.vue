<script setup lang="ts">
import { texts } from '~/locales/client'
import { formatDuration } from '~~/core/time/format'
import type { EventTypePage } from '~~/core/views/client'
import HostPicture from '~/components/HostPicture.vue'

/** How long, for how many, and with whom, where clients may choose. */

defineProps<{ durations: readonly number[], mostPeople: number, hosts: NonNullable<EventTypePage['eventType']['hosts']> }>()
const duration = defineModel<number | null>('duration', { required: true })
const people = defineModel<number>('people', { required: true })
const host = defineModel<string | null>('host', { required: true })
const emit = defineEmits<{ update: [] }>()

async function set(change: () => void): Promise<void> {
  change()
  // The models reach the page with the next turn, and only then may it ask for times.
  await nextTick()
  emit('update')
}
</script>

<template>
  <div class="choices">
    <fieldset v-if="durations.length > 1">
      <legend>{{ texts.howLong }}</legend>
      <label v-for="(minutes, index) in durations" :key="minutes">
        <input
          type="radio" name="duration" :checked="(duration ?? durations[0]) === minutes"
          @change="set(() => (duration = index === 0 ? null : minutes))"
        > {{ formatDuration(minutes) }}
      </label>
    </fieldset>
    <label v-if="mostPeople > 1" class="people">
      <span>{{ texts.howMany }}</span>
      <select :value="people" @change="set(() => (people = Number(($event.target as HTMLSelectElement).value)))">
        <option v-for="count in mostPeople" :key="count" :value="count">{{ texts.people(count) }}</option>
      </select>
    </label>
    <fieldset v-if="hosts.length > 1" class="hosts">
      <legend>{{ texts.withWhom }}</legend>
      <label :class="{ chosen: host === null }">
        <input type="radio" name="host" :checked="host === null" @change="set(() => (host = null))">
        <span><strong>{{ texts.anyone }}</strong><span class="quiet">{{ texts.anyoneHint }}</span></span>
      </label>
      <label v-for="choice in hosts" :key="choice.id" :class="{ chosen: host === choice.id }">
        <input type="radio" name="host" :checked="host === choice.id" @change="set(() => (host = choice.id))">
        <HostPicture :name="choice.name" :picture="choice.picture ?? null" :size="48" />
        <span><strong>{{ choice.name }}</strong><span v-if="choice.about" class="quiet about">{{ choice.about }}</span></span>
      </label>
    </fieldset>
  </div>
</template>

<style scoped>
.choices {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 28px;
  margin-top: 12px;
}

.people {
  display: flex;
  align-items: center;
  gap: 10px;
}

.people span {
  font-weight: 600;
}

.people select {
  font: inherit;
  color: var(--ink);
  padding: 6px 10px;
  border: 1px solid var(--line);
  border-radius: var(--corner);
  background: var(--surface);
}

.choices fieldset {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 14px;
  border: 0;
  padding: 0;
  margin: 0;
}

.choices legend {
  float: left;
  font-weight: 600;
  padding: 0;
  margin-right: 10px;
}

.choices label {
  min-height: 26px;
}

.choices .hosts {
  flex: 1 1 100%;
  align-items: stretch;
  gap: 8px;
}

.choices .hosts legend {
  float: none;
  margin-bottom: 6px;
}

.hosts label {
  display: flex;
  gap: 10px;
  align-items: center;
  flex: 1 1 15rem;
  max-width: 24rem;
  min-height: 66px;
  padding: 8px 12px;
  background: var(--surface);
  border: 1px solid var(--line);
  border-radius: var(--corner);
  cursor: pointer;
}

.hosts .chosen {
  border-color: var(--marigold);
  box-shadow: inset 0 0 0 1px var(--marigold);
}

.hosts strong,
.hosts .quiet {
  display: block;
}

.hosts .quiet {
  font-size: 0.85rem;
}

.hosts .about {
  display: -webkit-box;
  overflow: hidden;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  line-clamp: 2;
}

.hosts .chosen .about {
  -webkit-line-clamp: unset;
  line-clamp: unset;
}

.choices input {
  accent-color: var(--aubergine);
}
</style>
