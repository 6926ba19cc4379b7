<script setup lang="ts">
import { texts } from '~/locales/workspace'
import { VTextField } from 'vuetify/components'
import type { CalendarLink } from '~~/core/calendar/links'

/** Links to calendars on the web that clients are offered beside the calendar file. */

defineProps<{ faults: Readonly<Record<string, string>>, disabled: boolean }>()
const links = defineModel<CalendarLink[]>({ required: true })
const MOST = 5

function set(index: number, change: Partial<CalendarLink>): void {
  links.value = links.value.map((link, at) => (at === index ? { ...link, ...change } : link))
}
</script>

<template>
  <fieldset :disabled="disabled">
    <legend>{{ texts.calendarLinks }}</legend>
    <p class="quiet hint">{{ texts.calendarLinksHint }}</p>
    <div v-for="(link, index) in links" :key="index" class="link">
      <VTextField
        :model-value="link.name" :label="texts.calendarLinkName" :error-messages="faults[`calendarLinks.${index}.name`] ?? []"
        hide-details="auto" @update:model-value="set(index, { name: $event })"
      />
      <LinkButton :aria-label="texts.removeCalendarLink(link.name)" @click="links = links.filter((_, at) => at !== index)">{{
        texts.remove
      }}</LinkButton>
      <VTextField
        class="address" :model-value="link.address" :label="texts.calendarLinkAddress" :error-messages="faults[`calendarLinks.${index}.address`] ?? []"
        hide-details="auto" @update:model-value="set(index, { address: $event })"
      />
    </div>
    <LinkButton v-if="links.length < MOST" @click="links = [...links, { name: '', address: '' }]">{{ texts.addCalendarLink }}</LinkButton>
  </fieldset>
</template>

<style scoped>
legend {
  padding: 0;
  font-weight: 600;
}

.hint {
  font-size: 12.5px;
  margin-bottom: 12px;
}

.link {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 10px 14px;
  align-items: center;
  border-left: 2px solid var(--line);
  padding: 6px 0 2px 12px;
  margin-bottom: 12px;
}

.address {
  grid-column: 1 / -1;
}
</style>
