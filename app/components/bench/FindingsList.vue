<script setup lang="ts">
import { texts } from '~/locales/bench'
import { formatFinding, severityWords } from '~~/core/catalogue/findings'
import type { Finding, WayOut } from '~~/core/checks'
import { useDesk } from '~/stores/desk'

/** What the checks found, each with its one way out; the first two, and the others when asked. */

defineProps<{ findings: readonly Finding[] }>()
const emit = defineEmits<{ out: [wayOut: WayOut] }>()
const desk = useDesk()
const shown = ref(2)
</script>

<template>
  <ul class="findings" :aria-label="texts.checks" aria-live="polite">
    <li v-for="(finding, index) in findings.slice(0, shown)" :key="`${finding.code} ${index}`" :class="finding.severity">
      <strong>{{ severityWords[finding.severity] }}.</strong> {{ formatFinding(finding, desk.locale).text }}
      <NuxtLink v-if="finding.wayOut.kind === 'go'" :prefetch="false" :to="finding.wayOut.to">{{ formatFinding(finding, desk.locale).wayOut }}</NuxtLink>
      <LinkButton v-else @click="emit('out', finding.wayOut)">{{ formatFinding(finding, desk.locale).wayOut }}</LinkButton>
      <LinkButton
        v-if="index === shown - 1 && findings.length > shown" class="more"
        @click="shown = findings.length"
      >{{ texts.andMore(findings.length - shown) }}</LinkButton>
    </li>
  </ul>
</template>

<style scoped>
.findings {
  list-style: none;
  margin: 0 0 10px;
  padding: 0;
}

.findings li {
  border-left: 3px solid var(--marigold);
  background: var(--surface);
  padding: 5px 12px;
  margin-bottom: 4px;
  font-size: 13.5px;
}

.findings li.stops {
  border-color: var(--brick);
}

.findings li.look {
  border-color: var(--line);
}

.findings .more {
  margin-left: 10px;
}
</style>
