<script setup lang="ts">
import { texts } from '~/locales/hours'
import { describeRule } from '~~/core/hours/rule'
import { describeWeek, formatWindow } from '~~/core/time/hours-text'
import { formatList, formatZone } from '~~/core/time/format'
import type { HoursRow } from '~~/core/views/hours'
import ShowAll from '~/components/ShowAll.vue'
import { useFirstRows } from '~/composables/first-rows'
import { problemOf } from '~/composables/problem'
import { useDesk } from '~/stores/desk'

definePageMeta({ layout: 'desk' })
useHead({ title: texts.hoursTemporia })

const desk = useDesk()
const rows = shallowRef<HoursRow[] | null>(null)
const first = useFirstRows(() => rows.value ?? [])
const fault = ref('')

onMounted(async () => {
  try {
    rows.value = await $fetch<HoursRow[]>('/api/desk/hours')
  } catch (error) {
    fault.value = problemOf(error).message
  }
})

const describe = ({ plan }: HoursRow) =>
  [...(plan.weekly.length > 0 ? [describeWeek(plan.weekly, desk.locale)] : []), ...plan.recurring.map(window => `${describeRule(window.rrule)} ${formatWindow(window, desk.locale)}`)]
    .filter(Boolean)
    .join('; ') || 'closed'
</script>

<template>
  <div class="all-hours">
    <h1>{{ texts.hours }}</h1>
    <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
    <p v-else-if="!rows" class="quiet">{{ texts.loading }}</p>
    <ul>
      <li v-for="row in first.shown" :key="row.id">
        <NuxtLink :to="`/desk/hours/${row.id}`">{{ row.host ?? texts.theWorkspace }}</NuxtLink>
        <span>{{ row.name }} <span v-if="!row.host" class="quiet">{{ row.sharedBy.length > 0 ? texts.sharedBy(formatList(row.sharedBy)) : texts.sharedByNobody }}</span><span v-else-if="!row.isDefault" class="quiet">{{ texts.notTheDefault }}</span></span>
        <span>{{ describe(row) }} <span class="quiet">{{ texts.zoneTime(formatZone(row.plan.timeZone), row.plan.holidays.length > 0 ? texts.closedOnHolidays : '') }}</span></span>
      </li>
    </ul>
    <ShowAll :total="first.total" @show="first.showAll" />
  </div>
</template>

<style scoped>
.all-hours {
  padding: 18px 24px 40px;
}

h1 {
  font-size: 26px;
}

ul {
  list-style: none;
  margin: 14px 0 0;
  padding: 0;
}

li {
  display: grid;
  grid-template-columns: 200px 200px 1fr;
  gap: 24px;
  border-top: 1px solid var(--line);
  padding: 10px 0;
}

@media (max-width: 900px) {
  li {
    grid-template-columns: 1fr;
    gap: 2px;
  }
}
</style>
