<script setup lang="ts">
import { texts } from '~/locales/host'
import { VTextField } from 'vuetify/components'
import type { AwayDates } from '~~/core/hours/away'
import { formatDate } from '~~/core/time/civil'
import { zoneOf } from '~~/core/time/zone'
import DateField from '~/components/fields/DateField.vue'
import { useDesk } from '~/stores/desk'

/** Stretches of days on which a host cannot be booked, whatever hours apply. */

const props = defineProps<{ mayChange: boolean, faults: Readonly<Record<string, string>> }>()
const away = defineModel<AwayDates[]>({ required: true })
const desk = useDesk()

const set = (index: number, change: Partial<AwayDates>) =>
  (away.value = away.value.map((stretch, at) => (at === index ? { ...stretch, ...change } : stretch)))

function add(): void {
  const today = formatDate(zoneOf(desk.zone).dayOf(desk.now))
  away.value = [...away.value, { from: today, to: today, note: '' }]
}

/** A first day after the last one moves the last one along. */
function setFrom(index: number, from: string): void {
  const to = away.value[index]?.to ?? from
  set(index, { from, to: to < from ? from : to })
}
const faultOf = (index: number, field: string) => props.faults[`away.${index}.${field}`] ?? []
</script>

<template>
  <section aria-labelledby="away">
    <h2 id="away">{{ texts.away }}</h2>
    <p class="quiet hint">{{ texts.awayHint }}</p>
    <p v-if="away.length === 0 && !mayChange" class="quiet">{{ texts.neverAway }}</p>
    <ul>
      <li v-for="(stretch, index) in away" :key="index">
        <DateField
          :model-value="stretch.from" :label="texts.firstDay" :locale="desk.locale" :disabled="!mayChange" :error-messages="faultOf(index, 'from')"
          @update:model-value="setFrom(index, $event)"
        />
        <DateField
          :model-value="stretch.to" :label="texts.lastDay" :locale="desk.locale" :disabled="!mayChange" :error-messages="faultOf(index, 'to')"
          @update:model-value="set(index, { to: $event })"
        />
        <VTextField
          :model-value="stretch.note" :label="texts.note" maxlength="100" :disabled="!mayChange" hide-details
          @update:model-value="set(index, { note: $event })"
        />
        <LinkButton
          v-if="mayChange" :aria-label="texts.removeStretch(stretch.from)" @click="away = away.filter((_, at) => at !== index)"
        >{{ texts.remove }}</LinkButton>
      </li>
    </ul>
    <LinkButton v-if="mayChange" @click="add">{{ texts.addAway }}</LinkButton>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 8px 0;
  padding: 0;
}

li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 8px;
  align-items: center;
  padding: 10px 0;
  border-top: 1px solid var(--line);
}

.hint {
  font-size: 12.5px;
}
</style>
