<script setup lang="ts">
import { VTextField } from 'vuetify/components'
import type { Settings } from '~~/core/event-type/settings'
import type { HoursPlan } from '~~/core/openings'
import { formatHours, HoursTextError, minutesPerDay, parseHours } from '~~/core/time/hours-text'
import { sayZone } from '~~/core/time/say'
import type { BenchView } from '~~/core/views/desk'

const props = defineProps<{ bench: BenchView, error?: string | undefined }>()
const settings = defineModel<Settings>({ required: true })
const emit = defineEmits<{ unread: [message: string | null] }>()

const modes = [
  { mode: 'hosts', title: 'Whenever the hosts are open', words: 'Each host’s own hours' },
  { mode: 'narrow', title: 'Only within these hours', words: 'Hosts’ own hours, narrowed by these' },
  { mode: 'replace', title: 'In these hours instead', words: 'Whatever the hosts’ own hours say' },
] as const

const DAYS = ['Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa', 'Su']

/** The plan that is shown while another mode is tried stays here, so that nothing typed is lost. */
const kept = ref<HoursPlan>(settings.value.hours.mode === 'hosts'
  ? { timeZone: settings.value.timeZone, weekly: [{ days: ['MO', 'TU', 'WE', 'TH', 'FR'], from: '09:00', to: '17:00' }], recurring: [], exceptions: [], valid: { from: null, to: null } }
  : settings.value.hours.plan)
const typed = ref(formatHours(kept.value.weekly))
const week = computed(() => minutesPerDay(kept.value.weekly))
const mode = computed(() => settings.value.hours.mode)

function choose(chosen: (typeof modes)[number]['mode']): void {
  settings.value = { ...settings.value, hours: chosen === 'hosts' ? { mode: chosen } : { mode: chosen, plan: kept.value } }
  if (chosen === 'hosts') emit('unread', null)
  else read(typed.value)
}

function read(text: string): void {
  typed.value = text
  try {
    kept.value = { ...kept.value, weekly: parseHours(text) }
    emit('unread', null)
    if (mode.value !== 'hosts') settings.value = { ...settings.value, hours: { mode: mode.value, plan: kept.value } }
  } catch (error) {
    if (!(error instanceof HoursTextError)) throw error
    emit('unread', error.message)
  }
}

function hostHours(hostId: string): string {
  const plans = props.bench.time.find(host => host.id === hostId)?.plans ?? []
  return plans.map(plan => formatHours(plan.weekly) || 'closed').join('; and ')
}
</script>

<template>
  <div class="hours-panel">
    <div class="modes" role="radiogroup" aria-label="When can it be booked?">
      <button v-for="one in modes" :key="one.mode" type="button" role="radio" :aria-checked="mode === one.mode" @click="choose(one.mode)">
        <strong>{{ one.title }}</strong><span class="quiet">{{ one.words }}</span>
      </button>
    </div>
    <template v-if="mode !== 'hosts'">
      <div class="week" aria-hidden="true">
        <template v-for="(windows, day) in week" :key="day">
          <span>{{ DAYS[day] }}</span>
          <span class="track"><i v-for="[from, to] in windows" :key="from" :style="{ left: `${from / 14.4}%`, width: `${(to - from) / 14.4}%` }" /></span>
        </template>
      </div>
      <div class="field">
        <label for="typed-hours">Hours of the week</label>
        <VTextField id="typed-hours" :model-value="typed" :error-messages="error ?? []" hide-details="auto" spellcheck="false" @update:model-value="read" />
        <p class="quiet hint">Such as Tu-Th 09:00-12:00,13:00-17:00; Fr 10:00-13:00. {{ sayZone(kept.timeZone) }} time.</p>
      </div>
    </template>
    <dl v-else>
      <template v-for="host in bench.hosts" :key="host.id">
        <dt>{{ host.name }}</dt>
        <dd>{{ hostHours(host.id) }} <span class="quiet">{{ sayZone(host.timeZone) }} time</span></dd>
      </template>
    </dl>
  </div>
</template>

<style scoped>
.modes {
  display: grid;
  gap: 8px;
  margin-bottom: 16px;
}

.modes button {
  text-align: left;
  border: 1px solid var(--line);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 9px 12px;
  cursor: pointer;
}

.modes button[aria-checked='true'] {
  border-color: var(--aubergine);
  box-shadow: inset 3px 0 0 var(--aubergine);
}

.modes strong,
.modes .quiet {
  display: block;
  font-size: 13.5px;
}

.week {
  display: grid;
  grid-template-columns: 28px 1fr;
  gap: 4px;
  align-items: center;
  font-size: 13px;
  margin-bottom: 14px;
}

.track {
  position: relative;
  height: 18px;
  border-radius: 3px;
  background: var(--line);
}

.track i {
  position: absolute;
  top: 0;
  bottom: 0;
  border-radius: 3px;
  background: var(--aubergine-soft);
}

.hint {
  font-size: 12.5px;
  margin-top: 6px;
}

dl {
  margin: 0;
}

dt {
  font-weight: 600;
}

dd {
  margin: 0 0 10px;
}
</style>
