<script setup lang="ts">
import { texts } from '~/locales/people'
import { texts as shareTexts } from '~/locales/rotation'
import { VBtn, VSelect, VTable } from 'vuetify/components'
import { dateToDays } from '~~/core/time/civil'
import { formatDay, formatMonthDay, formatShortDifference, formatZone, zoneDifference } from '~~/core/time/format'
import { describeWeek } from '~~/core/time/hours-text'
import type { PeopleView } from '~~/core/views/desk'
import { type MemberRole, memberRoles } from '~~/core/account/roles'
import AddHostDialog from '~/components/people/AddHostDialog.vue'
import InviteDialog from '~/components/people/InviteDialog.vue'
import PoolShares from '~/components/people/PoolShares.vue'
import ShowAll from '~/components/ShowAll.vue'
import { useAfterPaint } from '~/composables/after-paint'
import { useFirstRows } from '~/composables/first-rows'
import { poolName, poolSubtitle } from '~/composables/pool-names'
import { roleWords } from '~/composables/roles'
import HostPicture from '~/components/HostPicture.vue'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'
import { usePeople } from '~/stores/people'
import { useRotation } from '~/stores/rotation'

const HandOverDialog = defineAsyncComponent(() => import('~/components/people/HandOverDialog.vue'))
const LeaveDialog = defineAsyncComponent(() => import('~/components/people/LeaveDialog.vue'))

definePageMeta({ layout: 'desk' })
useHead({ title: texts.peopleTemporia })

const desk = useDesk()
const people = usePeople()
const rotation = useRotation()
const notice = useNotice()
const isInviting = ref(false)
const isAdding = ref(false)
const isOwner = computed(() => desk.member?.role === 'owner')
const roles = memberRoles.map(value => ({ value, title: roleWords[value].name }))
const dateText = (date: string) => formatMonthDay(dateToDays(date), 'long', desk.locale)
const day = (instant: number) => formatDay(instant, desk.zone, desk.locale, desk.now)

const DAYS = 90
void people.load()
void rotation.load(DAYS)
/** What follows the people is long. */
const isPainted = useAfterPaint(() => people.view !== null)

type Person = PeopleView['people'][number]
/** How far a person's clock is from the one the screen shows. */
function difference(zone: string): string {
  const minutes = zoneDifference(zone, desk.zone, desk.now)
  return minutes === 0 ? '' : formatShortDifference(minutes)
}
function hoursOf({ weekly, hasMore }: NonNullable<NonNullable<Person['host']>['hours']>): string {
  // The two ends of a window stay on one line.
  const week = weekly.length > 0 ? describeWeek(weekly, desk.locale).replaceAll('–', '–\u2060') : texts.noWeeklyHours
  return hasMore ? texts.andMore(week) : week
}

/** Who is about to leave. */
const leaving = shallowRef<Person | null>(null)
const firstPeople = useFirstRows(() => people.view?.people ?? [])

let page = 1
function showMorePools(): void {
  page++
  void rotation.loadMore(page)
}

const handingOver = shallowRef<{ id: string, name: string } | null>(null)
const mayHandOver = (person: Person) => desk.member?.reach.sessions === 'change' || person.member?.own === true

async function changeRole(id: string, name: string, own: boolean, role: MemberRole): Promise<void> {
  if (!await people.changeRole(id, role)) return
  notice.show(texts.roleIsChanged(name, roleWords[role].phrase))
  if (own) await desk.load()
}

async function sendAgain({ id, email }: { id: string, email: string }): Promise<void> {
  if (await people.sendAgain(id)) notice.show(texts.sentAgain(email))
}

async function withdraw({ id, name }: { id: string, name: string }): Promise<void> {
  if (await people.withdraw(id)) notice.show(texts.withdrawn(name))
}
</script>

<template>
  <div class="people">
    <header>
      <h1>{{ texts.people }}</h1>
      <p v-if="people.view" class="quiet">{{ texts.memberCount(people.view.people.filter(person => person.member).length) }}</p>
      <template v-if="isOwner">
        <LinkButton class="add" @click="isAdding = true">{{ texts.addAHost }}</LinkButton>
        <VBtn @click="isInviting = true">{{ texts.invite }}</VBtn>
      </template>
    </header>
    <p v-if="people.fault" class="broken" role="alert">{{ people.fault }}</p>
    <p v-if="!people.view" class="quiet">{{ texts.loading }}</p>
    <template v-else>
      <VTable>
        <thead>
          <tr>
            <th scope="col">{{ texts.name }}</th>
            <th scope="col">{{ texts.role }}</th>
            <th scope="col">{{ texts.whereAndHours }}</th>
            <th scope="col">{{ texts.video }}</th>
            <th scope="col">{{ texts.coming }}</th>
            <th scope="col"><span class="visually-hidden">{{ texts.actions }}</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="person in firstPeople.shown" :key="person.member?.id ?? person.host?.id">
            <th scope="row">
              <div class="who">
                <HostPicture :name="person.name" :picture="person.host?.picture ?? null" :size="36" />
                <span><NuxtLink v-if="person.host" :to="`/desk/people/${person.host.id}`">{{ person.name }}</NuxtLink><template v-else>{{ person.name }}</template><span v-if="person.member?.own" class="quiet">{{ texts.you }}</span><span class="quiet address">{{ person.host?.awayUntil ? texts.awayUntil(dateText(person.host.awayUntil)) : person.email }}</span></span>
              </div>
            </th>
            <td>
              <VSelect
                v-if="isOwner && person.member" :model-value="person.member.role" :items="roles" :aria-label="texts.roleOf(person.name)"
                hide-details @update:model-value="changeRole(person.member.id, person.name, person.member.own, $event)"
              />
              <template v-else>{{ person.member ? roleWords[person.member.role].name : texts.noSignIn }}</template>
            </td>
            <td>
              {{ formatZone(person.timeZone) }} <span class="quiet">{{ difference(person.timeZone) }}</span>
              <span class="quiet under"><NuxtLink v-if="person.host?.hours" :to="`/desk/hours/${person.host.hours.planId}`">{{ hoursOf(person.host.hours) }}</NuxtLink><template v-else-if="!person.host">{{ texts.hostsNothing }}</template></span>
            </td>
            <td :class="{ broken: person.host && (person.host.video === 'none' || person.host.video === 'lost') }">{{ person.host ? texts.videoStates[person.host.video] : '' }}</td>
            <td>{{ person.host ? texts.sessions(person.host.coming) : '' }}</td>
            <td class="actions-cell">
              <LinkButton
                v-if="person.host && person.host.coming > 0 && mayHandOver(person)" :aria-label="texts.handOverFrom(person.name)"
                @click="handingOver = { id: person.host.id, name: person.name }"
              >{{ texts.handOver }}</LinkButton>
              <LinkButton v-if="person.member?.own" @click="leaving = person">{{ texts.leave }}</LinkButton>
              <LinkButton
                v-else-if="isOwner" :aria-label="texts.removePerson(person.name)" @click="leaving = person"
              >{{ texts.remove }}</LinkButton>
            </td>
          </tr>
        </tbody>
      </VTable>
      <ShowAll :total="firstPeople.total" @show="firstPeople.showAll" />
      <section v-if="people.view.invitations.length > 0" aria-labelledby="waiting">
        <h2 id="waiting">{{ texts.waiting }}</h2>
        <ul>
          <li v-for="invitation in people.view.invitations" :key="invitation.id">
            <div>
              <strong>{{ invitation.name }}</strong> <span class="quiet">{{ invitation.email }}, {{ roleWords[invitation.role].name }}</span>
              <p :class="invitation.until <= people.view.now ? 'broken' : 'quiet'">{{ invitation.until <= people.view.now ? texts.expired(day(invitation.until)) : texts.invitedBy(invitation.by, day(invitation.until)) }}</p>
            </div>
            <p v-if="isOwner" class="actions">
              <LinkButton :aria-label="texts.sendAgainTo(invitation.name)" @click="sendAgain(invitation)">{{ texts.sendAgain }}</LinkButton>
              <LinkButton :aria-label="texts.withdrawFor(invitation.name)" @click="withdraw(invitation)">{{ texts.withdraw }}</LinkButton>
            </p>
          </li>
        </ul>
      </section>
      <section class="rotation" aria-labelledby="rotation">
        <header>
          <h2 id="rotation">{{ shareTexts.groups }}</h2>
          <LinkButton v-if="desk.mayChangeEventTypes" class="add" @click="navigateTo('/desk/rotation/new')">{{ shareTexts.newGroup }}</LinkButton>
        </header>
        <p class="quiet">{{ shareTexts.groupsHint }}</p>
        <p v-if="rotation.fault" class="broken" role="alert">{{ rotation.fault }}</p>
        <p v-if="rotation.view?.pools.length === 0" class="quiet">{{ shareTexts.noPools }}</p>
        <section v-for="pool in isPainted ? rotation.view?.pools ?? [] : []" :key="pool.id" :aria-labelledby="`pool-${pool.id}`" class="pool">
          <h3 :id="`pool-${pool.id}`">{{ poolName(pool) }} <span class="quiet">{{ poolSubtitle(pool) }}</span></h3>
          <PoolShares :pool="pool" :days="rotation.view?.days ?? DAYS" :label="poolName(pool)" />
          <p><NuxtLink :to="`/desk/rotation/${pool.id}`" :aria-label="shareTexts.detailsOf(poolName(pool))">{{ shareTexts.details }}</NuxtLink></p>
        </section>
        <p v-if="isPainted && rotation.view?.hasMore"><LinkButton @click="showMorePools">{{ shareTexts.showMore }}</LinkButton></p>
      </section>
    </template>
    <InviteDialog v-if="isInviting" v-model="isInviting" />
    <AddHostDialog v-if="isAdding" v-model="isAdding" />
    <HandOverDialog
      v-if="handingOver" :model-value="true" :host="handingOver" @update:model-value="handingOver = null" @done="people.load"
    />
    <LeaveDialog v-if="leaving" :person="leaving" @close="leaving = null" @left="rotation.load(DAYS)" />
  </div>
</template>

<style scoped>
.people {
  padding: 18px 24px 40px;
  max-width: 1320px;
}

header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 24px;
}

header .add {
  margin-left: auto;
}

h1 {
  font-size: 26px;
}

h2 {
  font-size: 17px;
}

section {
  margin-top: 28px;
}

.v-table {
  margin-top: 14px;
  background: none;
}

th,
td {
  text-align: left;
}

tbody th,
tbody td {
  border-color: var(--line) !important;
  padding-block: 8px !important;
}

th:first-child {
  padding-left: 0 !important;
}

tbody th {
  font-weight: 600;
}

tbody td:nth-child(2) {
  width: 184px;
}

tbody td:nth-child(4),
tbody td:nth-child(5) {
  white-space: nowrap;
}

.under {
  display: block;
}

.actions-cell {
  text-align: right;
  white-space: nowrap;
}

.actions-cell .link-button + .link-button {
  margin-left: 16px;
}

.pool {
  margin-top: 20px;
}

h3 {
  font-size: 16px;
}

h3 .quiet {
  font-family: var(--body);
  font-size: 14px;
  font-weight: 400;
}

.rotation header {
  align-items: baseline;
}

.who {
  display: flex;
  align-items: center;
  gap: 12px;
}

.address {
  display: block;
  font-weight: 400;
}

ul {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}

li {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-start;
  justify-content: space-between;
  gap: 8px 24px;
  border-top: 1px solid var(--line);
  padding: 10px 0;
}

.actions {
  display: flex;
  gap: 18px;
}
</style>
