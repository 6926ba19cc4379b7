<script setup lang="ts">
import { texts } from '~/locales/session'
import { explainAssignment } from '~~/core/catalogue/assignments'
import type { SessionView } from '~~/core/views/desk'

/** Who sits in a session, why it came to them, and the way to hand it over. */

const props = defineProps<{ session: SessionView, locale: string, mayHandOver: boolean }>()
const emit = defineEmits<{ handOver: [host: { id: string, name: string }] }>()

const isOpen = ref(false)
function reasonOf(assignment: SessionView['assignments'][number]): string {
  const why = explainAssignment(assignment, props.locale)
  return props.session.hosts.length > 1 ? texts.forChair(assignment.chair, why) : why
}
const reasons = computed(() => props.session.assignments.filter(assignment => !assignment.returned || props.session.cancelled))
</script>

<template>
  <div>
    <p v-for="host in session.hosts" :key="host.id" class="host">
      {{ host.name }}<span v-if="session.hosts.length > 1" class="quiet"> {{ host.chair }}</span>
      <LinkButton v-if="mayHandOver" :aria-label="texts.handOverFrom(host.name)" @click="emit('handOver', host)">{{ texts.handOver }}</LinkButton>
    </p>
    <template v-if="reasons.length > 0">
      <LinkButton :aria-expanded="isOpen" @click="isOpen = !isOpen">{{ texts.whyThisHost(session.hosts.length) }}</LinkButton>
      <div v-if="isOpen" class="why">
        <p v-for="assignment in reasons" :key="assignment.id">{{ reasonOf(assignment) }}</p>
        <p><a :href="`/api/desk/sessions/${session.id}/assignments`" download="assignments.json">{{ texts.allNumbers }}</a></p>
      </div>
    </template>
  </div>
</template>

<style scoped>
.host {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 2px 14px;
}

.why {
  margin-top: 6px;
  padding: 8px 12px;
  border-left: 3px solid var(--aubergine-soft);
  background: var(--surface);
  display: grid;
  gap: 6px;
}
</style>
