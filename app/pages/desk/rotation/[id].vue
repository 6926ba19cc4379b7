<script setup lang="ts">
import { texts } from '~/locales/rotation'
import { VSelect } from 'vuetify/components'
import GroupEditor from '~/components/people/GroupEditor.vue'
import PoolShares from '~/components/people/PoolShares.vue'
import ShareChart from '~/components/people/ShareChart.vue'
import WhatIf from '~/components/people/WhatIf.vue'
import { useAfterPaint } from '~/composables/after-paint'
import { poolName, poolSubtitle } from '~/composables/pool-names'
import { useDesk } from '~/stores/desk'
import { useRotation } from '~/stores/rotation'

/** One pool: how its sessions are shared, what other weights would have meant, and the group itself where it is one. */

definePageMeta({ layout: 'desk' })

const desk = useDesk()
const rotation = useRotation()
const id = String(useRoute().params['id'])
const isNew = id === 'new'
const periods = [30, 90, 365].map(value => ({ value, title: texts.days(value) }))
const days = ref(90)
const isLoaded = ref(isNew)

const pool = computed(() => rotation.view?.pools.find(candidate => candidate.id === id) ?? null)
const group = computed(() => rotation.groups?.find(candidate => candidate.id === id) ?? null)
const name = computed(() => (isNew ? texts.newGroupTitle : pool.value ? poolName(pool.value) : ''))
useHead({ title: () => texts.groupTemporia(name.value || texts.groups) })

async function load(): Promise<void> {
  if (!isNew) await Promise.all([rotation.loadPool(days.value, id), rotation.loadGroups()])
  isLoaded.value = true
}
void load()
/** Everybody's weights are many fields. */
const isPainted = useAfterPaint(() => pool.value !== null || isNew)
watch(days, () => rotation.loadPool(days.value, id))

/** Weights that were tried out and are to be saved. */
const weights = shallowRef<{ id: string, weight: number }[] | null>(null)
const canUse = computed(() => group.value !== null && desk.mayChangeEventTypes)
</script>

<template>
  <div class="pool">
    <p v-if="!isLoaded" class="quiet">{{ texts.loading }}</p>
    <p v-else-if="!isNew && !pool" class="fault" role="alert">{{ rotation.fault || texts.thereIsNoSuchPool }} <NuxtLink to="/desk/people">{{ texts.backToPeople }}</NuxtLink></p>
    <template v-else>
      <header>
        <h1>{{ name }}</h1>
        <p v-if="pool" class="quiet">{{ poolSubtitle(pool) }}</p>
        <NuxtLink to="/desk/people">{{ texts.backToPeople }}</NuxtLink>
      </header>
      <div class="columns" :class="{ single: isNew }">
        <div>
          <section v-if="pool" aria-labelledby="shares">
            <div class="period">
              <h2 id="shares">{{ texts.shares }}</h2>
              <VSelect v-model="days" :items="periods" :label="texts.period" hide-details />
            </div>
            <PoolShares :pool="pool" :days="rotation.view?.days ?? days" :label="texts.shareChart(name)" />
            <ShareChart v-if="isPainted && pool.hosts.some(host => host.had > 0) && pool.policy !== 'order'" :pool="pool" :label="texts.shareChart(name)" />
            <p class="numbers"><a :href="`/api/desk/rotation/${id}/ledger`" download="rotation.json">{{ texts.allNumbers }}</a> <span class="quiet">{{ texts.allNumbersHint }}</span></p>
          </section>
          <GroupEditor
            v-if="isPainted && (group || isNew) && desk.mayChangeEventTypes" :key="group?.version ?? 0" :group="group" :weights="weights"
            @saved="load"
          />
        </div>
        <WhatIf v-if="isPainted && pool && desk.mayChangeEventTypes" :pool-id="id" :can-use="canUse" @use="weights = $event" />
      </div>
    </template>
  </div>
</template>

<style scoped>
.pool {
  padding: 18px 24px 40px;
}

header {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 18px;
  margin-bottom: 16px;
}

header a {
  margin-left: auto;
}

h1 {
  font-size: 24px;
}

h2 {
  font-size: 17px;
}

.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 400px;
  gap: 24px 40px;
  align-items: start;
}

.columns.single {
  grid-template-columns: minmax(0, 560px);
}

.period {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px 24px;
  margin: 0 0 6px;
}

.group {
  margin-top: 30px;
}

.columns.single .group {
  margin-top: 0;
}

.period .v-select {
  flex: 0 0 220px;
}

.numbers {
  margin-top: 14px;
}

@media (max-width: 1000px) {
  .columns {
    grid-template-columns: 1fr;
  }
}
</style>
