<script setup lang="ts">
import { VApp, VList, VListItem, VMenu } from 'vuetify/components'
import { formatZone } from '~~/core/time/format'
import ConfirmBanner from '~/components/desk/ConfirmBanner.vue'
import { useDesk } from '~/stores/desk'

const desk = useDesk()
const route = useRoute()

const links = [
  { to: '/desk', name: 'Today' },
  { to: '/desk/event-types', name: 'Event types' },
]
const isHere = (to: string) => (to === '/desk' ? route.path === to : route.path.startsWith(to))

const zones = computed(() => [
  ...new Set([
    desk.member?.timeZone ?? 'UTC',
    Intl.DateTimeFormat().resolvedOptions().timeZone,
    'Europe/Lisbon',
    'America/Halifax',
    'Asia/Kolkata',
    'Australia/Adelaide',
    'UTC',
  ]),
])
const initials = computed(() => (desk.member?.name ?? '').split(/\s+/).map(part => part[0]).filter(Boolean).slice(0, 2).join(''))

const TICK_SECONDS = 10
onMounted(() => {
  const timer = setInterval(desk.tick, TICK_SECONDS * 1000)
  onBeforeUnmount(() => clearInterval(timer))
})

async function leave(): Promise<void> {
  await desk.signOut()
  await navigateTo('/desk/sign-in')
}
</script>

<template>
  <VApp class="desk">
    <header class="bar">
      <NuxtLink to="/desk" class="workspace">{{ desk.member?.workspace.name }}</NuxtLink>
      <nav aria-label="Main">
        <NuxtLink
          v-for="link in links" :key="link.to" :to="link.to" :class="{ here: isHere(link.to) }"
          :aria-current="isHere(link.to) ? 'page' : undefined"
        >{{ link.name }}</NuxtLink>
      </nav>
      <VMenu>
        <template #activator="{ props: activator }">
          <button type="button" v-bind="activator">{{ formatZone(desk.zone) }} time</button>
        </template>
        <VList aria-label="Zone all times are shown in">
          <VListItem
            v-for="zone in zones" :key="zone" :title="`${formatZone(zone)} time`" :active="zone === desk.zone"
            @click="desk.chooseZone(zone)"
          />
        </VList>
      </VMenu>
      <VMenu>
        <template #activator="{ props: activator }">
          <button type="button" v-bind="activator" :aria-label="`${initials}, menu of ${desk.member?.name}`">{{ initials }}</button>
        </template>
        <VList>
          <VListItem :title="desk.member?.name ?? ''" :subtitle="desk.member?.email ?? ''" />
          <VListItem title="Hours" to="/desk/hours" />
          <VListItem title="Connections" to="/desk/connections" />
          <VListItem title="Sign out" @click="leave" />
        </VList>
      </VMenu>
    </header>
    <ConfirmBanner v-if="desk.member && !desk.member.confirmed" />
    <main>
      <slot />
    </main>
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
.desk .bar button {
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

.desk .bar button {
  color: var(--on-bar);
}

.desk .plain-button {
  letter-spacing: 0;
  text-transform: none;
  font-weight: 600;
}

.desk .plain-button.v-btn--disabled {
  background: var(--line) !important;
  color: var(--quiet) !important;
  opacity: 1;
}

.desk .plain-button.v-btn--disabled .v-btn__overlay {
  display: none;
}

.desk .fault {
  padding: 12px 24px;
  color: var(--brick);
}
</style>
