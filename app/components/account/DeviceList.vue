<script setup lang="ts">
import { texts } from '~/locales/account'
import { formatRelativeDay, formatTime } from '~~/core/time/format'
import type { Device } from '~~/core/views/desk'
import { useCalls } from '~/composables/calls'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'

/** Where one is signed in, and the way to end that. */

const desk = useDesk()
const notice = useNotice()
const devices = shallowRef<Device[]>([])
const { fault, read, act } = useCalls(load)

async function load(): Promise<void> {
  await read(async () => (devices.value = await $fetch<Device[]>('/api/desk/account/devices')))
}
onMounted(load)

async function end({ id }: Device): Promise<void> {
  if (await act(() => $fetch(`/api/desk/account/devices/${id}`, { method: 'DELETE' }))) notice.show(texts.deviceSignedOut)
}

async function endOthers(): Promise<void> {
  if (await act(() => $fetch('/api/desk/account/devices/end-others', { method: 'POST' }))) notice.show(texts.signedOutElsewhere)
}

const stamp = (instant: number) =>
  `${formatRelativeDay(instant, desk.zone, desk.locale, desk.now)} ${formatTime(instant, desk.zone, desk.locale)}`
</script>

<template>
  <section aria-labelledby="devices">
    <h2 id="devices">{{ texts.devices }}</h2>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <ul>
      <li v-for="device in devices" :key="device.id">
        <div>
          <strong>{{ device.device }}</strong>{{ ' ' }}
          <span class="quiet">{{ device.current ? texts.thisDevice : texts.lastSeen(stamp(device.lastSeen)) }}</span>
          <p class="quiet">{{ device.workspace }}, {{ texts.since(stamp(device.since)) }}</p>
        </div>
        <LinkButton
          v-if="!device.current" :aria-label="texts.signOutOf(device.device)" @click="end(device)"
        >{{ texts.signOut }}</LinkButton>
      </li>
    </ul>
    <LinkButton v-if="devices.length > 1" @click="endOthers">{{ texts.signOutElsewhere }}</LinkButton>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 8px 0;
  padding: 0;
}

li {
  display: flex;
  align-items: baseline;
  justify-content: space-between;
  gap: 16px;
  border-top: 1px solid var(--line);
  padding: 8px 0;
}
</style>
