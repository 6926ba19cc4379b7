<script setup lang="ts">
import { texts } from '~/locales/desk'
import { texts as workspaceTexts } from '~/locales/workspace'
import { VApp, VBtn, VBtnToggle, VCard, VDivider, VList, VListItem, VMenu, VSnackbar } from 'vuetify/components'
import { useTheme } from 'vuetify'
import { formatDay, formatZone } from '~~/core/time/format'
import type { WorkspaceChoice } from '~~/core/views/desk'
import ConfirmBanner from '~/components/desk/ConfirmBanner.vue'
import ZoneField from '~/components/fields/ZoneField.vue'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'
import { themes, useThemeChoice } from '~/stores/theme'

/** Few ever need it. */
const NewWorkspaceDialog = defineAsyncComponent(() => import('~/components/people/NewWorkspaceDialog.vue'))

const desk = useDesk()
const notice = useNotice()
const theme = useThemeChoice()
const route = useRoute()

const links = [
  { to: '/desk', name: 'Today' },
  { to: '/desk/sessions', name: texts.sessions },
  { to: '/desk/event-types', name: texts.eventTypes },
  { to: '/desk/people', name: 'People' },
  { to: '/desk/hours', name: 'Hours' },
  { to: '/desk/connections', name: 'Connections' },
]
/** Screens below one of the words without its address. */
const below: Record<string, RegExp> = { '/desk': /^\/desk(\/day\/|\/?$)/, '/desk/people': /^\/desk\/(people|rotation)/ }
const isHere = (to: string) => below[to]?.test(route.path) ?? route.path.startsWith(to)

const zonesOpen = ref(false)
const near = computed(() => [...new Set([desk.member?.timeZone ?? 'UTC', Intl.DateTimeFormat().resolvedOptions().timeZone])])
const initials = computed(() => (desk.member?.name ?? '').split(/\s+/).map(part => part[0]).filter(Boolean).slice(0, 2).join(''))
const deletedOn = computed(() => {
  const at = desk.member?.workspace.deletedAt
  return at ? formatDay(at, desk.zone, desk.locale, desk.now) : ''
})
const themeNames = { system: texts.system, light: texts.light, dark: texts.dark }

function chooseZone(zone: string): void {
  desk.chooseZone(zone)
  zonesOpen.value = false
}

const vuetifyTheme = useTheme()
watch(() => theme.choice, choice => vuetifyTheme.change(choice), { immediate: true })

const TICK_SECONDS = 10
onMounted(() => {
  const timer = setInterval(desk.tick, TICK_SECONDS * 1000)
  onBeforeUnmount(() => clearInterval(timer))
})

/** The person's other workspaces, known once their menu is opened. */
const others = shallowRef<WorkspaceChoice[]>([])
async function loadOthers(isOpen: boolean): Promise<void> {
  if (isOpen) others.value = (await $fetch<WorkspaceChoice[]>('/api/desk/workspaces').catch(() => [])).filter(choice => !choice.current)
}
const isCreating = ref(false)
/** Everything on the screen belongs to one workspace, so the other one begins anew. */
async function enter(id: string): Promise<void> {
  await $fetch(`/api/desk/workspaces/${id}/enter`, { method: 'POST' })
  window.location.assign('/desk')
}

async function leave(): Promise<void> {
  await desk.signOut()
  await navigateTo('/desk/sign-in')
}
</script>

<template>
  <VApp class="desk">
    <header class="bar">
      <NuxtLink to="/desk" class="workspace">{{ desk.member?.workspace.name }}</NuxtLink>
      <nav :aria-label="texts.main">
        <NuxtLink
          v-for="link in links" :key="link.to" :to="link.to" :class="{ here: isHere(link.to) }"
          :aria-current="isHere(link.to) ? 'page' : undefined"
        >{{ link.name }}</NuxtLink>
      </nav>
      <VMenu v-model="zonesOpen" :close-on-content-click="false">
        <template #activator="{ props: activator }">
          <VBtn variant="text" color="inherit" v-bind="activator">{{ texts.time(formatZone(desk.zone)) }}</VBtn>
        </template>
        <VCard class="zones">
          <p>{{ texts.allTimesAreShownIn }}</p>
          <ZoneField
            :model-value="desk.zone" :label="texts.timeZone" :locale="desk.locale" :now="desk.now" :near="near"
            @update:model-value="chooseZone"
          />
          <template v-for="zone in near" :key="zone">
            <LinkButton v-if="zone !== desk.zone" @click="chooseZone(zone)">{{ texts.backToTime(formatZone(zone)) }}</LinkButton>
          </template>
        </VCard>
      </VMenu>
      <VMenu :close-on-content-click="false" @update:model-value="loadOthers">
        <template #activator="{ props: activator }">
          <VBtn variant="text" color="inherit" v-bind="activator" :aria-label="texts.menuOf(initials, desk.member?.name ?? '')">{{ initials }}</VBtn>
        </template>
        <VList class="person">
          <VListItem :title="desk.member?.name ?? ''" :subtitle="desk.member?.email ?? ''" />
          <VDivider />
          <template v-if="others.length > 0">
            <VListItem
              v-for="workspace in others" :key="workspace.id" :title="workspace.name" :subtitle="texts.goToWorkspace"
              @click="enter(workspace.id)"
            />
            <VDivider />
          </template>
          <VListItem v-if="desk.member?.confirmed" :title="texts.newWorkspace" @click="isCreating = true" />
          <VListItem v-if="desk.mayChangeEventTypes" :title="texts.messages" to="/desk/messages" />
          <VListItem :title="texts.workspaceSettings" to="/desk/workspace" />
          <VListItem :title="texts.yourSettings" to="/desk/account" />
          <VListItem>
            <span class="theme-label">{{ texts.theme }}</span>
            <VBtnToggle :model-value="theme.choice" mandatory :aria-label="texts.theme" @update:model-value="theme.choose">
              <VBtn v-for="name in themes" :key="name" :value="name" size="small" variant="text">{{ themeNames[name] }}</VBtn>
            </VBtnToggle>
          </VListItem>
          <VDivider />
          <VListItem :title="texts.signOut" @click="leave" />
        </VList>
      </VMenu>
    </header>
    <NewWorkspaceDialog v-if="isCreating" v-model="isCreating" />
    <ConfirmBanner v-if="desk.member && !desk.member.confirmed" />
    <p v-if="deletedOn" class="desk-banner grave" role="status">
      <span>{{ workspaceTexts.banner(desk.member?.workspace.name ?? '', deletedOn) }}</span>
      <NuxtLink to="/desk/workspace">{{ workspaceTexts.seeWorkspace }}</NuxtLink>
    </p>
    <main>
      <slot />
    </main>
    <VSnackbar v-model="notice.isShown" :text="notice.text">
      <template #actions>
        <LinkButton v-if="notice.undo" color="inherit" @click="notice.takeBack">{{ texts.undo }}</LinkButton>
      </template>
    </VSnackbar>
  </VApp>
</template>

<style>
.desk {
  font-family: var(--body);
  font-size: 14px;
}

.v-application.desk {
  background: var(--paper);
  color: var(--ink);
}

.desk .bar {
  display: flex;
  align-items: stretch;
  gap: 28px;
  height: 48px;
  padding: 0 24px;
  background: var(--bar);
  color: var(--on-bar);
}

.desk .bar a,
.desk .bar .v-btn {
  display: flex;
  align-items: center;
  border: 0;
  border-bottom: 3px solid transparent;
  border-top: 3px solid transparent;
  background: none;
  color: var(--on-bar-quiet);
  text-decoration: none;
  cursor: pointer;
  font-size: 14px;
}

.desk .bar :focus-visible {
  outline-color: var(--marigold);
  outline-offset: -2px;
}

.desk .bar .workspace {
  font-family: var(--heading);
  font-weight: 700;
  color: var(--on-bar);
}

.desk .bar nav {
  display: flex;
  gap: 24px;
  flex: 1;
}

.desk .bar nav .here {
  color: var(--on-bar);
  border-bottom-color: var(--marigold);
  font-weight: 600;
}

.desk .bar .v-btn {
  height: 100%;
  min-width: 24px;
  padding: 0;
  border-radius: 0;
  color: var(--on-bar);
}

.desk-banner {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: baseline;
  padding: 10px 24px;
  background: var(--surface);
  border-bottom: 1px solid var(--line);
  border-left: 3px solid var(--marigold);
}

.desk-banner.grave {
  border-left-color: var(--brick);
}

.zones {
  width: 320px;
  padding: 14px;
  display: grid;
  gap: 10px;
  justify-items: start;
}

.zones .v-input {
  width: 100%;
}

.person .theme-label {
  display: block;
  font-size: 12px;
  color: var(--quiet);
  margin-bottom: 4px;
}

.desk .plain-button {
  letter-spacing: 0;
  text-transform: none;
  font-weight: 600;
}

.desk .plain-button:not(.link-button).v-btn--disabled {
  background: var(--line) !important;
  color: var(--quiet) !important;
  opacity: 1;
}

.desk .plain-button:not(.link-button).v-btn--disabled .v-btn__overlay {
  display: none;
}

.desk .fault {
  padding: 12px 24px;
  color: var(--brick);
}
</style>
