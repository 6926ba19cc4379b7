<script setup lang="ts">
import { texts } from '~/locales/rotation'
import { VTable } from 'vuetify/components'
import { describeShare } from '~~/core/catalogue/shares'
import { formatZone } from '~~/core/time/format'
import type { PoolView } from '~~/core/views/rotation'
import ShowAll from '~/components/ShowAll.vue'
import { useFirstRows } from '~/composables/first-rows'

/** What each host of a pool had of its sessions, as bars with their target, and why the two differ. */

const props = defineProps<{ pool: PoolView, days: number, label: string }>()

const first = useFirstRows(() => props.pool.hosts)
const total = computed(() => props.pool.hosts.reduce((sum, host) => sum + host.had, 0))
const most = computed(() => Math.max(1, ...props.pool.hosts.flatMap(host => [host.had, host.target ?? 0])))
const width = (sessions: number) => `${100 * sessions / most.value}%`
const rounded = (target: number | null) => (target === null ? '' : String(Math.round(target * 10) / 10))
</script>

<template>
  <p v-if="total === 0" class="quiet">{{ texts.noSessionsYet(days) }}</p>
  <VTable v-else class="shares" :aria-label="label">
    <thead>
      <tr>
        <th scope="col">{{ texts.host }}</th>
        <th scope="col" class="bar-column">{{ texts.shareOf(total, days, pool.policy !== 'order') }}</th>
        <th scope="col" class="figure">{{ texts.had }}</th>
        <th scope="col" class="figure">{{ texts.target }}</th>
        <th scope="col">{{ texts.whyTheyDiffer }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="host in first.shown" :key="host.id">
        <th scope="row">{{ host.name }} <span class="quiet">{{ formatZone(host.timeZone) }}</span></th>
        <td class="bar-column">
          <div class="share-bar" aria-hidden="true">
            <span :style="{ width: width(host.had) }" />
            <i v-if="host.target !== null" :style="{ left: width(host.target) }" />
          </div>
        </td>
        <td class="figure">{{ host.had }}</td>
        <td class="figure">{{ rounded(host.target) }}</td>
        <td class="quiet">{{ describeShare(host.reasons) }}</td>
      </tr>
    </tbody>
  </VTable>
  <ShowAll v-if="total > 0" :total="first.total" @show="first.showAll" />
</template>

<style scoped>
.shares {
  background: none;
}

th,
td {
  text-align: left;
  border-color: var(--line) !important;
  padding-block: 7px !important;
}

th:first-child {
  padding-left: 0 !important;
}

tbody th {
  font-weight: 600;
  width: 200px;
}

tbody th .quiet {
  display: block;
  font-weight: 400;
}

.figure {
  text-align: right;
  white-space: nowrap;
  width: 70px;
}

/* Pools stand under each other, and so do their columns. */
.shares th:last-child,
.shares td:last-child {
  width: 250px;
}

.bar-column {
  min-width: 160px;
}

.share-bar {
  position: relative;
  height: 16px;
  border-radius: 3px;
  margin-block: 3px;
  background: var(--aubergine-tint);
}

.share-bar span {
  position: absolute;
  inset: 0 auto 0 0;
  border-radius: 3px;
  background: var(--aubergine-soft);
}

.share-bar i {
  position: absolute;
  top: -3px;
  bottom: -3px;
  width: 2px;
  margin-left: -1px;
  background: var(--ink);
}

@media (max-width: 700px) {
  .bar-column {
    display: none;
  }
}
</style>
