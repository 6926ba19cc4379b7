<script setup lang="ts">
import { texts } from '~/locales/bench'
import { changesBetween, describeChange } from '~~/core/event-type/changes'
import type { Definition } from '~~/core/event-type/definition'
import { formatRelativeDay, formatTime } from '~~/core/time/format'
import type { PublishedVersion } from '~~/core/views/event-types'
import { problemOf } from '~/composables/problem'
import { useBench } from '~/stores/bench'
import { useDesk } from '~/stores/desk'

/** What was published, by whom and what it changed; each version can be brought back into the draft. */

const bench = useBench()
const desk = useDesk()
const emit = defineEmits<{ bring: [definition: Definition] }>()

const versions = shallowRef<PublishedVersion[] | null>(null)
const fault = ref('')

onMounted(async () => {
  try {
    versions.value = await $fetch<PublishedVersion[]>(`/api/desk/event-types/${bench.view?.id}/versions`)
  } catch (error) {
    fault.value = problemOf(error).message
  }
})

const rows = computed(() => (versions.value ?? []).map((version, index, all) => {
  const before = all[index + 1]
  const changes = before ? changesBetween(before.definition, version.definition, desk.locale).map(describeChange) : [texts.theFirstVersion]
  return { ...version, changes }
}))
</script>

<template>
  <div>
    <p v-if="fault" class="broken" role="alert">{{ fault }}</p>
    <p v-else-if="!versions" class="quiet">{{ texts.loading }}</p>
    <ol v-else>
      <li v-for="row in rows" :key="row.version">
        <p><strong>{{ formatRelativeDay(row.at, desk.zone, desk.locale, desk.now) }} {{ formatTime(row.at, desk.zone, desk.locale) }}</strong>, {{ row.by }}<template v-if="row.version === bench.view?.version">{{ texts.theCurrentVersion }}</template></p>
        <ul>
          <li v-for="change in row.changes" :key="change">{{ change }}</li>
        </ul>
        <LinkButton
          v-if="row.version !== bench.view?.version" @click="emit('bring', row.definition)"
        >{{ texts.bringThisVersionBack }}</LinkButton>
      </li>
    </ol>
    <p v-if="versions" class="quiet hint">{{ texts.itComesBackIntoYourDraft }}</p>
  </div>
</template>

<style scoped>
ol,
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

ol > li {
  border-top: 1px solid var(--line);
  padding: 10px 0;
}

ul li {
  color: var(--quiet);
  overflow-wrap: anywhere;
}
</style>
