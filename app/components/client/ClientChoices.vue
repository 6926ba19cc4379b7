<script setup lang="ts">
import { texts } from '~/locales/client'
import { formatDuration } from '~~/core/time/format'

/** How long, and with whom, where clients may choose. */

defineProps<{ durations: readonly number[], hosts: readonly { id: string, name: string }[] }>()
const duration = defineModel<number | null>('duration', { required: true })
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
    <fieldset v-if="hosts.length > 1">
      <legend>{{ texts.withWhom }}</legend>
      <label><input type="radio" name="host" :checked="host === null" @change="set(() => (host = null))"> {{ texts.anyone }}</label>
      <label v-for="choice in hosts" :key="choice.id">
        <input type="radio" name="host" :checked="host === choice.id" @change="set(() => (host = choice.id))"> {{ choice.name }}
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

.choices input {
  accent-color: var(--aubergine);
}
</style>
