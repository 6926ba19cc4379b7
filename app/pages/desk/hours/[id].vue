<script setup lang="ts">
import { texts } from '~/locales/hours'
import { VTextField } from 'vuetify/components'
import { formatInputFault } from '~~/core/catalogue/input'
import type { HolidayDates, StoredPlan } from '~~/core/hours/plan'
import { storedPlanSchema } from '~~/core/hours/plan'
import { formatZone } from '~~/core/time/format'
import { inputFaults } from '~~/core/validation'
import type { HoursView } from '~~/core/views/hours'
import SaveBar from '~/components/desk/SaveBar.vue'
import PlanEditor from '~/components/hours/PlanEditor.vue'
import PlanFiles from '~/components/hours/PlanFiles.vue'
import PlanSharing from '~/components/hours/PlanSharing.vue'
import { problemOf } from '~/composables/problem'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'

definePageMeta({ layout: 'desk' })

const desk = useDesk()
const notice = useNotice()
const id = String(useRoute().params['id'])
const view = shallowRef<HoursView | null>(null)
const name = ref('')
const plan = shallowRef<StoredPlan | null>(null)
const holidays = shallowRef<HolidayDates>({})
const fault = ref('')
const unread = ref<string | null>(null)
const sending = ref(false)

useHead({ title: () => texts.pageTitle(view.value?.name ?? texts.hours) })

async function load(): Promise<void> {
  try {
    const loaded = await $fetch<HoursView>(`/api/desk/hours/${id}`)
    view.value = loaded
    name.value = loaded.name
    plan.value = loaded.plan
    holidays.value = loaded.holidays
  } catch (error) {
    fault.value = problemOf(error).message
  }
}
onMounted(load)

const errors = computed(() =>
  Object.fromEntries(
    inputFaults(storedPlanSchema.safeParse(plan.value).error, plan.value).map(fault => [fault.path, formatInputFault(fault)]),
  ),
)
const isChanged = computed(
  () => view.value !== null && (name.value !== view.value.name || JSON.stringify(plan.value) !== JSON.stringify(view.value.plan)),
)
const isSound = computed(() => Object.keys(errors.value).length === 0 && unread.value === null && name.value.trim() !== '')

async function save(): Promise<void> {
  if (!view.value || !plan.value) return
  sending.value = true
  fault.value = ''
  try {
    await $fetch(`/api/desk/hours/${id}`, {
      method: 'POST',
      body: { basedOn: view.value.version, name: name.value.trim(), plan: plan.value },
    })
    await load()
    notice.show(texts.saved)
  } catch (error) {
    fault.value = problemOf(error).message
  } finally {
    sending.value = false
  }
}
/** The plan that applies to all event types that name no other of the host's. */
async function makeDefault(): Promise<void> {
  await act(async () => {
    await $fetch(`/api/desk/hours/${id}/default`, { method: 'POST' })
    await load()
    notice.show(texts.defaultIsSet)
  })
}

/** Another plan that begins like this one, of the same host or for several to share. */
async function addLike(shared: boolean): Promise<void> {
  await act(async () => {
    const body = { like: id, name: shared ? texts.sharedName(view.value?.name ?? '') : `${view.value?.name ?? ''} 2`.trim(), shared }
    const made = await $fetch<{ id: string }>('/api/desk/hours', { method: 'POST', body })
    await navigateTo(`/desk/hours/${made.id}`)
  })
}

const whereItApplies = computed(() =>
  (!view.value?.host ? texts.sharedHours : view.value.isDefault ? texts.defaultHours : texts.applyOnlyWhereNamed))
const isUnused = computed(() => view.value !== null && view.value.usedBy.length === 0 && !view.value.isDefault
  && view.value.sharedBy.every(host => !host.isDefault))
async function remove(): Promise<void> {
  await act(async () => {
    await $fetch(`/api/desk/hours/${id}`, { method: 'DELETE' })
    notice.show(texts.planIsDeleted)
    await navigateTo('/desk/hours')
  })
}

async function act(work: () => Promise<void>): Promise<void> {
  fault.value = ''
  try {
    await work()
  } catch (error) {
    fault.value = problemOf(error).message
  }
}
</script>

<template>
  <div class="hours">
    <p v-if="!view" class="quiet" :class="{ fault }" role="status">{{ fault || texts.loading }}</p>
    <template v-if="view && plan">
      <header>
        <div>
          <h1>{{ texts.planOf(view.host?.name ?? texts.theWorkspace, view.name) }}</h1>
          <p class="quiet">
            {{ texts.time(formatZone(plan.timeZone), whereItApplies) }}
            <template v-if="view.usedBy.length > 0">
              {{ texts.usedBy }} <template v-for="(eventType, index) in view.usedBy" :key="eventType.id">{{ index === 0 ? '' : index === view.usedBy.length - 1 ? texts.and : ', ' }}<NuxtLink :to="`/desk/event-types/${eventType.id}`">{{ eventType.name }}</NuxtLink>{{ eventType.narrowed ? texts.narrowedThere : '' }}</template>.
            </template>
            <template v-else>{{ texts.noEventTypeUsesTheseHours }}</template>
          </p>
        </div>
        <div class="do">
          <p>
            <PlanFiles :id="id" v-model="plan" :name="name" :now="desk.now" :holidays="holidays" :disabled="!view.mayChange" />
            <LinkButton
              v-if="view.mayChange && view.host && !view.isDefault" :disabled="isChanged"
              @click="makeDefault"
            >{{ texts.makeDefault }}</LinkButton>
            <LinkButton
              v-if="view.mayChange && view.host" :disabled="isChanged" @click="addLike(false)"
            >{{ texts.addAnotherPlan }}</LinkButton>
            <LinkButton v-if="desk.mayChangeEventTypes" :disabled="isChanged" @click="addLike(true)">{{ texts.addSharedPlan }}</LinkButton>
            <LinkButton v-if="view.mayChange && isUnused" @click="remove">{{ texts.deletePlan }}</LinkButton>
            <NuxtLink to="/desk/hours">{{ texts.allHours }}</NuxtLink>
          </p>
        </div>
      </header>
      <div v-if="view.mayChange" class="name">
        <label for="plan-name">{{ texts.name }}</label>
        <VTextField id="plan-name" v-model="name" :error-messages="name.trim() ? [] : texts.enterAName" hide-details="auto" />
      </div>
      <PlanSharing v-if="!view.host" :plan="view" @saved="load" />
      <PlanEditor
        v-model="plan" v-model:holidays="holidays" :now="view.now" :locale="desk.locale"
        :zones="[view.host?.timeZone ?? plan.timeZone, desk.zone]" :errors="errors" :disabled="!view.mayChange"
        @unread="unread = $event"
      />
      <SaveBar
        v-if="view.mayChange" :is-changed="isChanged" :is-sound="isSound" :sending="sending" :fault="fault"
        @save="save" @discard="load"
      />
    </template>
  </div>
</template>

<style scoped>
.hours {
  padding: 18px 24px 0;
}

header {
  display: flex;
  justify-content: space-between;
  gap: 32px;
  margin-bottom: 12px;
}

h1 {
  font-size: 24px;
}

.do {
  flex: 0 1 auto;
  max-width: 620px;
  text-align: right;
  font-size: 13px;
}

.do p {
  margin-top: 6px;
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 16px;
  justify-content: flex-end;
}

.name {
  display: flex;
  align-items: center;
  gap: 10px;
  max-width: 420px;
  margin-bottom: 14px;
  font-weight: 600;
}
</style>
