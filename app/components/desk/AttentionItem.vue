<script setup lang="ts">
import { describeFault, formatFault } from '~~/core/catalogue/faults'
import { formatTitleFault } from '~~/core/catalogue/trail'
import { occasionName } from '~~/core/messages/occasions'
import type { Attention } from '~~/core/views/desk'

/** One thing that did not work and waits for a person, with its one action. */

const props = defineProps<{ item: Attention, busy: boolean, when: (instant: number) => string }>()
const emit = defineEmits<{ act: [path: string] }>()

const taskWords: Record<string, string> = {
  deliver: 'Sending a message',
  makeRoom: 'Making a video room',
  withdrawRoom: 'Withdrawing a video room',
}

const shown = computed(
  (): { title: string, text: string, action: { name: string, path: string } | null, link: { name: string, to: string } | null } => {
    const { item } = props
    const next = 'nextTryAt' in item && item.nextTryAt ? ` Next try ${props.when(item.nextTryAt)}.` : ''
    switch (item.kind) {
      case 'message':
        return {
          title: `${item.unknown ? 'Perhaps not arrived' : 'Not sent'}: ${occasionName(item.occasion)} for ${props.when(item.start)}`,
          text: `${item.eventType} with ${item.client}, to ${item.address}${item.fault ? `: ${describeFault(item.fault)}` : ''}.${next}`,
          action: { name: 'Send again', path: `/api/desk/deliveries/${item.id}/send` },
          link: { name: 'See the trail', to: `/desk/sessions/${item.sessionId}` },
        }
      case 'room':
        return {
          title: item.withdrawn
            ? `A cancelled session’s room is still there: ${props.when(item.start)}`
            : `A room is not finished: ${props.when(item.start)}`,
          text: `${item.eventType}. ${item.fault ? `${formatFault(item.fault)}.` : ''}${next}`,
          action: item.withdrawn ? { name: 'Try again now', path: `/api/desk/sessions/${item.sessionId}/room` } : null,
          link: { name: 'See the trail', to: `/desk/sessions/${item.sessionId}` },
        }
      case 'title':
        return {
          title: `The calendar title of ${item.eventType} does not work`,
          text: `${formatTitleFault(item.fault)}. The standard title is used instead.`,
          action: null,
          link: { name: 'Change the title', to: `/desk/event-types/${item.eventTypeId}?panel=afterwards` },
        }
      case 'noJobs':
        return {
          title: 'Messages and video links wait',
          text: 'No process of the installation runs its jobs just now. They go out as soon as one does; the operator must start it.',
          action: null,
          link: null,
        }
      default:
        return {
          title: `${taskWords[item.task] ?? 'A task'} keeps failing`,
          text: `It is tried again by itself.${next}`,
          action: { name: 'Try again now', path: `/api/desk/jobs/${item.id}/run` },
          link: null,
        }
    }
  },
)
</script>

<template>
  <div class="item">
    <h3 class="broken">{{ shown.title }}</h3>
    <p class="quiet" dir="auto">{{ shown.text }}</p>
    <p class="actions">
      <LinkButton
        v-if="shown.action" :disabled="busy" @click="emit('act', shown.action.path)"
      >{{ shown.action.name }}</LinkButton>
      <NuxtLink v-if="shown.link" :to="shown.link.to">{{ shown.link.name }}</NuxtLink>
    </p>
  </div>
</template>
