<script setup lang="ts">
import { texts } from '~/locales/connections'
import { VBtn, VFileInput, VTab, VTabs, VTextField } from 'vuetify/components'
import type { AccountView } from '~~/core/views/calendars'
import AskDialog from '~/components/desk/AskDialog.vue'
import { useSubmission } from '~/composables/submission'
import { useConnections } from '~/stores/connections'
import { useNotice } from '~/stores/notice'

/** Connects a calendar: an account, an address or a file. Before a password is typed, the server that gets it is found and shown. */

const props = defineProps<{ hostId: string, whose: string, servers: readonly { key: string, name: string }[] }>()
const open = defineModel<boolean>({ required: true })
const store = useConnections()
const notice = useNotice()
const { sending, errors, fault, submit } = useSubmission()

type Way = keyof typeof texts.ways
const ways = ['caldav', 'feed', 'file'] as const satisfies readonly Way[]
const way = ref<Way>('caldav')
const typed = ref('')
const server = shallowRef<{ host: string, url: string } | null>(null)
const user = ref('')
const password = ref('')
const file = shallowRef<File | null>(null)
const name = ref('')

watch([way, open], () => {
  errors.value = {}
  fault.value = ''
})
watch(file, (chosen) => {
  if (chosen && name.value === '') name.value = chosen.name.replace(/\.ics$/i, '')
})

async function find(): Promise<void> {
  if (typed.value.trim() === '') {
    errors.value = { address: texts.required }
    return
  }
  await submit(async () => {
    server.value = await $fetch<{ host: string, url: string }>('/api/desk/calendar-discovery', { query: { address: typed.value } })
    if (user.value === '' && typed.value.includes('@')) user.value = typed.value.trim()
  })
}

function missing(): Record<string, string> {
  const empty = (key: string, value: string) => (value.trim() === '' ? { [key]: texts.required } : {})
  switch (way.value) {
    case 'caldav': return { ...empty('user', user.value), ...empty('password', password.value) }
    case 'feed': return empty('address', typed.value)
    case 'file': return { ...(file.value ? {} : { file: texts.required }), ...empty('name', name.value) }
  }
}

async function connect(): Promise<void> {
  if (way.value === 'caldav' && !server.value) return find()
  errors.value = missing()
  if (Object.keys(errors.value).length > 0) return
  let account: AccountView | null = null
  await submit(async () => {
    account = await $fetch<AccountView>('/api/desk/calendar-accounts', { method: 'POST', body: bodyOf() })
  })
  const made = account as AccountView | null
  if (!made) return
  open.value = false
  password.value = ''
  server.value = null
  notice.show(texts.connectedNow(made.label))
  await store.load()
}

function bodyOf(): Record<string, string> | FormData {
  const { hostId } = props
  if (way.value === 'caldav') return { kind: 'caldav', hostId, address: server.value?.url ?? '', user: user.value, password: password.value }
  if (way.value === 'feed') return { kind: 'feed', hostId, address: typed.value }
  const form = new FormData()
  form.set('hostId', hostId)
  form.set('name', name.value)
  if (file.value) form.set('file', file.value)
  return form
}
</script>

<template>
  <AskDialog v-model="open" :title="texts.connectTitle(whose)" :width="520">
    <VTabs v-model="way" density="compact">
      <VTab v-for="key in ways" :key="key" :value="key">{{ texts.ways[key] }}</VTab>
    </VTabs>
    <p class="quiet">{{ texts.waysHint[way] }}</p>
    <form id="connect-calendar" class="connect" @submit.prevent="connect">
      <template v-if="way === 'caldav'">
        <template v-if="!server">
          <p v-for="{ key, name: called } in servers" :key="key" class="server">
            <VBtn variant="outlined" :href="`/api/desk/calendar-servers/${key}/connect?host=${hostId}`">{{ texts.connectWithConsent(called) }}</VBtn>
          </p>
          <p v-if="servers.length > 0" class="quiet">{{ texts.orByPassword }}</p>
          <label for="calendar-server">{{ texts.server }}</label>
          <VTextField
            id="calendar-server" v-model="typed" autofocus :hint="texts.serverHint" persistent-hint :error-messages="errors['address'] ?? []"
            autocapitalize="off" spellcheck="false" hide-details="auto"
          />
        </template>
        <template v-else>
          <p class="server">{{ texts.passwordGoesTo(server.host) }} <LinkButton @click="server = null">{{ texts.changeServer }}</LinkButton></p>
          <label for="calendar-user">{{ texts.user }}</label>
          <VTextField
            id="calendar-user" v-model="user" autofocus :error-messages="errors['user'] ?? []" autocomplete="off" autocapitalize="off" spellcheck="false"
            hide-details="auto"
          />
          <label for="calendar-password">{{ texts.password }}</label>
          <VTextField
            id="calendar-password" v-model="password" type="password" autocomplete="off" :hint="texts.passwordHint" persistent-hint
            :error-messages="errors['password'] ?? errors['address'] ?? []" hide-details="auto"
          />
        </template>
      </template>
      <template v-else-if="way === 'feed'">
        <label for="calendar-address">{{ texts.address }}</label>
        <VTextField
          id="calendar-address" v-model="typed" :hint="texts.addressHint" persistent-hint :error-messages="errors['address'] ?? []"
          autocapitalize="off" spellcheck="false" hide-details="auto"
        />
      </template>
      <template v-else>
        <VFileInput v-model="file" :label="texts.file" accept=".ics,text/calendar" :error-messages="errors['file'] ?? []" hide-details="auto" />
        <label for="calendar-name">{{ texts.fileName }}</label>
        <VTextField
          id="calendar-name" v-model="name" maxlength="120" :hint="texts.uploadAgain" persistent-hint :error-messages="errors['name'] ?? []"
          hide-details="auto"
        />
      </template>
      <p v-if="errors['hostId'] || fault" class="broken" role="alert">{{ errors['hostId'] ?? fault }}</p>
      <p v-if="sending" class="quiet" role="status">{{ texts.connecting }}</p>
    </form>
    <template #actions>
      <VBtn type="submit" form="connect-calendar" :loading="sending">{{ way === 'caldav' && !server ? texts.findServer : texts.connectIt }}</VBtn>
      <LinkButton @click="open = false">{{ texts.cancel }}</LinkButton>
    </template>
  </AskDialog>
</template>

<style scoped>
.connect {
  display: grid;
  gap: 6px;
}

label:not(.v-label) {
  font-weight: 600;
}

.server {
  margin-bottom: 4px;
}
</style>
