<script setup lang="ts">
import { texts } from '~/locales/people'
import { VBtn, VSelect, VTable } from 'vuetify/components'
import { formatDay, formatZone } from '~~/core/time/format'
import { type MemberRole, memberRoles } from '~~/core/account/roles'
import AddHostDialog from '~/components/people/AddHostDialog.vue'
import InviteDialog from '~/components/people/InviteDialog.vue'
import { roleWords } from '~/composables/roles'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'
import { usePeople } from '~/stores/people'

definePageMeta({ layout: 'desk' })
useHead({ title: texts.peopleTemporia })

const desk = useDesk()
const people = usePeople()
const notice = useNotice()
const isInviting = ref(false)
const isAdding = ref(false)
const isOwner = computed(() => desk.member?.role === 'owner')
const roles = memberRoles.map(value => ({ value, title: roleWords[value].name }))
const day = (instant: number) => formatDay(instant, desk.zone, desk.locale, desk.now)

onMounted(people.load)

async function changeRole({ id, name, own }: { id: string, name: string, own: boolean }, role: MemberRole): Promise<void> {
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
      <p v-if="people.view" class="quiet">{{ texts.memberCount(people.view.members.length) }}</p>
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
            <th scope="col">{{ texts.hosting }}</th>
            <th scope="col">{{ texts.timeZone }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="member in people.view.members" :key="member.id">
            <th scope="row">{{ member.name }}<span v-if="member.own" class="quiet">{{ texts.you }}</span><span class="quiet address">{{ member.email }}</span></th>
            <td>
              <VSelect
                v-if="isOwner" :model-value="member.role" :items="roles" :aria-label="texts.roleOf(member.name)" hide-details
                @update:model-value="changeRole(member, $event)"
              />
              <template v-else>{{ roleWords[member.role].name }}</template>
            </td>
            <td>{{ member.hostId ? texts.hosts : texts.hostsNothing }}</td>
            <td>{{ formatZone(member.timeZone) }}</td>
          </tr>
        </tbody>
      </VTable>
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
      <section v-if="people.view.hosts.length > 0" aria-labelledby="without-sign-in">
        <h2 id="without-sign-in">{{ texts.withoutSignIn }}</h2>
        <p class="quiet">{{ texts.withoutSignInHint }}</p>
        <ul>
          <li v-for="host in people.view.hosts" :key="host.id">
            <div><strong>{{ host.name }}</strong> <span class="quiet">{{ host.email }}, {{ formatZone(host.timeZone) }}</span></div>
          </li>
        </ul>
      </section>
    </template>
    <InviteDialog v-if="isInviting" v-model="isInviting" />
    <AddHostDialog v-if="isAdding" v-model="isAdding" />
  </div>
</template>

<style scoped>
.people {
  padding: 18px 24px 40px;
  max-width: 1080px;
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
  width: 190px;
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
