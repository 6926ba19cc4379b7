<script setup lang="ts">
import { texts } from '~/locales/session'
import { VBtn } from 'vuetify/components'
import { formatFault } from '~~/core/catalogue/faults'
import { roomStateWords } from '~~/core/booking/states'
import type { SessionView } from '~~/core/views/desk'

/** The room as hosts need it: the way in, what clients were given, and what went wrong. */

defineProps<{ room: NonNullable<SessionView['room']>, mayChange: boolean, busy: boolean, stamp: (instant: number) => string }>()
const emit = defineEmits<{ retry: [] }>()
</script>

<template>
  <div>
    <strong :class="{ broken: room.state === 'failing' }">{{ roomStateWords[room.state] }}</strong>
    <template v-if="room.state === 'ready' && room.joinUrl">
      <span class="room-actions">
        <VBtn v-if="room.hostUrl" :href="room.hostUrl" target="_blank" rel="noopener">{{ texts.openRoomAsHost }}</VBtn>
      </span>
      <span class="room-facts">{{ texts.clientsLink }} <a :href="room.joinUrl" target="_blank" rel="noopener">{{ room.joinUrl }}</a></span>
      <span v-if="room.underMainUser" class="room-facts">{{ texts.underMainUser }}</span>
      <span v-if="room.fault" class="room-facts broken">{{ formatFault(room.fault) }}.</span>
      <span v-if="room.number" class="room-facts">{{ texts.number }} <b>{{ room.number }}</b><template v-if="room.passcode">{{ ' ' }}{{ texts.passcode }} <b>{{ room.passcode }}</b></template></span>
    </template>
    <template v-else-if="room.state === 'failing'">
      <span class="room-facts">{{ room.fault ? formatFault(room.fault) : '' }}.{{ room.nextTryAt ? texts.nextTryAt(stamp(room.nextTryAt)) : '' }}</span>
      <span v-if="mayChange" class="room-actions"><VBtn variant="outlined" :disabled="busy" @click="emit('retry')">{{ texts.tryAgainNow }}</VBtn></span>
    </template>
  </div>
</template>
