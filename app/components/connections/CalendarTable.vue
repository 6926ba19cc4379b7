<script setup lang="ts">
import { texts } from '~/locales/connections'
import { VBtn, VCheckbox, VRadio, VTable } from 'vuetify/components'
import { formatAgo } from '~~/core/time/format'
import type { AccountView, CalendarView } from '~~/core/views/calendars'
import AskDialog from '~/components/desk/AskDialog.vue'
import ZoneField from '~/components/fields/ZoneField.vue'
import ReceivesSome from '~/components/connections/ReceivesSome.vue'
import { useConnections } from '~/stores/connections'
import { useDesk } from '~/stores/desk'

/** A host's calendars by their accounts: what blocks, what receives, what counts, and what was read. */

const props = defineProps<{ accounts: readonly AccountView[], mayChange: boolean }>()
const desk = useDesk()
const store = useConnections()

const looking = ref<string | null>(null)
const opened = ref<string | null>(null)
const leaving = shallowRef<AccountView | null>(null)
const unreadOf = shallowRef<CalendarView | null>(null)

async function look(account: AccountView): Promise<void> {
  looking.value = account.id
  await store.look(account.id)
  looking.value = null
}

async function disconnect(account: AccountView): Promise<void> {
  await store.disconnectCalendars(account.id)
  leaving.value = null
}

const ago = (calendar: CalendarView) => (calendar.lastLook ? formatAgo(Date.parse(calendar.lastLook) / 1000, desk.now, desk.locale) : null)

function blocksText({ blocks, countsAllDay, countsUnconfirmed }: CalendarView): string {
  if (!blocks) return texts.no
  return [texts.yes, ...(countsAllDay ? [] : [texts.notWholeDays]), ...(countsUnconfirmed ? [] : [texts.confirmedOnly])].join(', ')
}

/** What disconnecting an account changes. */
const consequences = computed((): string[] => {
  if (!leaving.value) return []
  const blocking = leaving.value.calendars.filter(({ blocks }) => blocks)
  const receiving = leaving.value.calendars.find(({ receives }) => receives)
  const entries = blocking.reduce((sum, calendar) => sum + calendar.entries, 0)
  const lines = [
    ...(blocking.length > 0 ? [texts.noLongerBlocks(blocking.map(({ name }) => name), entries)] : []),
    ...(receiving ? [texts.noLongerReceives(receiving.name)] : []),
  ]
  return lines.length > 0 ? lines : [texts.nothingChanges]
})
const receiving = computed(() => props.accounts.flatMap(({ calendars }) => calendars).find(({ receives }) => receives)?.id ?? '')
</script>

<template>
  <VTable>
    <thead>
      <tr>
        <th scope="col">{{ texts.calendar }}</th>
        <th scope="col">{{ texts.blocks }}</th>
        <th scope="col">{{ texts.receives }}</th>
        <th scope="col">{{ texts.whatWasRead }}</th>
      </tr>
    </thead>
    <tbody v-for="account in accounts" :key="account.id">
      <tr class="account">
        <th colspan="4" scope="rowgroup">
          <span dir="auto">{{ account.label }}</span>
          <span v-if="account.fault" class="broken trouble">{{ account.fault }}</span>
          <span v-if="mayChange" class="account-actions">
            <LinkButton
              v-if="account.kind !== 'file'" :disabled="looking !== null" :aria-label="texts.lookAgainAt(account.label)"
              @click="look(account)"
            >{{ looking === account.id ? texts.looking : texts.lookAgain }}</LinkButton>
            <LinkButton :aria-label="texts.disconnectNamed(account.label)" @click="leaving = account">{{ texts.disconnect }}</LinkButton>
          </span>
        </th>
      </tr>
      <template v-for="calendar in account.calendars" :key="calendar.id">
        <tr>
          <th scope="row" dir="auto">{{ calendar.name }}<span v-if="!calendar.writable && account.kind === 'caldav'" class="quiet block">{{ texts.readOnly }}</span></th>
          <td>
            <VCheckbox
              :model-value="calendar.blocks" :disabled="!mayChange" :label="blocksText(calendar)"
              :aria-label="texts.blocksNamed(calendar.name)"
              hide-details density="compact" @update:model-value="store.change(calendar.id, { blocks: !calendar.blocks })"
            />
          </td>
          <td class="receives">
            <VRadio
              v-if="calendar.writable" :model-value="receiving === calendar.id" :true-value="true" :disabled="!mayChange"
              :label="calendar.receives ? texts.here : ''" :aria-label="texts.receivesNamed(calendar.name)"
              hide-details density="compact" @click="mayChange && store.change(calendar.id, { receives: true })"
            />
            <ReceivesSome
              v-if="calendar.writable && mayChange && !calendar.receives" :calendar="calendar" :event-types="store.eventTypes"
            />
          </td>
          <td class="read">
            <span :class="calendar.isGone ? 'broken' : 'quiet'">{{ calendar.isGone ? texts.isGone : ago(calendar) ? texts.readAgo(ago(calendar) ?? '', calendar.entries) : texts.neverRead }}</span><template
              v-if="calendar.unread.length > 0"
            >{{ ' ' }}<span class="broken">{{ texts.unreadCount(calendar.unread.length) }}</span> <LinkButton @click="unreadOf = calendar">{{ texts.which }}</LinkButton></template>
            <LinkButton
              v-if="mayChange" class="counts" :aria-expanded="opened === calendar.id" :aria-label="texts.whatCountsOf(calendar.name)"
              @click="opened = opened === calendar.id ? null : calendar.id"
            >{{ texts.whatCounts }}</LinkButton>
          </td>
        </tr>
        <tr v-if="opened === calendar.id" class="more">
          <td colspan="4">
            <VCheckbox
              :model-value="calendar.countsAllDay" :label="texts.countsAllDay" hide-details density="compact"
              @update:model-value="store.change(calendar.id, { countsAllDay: !calendar.countsAllDay })"
            />
            <VCheckbox
              :model-value="calendar.countsUnconfirmed" :label="texts.countsUnconfirmed" hide-details density="compact"
              @update:model-value="store.change(calendar.id, { countsUnconfirmed: !calendar.countsUnconfirmed })"
            />
            <div class="zone">
              <VCheckbox
                :model-value="calendar.timeZone === null" :label="texts.zoneByCalendar" hide-details density="compact"
                @update:model-value="store.change(calendar.id, { timeZone: calendar.timeZone === null ? desk.zone : null })"
              />
              <ZoneField
                v-if="calendar.timeZone !== null" :model-value="calendar.timeZone" :label="texts.zoneOfCalendar" :locale="desk.locale"
                :now="desk.now"
                @update:model-value="store.change(calendar.id, { timeZone: $event })"
              />
              <p class="quiet">{{ texts.zoneHint }}</p>
            </div>
          </td>
        </tr>
      </template>
    </tbody>
  </VTable>
  <AskDialog
    :model-value="leaving !== null" :title="texts.disconnectTitle(leaving?.label ?? '')" :width="480" @update:model-value="leaving = null"
  >
    <ul><li v-for="line in consequences" :key="line">{{ line }}</li></ul>
    <p class="quiet">{{ texts.entriesStay }}</p>
    <template #actions>
      <VBtn color="error" @click="leaving && disconnect(leaving)">{{ texts.disconnect }}</VBtn>
      <LinkButton @click="leaving = null">{{ texts.keepItConnected }}</LinkButton>
    </template>
  </AskDialog>
  <AskDialog
    :model-value="unreadOf !== null" :title="texts.unreadOf(unreadOf?.name ?? '')" :width="560" @update:model-value="unreadOf = null"
  >
    <p class="quiet">{{ texts.unreadHint }}</p>
    <ul>
      <li v-for="(entry, index) in unreadOf?.unread ?? []" :key="index" dir="auto"><b>{{ entry.uid || texts.noUid }}</b> {{ entry.why }}</li>
    </ul>
    <template #actions><LinkButton @click="unreadOf = null">{{ texts.close }}</LinkButton></template>
  </AskDialog>
</template>

<style scoped>
.v-table {
  background: none;
  margin-top: 14px;
}

th {
  text-align: left;
}

th:first-child,
td:first-child {
  padding-left: 0 !important;
}

tbody th,
tbody td {
  border-color: var(--line) !important;
}

tbody th[scope='row'] {
  font-weight: 600;
}

.account th {
  font-weight: 400;
  font-size: 13px;
  color: var(--quiet);
  height: 34px !important;
  padding-top: 8px !important;
  border-bottom: 0 !important;
}

.account-actions {
  margin-left: 14px;
  display: inline-flex;
  gap: 14px;
}

.trouble {
  margin-left: 8px;
}

.read {
  font-size: 13px;
}

.counts {
  margin-left: 10px;
}

.block {
  display: block;
  font-size: 13px;
  font-weight: 400;
}

.more td {
  padding-block: 6px 12px !important;
}

.receives :deep(.v-radio),
.receives :deep(.v-selection-control) {
  display: inline-flex;
  vertical-align: middle;
}

.zone {
  max-width: 420px;
}
</style>
