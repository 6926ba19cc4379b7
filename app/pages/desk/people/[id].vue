<script setup lang="ts">
import { texts } from '~/locales/host'
import { VCheckbox, VTextarea, VTextField } from 'vuetify/components'
import { formatInputFault } from '~~/core/catalogue/input'
import { slugFrom } from '~~/core/event-type/definition'
import { inputFaults } from '~~/core/validation'
import { hostProfileSchema, type HostView } from '~~/core/views/host'
import SaveBar from '~/components/desk/SaveBar.vue'
import ZoneField from '~/components/fields/ZoneField.vue'
import AwayDates from '~/components/people/AwayDates.vue'
import HostPictureField from '~/components/people/HostPictureField.vue'
import HostSide from '~/components/people/HostSide.vue'
import { useCalls } from '~/composables/calls'
import { useSubmission } from '~/composables/submission'
import { useDesk } from '~/stores/desk'
import { useNotice } from '~/stores/notice'

/** One host: what clients read about them, when they are away, and what they have. */

definePageMeta({ layout: 'desk' })

const desk = useDesk()
const notice = useNotice()
const id = String(useRoute().params['id'])
const path = `/api/desk/hosts/${id}`
const calls = useCalls()
const { sending, errors, fault, submit } = useSubmission()
const stored = shallowRef<HostView | null>(null)
const edited = ref<HostView['profile'] | null>(null)
useHead({ title: () => texts.pageTitle(stored.value?.profile.name ?? texts.host) })

/** What is typed is kept where only the picture or the hours have changed. */
async function load(keepTyped = false): Promise<void> {
  const view = await calls.act(() => $fetch<HostView>(path))
  if (!view) return
  stored.value = view
  if (!keepTyped || !edited.value) edited.value = structuredClone(view.profile)
}
void load()

const isChanged = computed(() => stored.value !== null && JSON.stringify(edited.value) !== JSON.stringify(stored.value.profile))
const faults = computed((): Record<string, string> => ({
  ...errors.value,
  ...Object.fromEntries(
    inputFaults(hostProfileSchema.safeParse(edited.value).error, edited.value).map(item => [item.path, formatInputFault(item)]),
  ),
}))
watch(edited, () => (errors.value = {}), { deep: true })

const save = () => submit(async () => {
  await $fetch(path, { method: 'POST', body: { ...edited.value, basedOn: stored.value?.version } })
  await Promise.all([load(), desk.load()])
  notice.show(texts.saved)
})

function setPhone(text: string): void {
  if (edited.value) edited.value.phone = text.trim() === '' ? null : text
}
function toggleRoom(isShown: boolean): void {
  if (edited.value) edited.value.fixedRoom = isShown ? { link: '', number: '', passcode: '' } : null
}
function togglePage(isShown: boolean): void {
  if (edited.value) edited.value.slug = isShown ? slugFrom(edited.value.name, new Set()) : null
}
</script>

<template>
  <div class="host">
    <p v-if="calls.fault.value" class="broken" role="alert">{{ calls.fault.value }}</p>
    <p v-if="!stored && !calls.fault.value" class="quiet">{{ texts.loading }}</p>
    <template v-if="stored && edited">
      <header>
        <HostPictureField :host="stored" @changed="load(true)" />
        <div>
          <h1>{{ stored.profile.name }}<span v-if="stored.own" class="quiet">{{ texts.you }}</span></h1>
          <p class="quiet">{{ stored.email }} · {{ stored.role ? texts.roles[stored.role] : texts.noSignIn }}</p>
        </div>
      </header>
      <div class="parts">
        <form @submit.prevent="save">
          <h2>{{ texts.profile }}</h2>
          <fieldset :disabled="!stored.mayChange">
            <label for="host-name">{{ texts.name }}</label>
            <VTextField id="host-name" v-model="edited.name" :disabled="!stored.mayChange" :error-messages="faults['name'] ?? []" hide-details="auto" />
            <label for="host-about">{{ texts.about }}</label>
            <VTextarea
              id="host-about" v-model="edited.about" :disabled="!stored.mayChange" rows="3" auto-grow counter="600" :hint="texts.aboutHint" persistent-hint
              :error-messages="faults['about'] ?? []" hide-details="auto"
            />
            <ZoneField v-if="stored.mayChange" v-model="edited.timeZone" :label="texts.timeZone" :locale="desk.locale" :now="desk.now" />
            <label for="host-phone">{{ texts.phone }}</label>
            <VTextField
              id="host-phone" :model-value="edited.phone ?? ''" type="tel" autocomplete="tel" :disabled="!stored.mayChange" :hint="texts.phoneHint"
              persistent-hint :error-messages="faults['phone'] ?? []" hide-details="auto" @update:model-value="setPhone"
            />
          </fieldset>
          <fieldset :disabled="!stored.mayChange">
            <legend>{{ texts.ownPage }}</legend>
            <VCheckbox
              :model-value="edited.slug !== null" :disabled="!stored.mayChange" :label="texts.hasPage" hide-details
              @update:model-value="togglePage($event === true)"
            />
            <template v-if="edited.slug !== null">
              <VTextField
                v-model="edited.slug" :disabled="!stored.mayChange" :aria-label="texts.pageAddress" :prefix="stored.base" :error-messages="faults['slug'] ?? []"
                hide-details="auto"
              />
              <p class="quiet hint">
                {{ stored.offered.length > 0 ? texts.offers(stored.offered) : texts.offersNothing }}
                <a v-if="stored.profile.slug" :href="stored.base + stored.profile.slug" target="_blank" rel="noopener">{{ texts.seePage }}</a>
              </p>
            </template>
            <p v-else class="quiet hint">{{ texts.noPage }}</p>
          </fieldset>
          <div v-if="stored.mayChange" class="field">
            <VTextField
              v-model="edited.videoEmail" :label="texts.videoEmail" type="email" :placeholder="stored.email" persistent-placeholder
              :error-messages="faults['videoEmail'] ?? []" hide-details="auto"
            />
            <p class="quiet hint">{{ texts.videoEmailHint }}</p>
          </div>
          <fieldset v-if="stored.mayChange">
            <legend>{{ texts.fixedRoom }}</legend>
            <VCheckbox
              :model-value="edited.fixedRoom !== null" :label="texts.hasFixedRoom" hide-details
              @update:model-value="toggleRoom($event === true)"
            />
            <template v-if="edited.fixedRoom">
              <VTextField v-model="edited.fixedRoom.link" :label="texts.roomLink" :error-messages="faults['fixedRoom.link'] ?? []" hide-details="auto" />
              <VTextField v-model="edited.fixedRoom.number" :label="texts.roomNumber" hide-details />
              <VTextField v-model="edited.fixedRoom.passcode" :label="texts.roomPasscode" hide-details />
            </template>
            <p class="quiet hint">{{ texts.fixedRoomHint }}</p>
          </fieldset>
          <AwayDates v-if="stored.plans" v-model="edited.away" :may-change="stored.mayChange" :faults="faults" />
          <SaveBar
            v-if="stored.mayChange" :is-changed="isChanged" :is-sound="Object.keys(faults).length === 0" :sending="sending" :fault="fault"
            @save="save" @discard="load()"
          />
        </form>
        <HostSide :host="stored" @changed="load(true)" />
      </div>
    </template>
  </div>
</template>

<style scoped>
.host {
  padding: 18px 24px 0;
}

header {
  display: flex;
  align-items: center;
  gap: 18px;
}

h1 {
  font-size: 26px;
}

.host :deep(h2) {
  font-size: 17px;
}

.parts {
  display: grid;
  grid-template-columns: minmax(0, 480px) minmax(0, 1fr);
  gap: 40px;
  margin-top: 18px;
  max-width: 1240px;
}

fieldset {
  display: grid;
  gap: 6px;
  border: 0;
  margin: 8px 0 18px;
  padding: 0;
}

fieldset > .v-input,
fieldset > div {
  margin-bottom: 10px;
}

label,
legend {
  padding: 0;
  font-weight: 600;
}

.hint {
  font-size: 12.5px;
}

@media (max-width: 900px) {
  .parts {
    grid-template-columns: minmax(0, 1fr);
    gap: 20px;
  }
}
</style>
