<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VCheckbox, VSelect, VTextField } from 'vuetify/components'
import type { Place, Settings } from '~~/core/event-type/settings'
import { placeWords } from '~~/core/catalogue/event-type'
import { type PlaceKind, placeKinds } from '~~/core/event-type/place-kinds'
import { presetWays } from '~~/core/rooms/ways'
import RoomOptions from '~/components/bench/RoomOptions.vue'
import RoomWays from '~/components/fields/RoomWays.vue'

defineProps<{ errors: Readonly<Record<string, string>> }>()
const settings = defineModel<Settings>({ required: true })

function change(index: number, part: Partial<Place>): void {
  settings.value = { ...settings.value, places: settings.value.places.map((place, i) => (i === index ? { ...place, ...part } : place)) }
}

const kinds = placeKinds.map(kind => ({ value: kind, title: placeWords[kind] }))
const setKind = (index: number, kind: PlaceKind) => change(index, { kind, label: '', detail: '', note: '' })

const setRoom = (part: Partial<Settings['room']>) => {
  settings.value = { ...settings.value, room: { ...settings.value.room, ...part } }
}

function add(): void {
  const taken = new Set(settings.value.places.map(place => place.key))
  let number = settings.value.places.length + 1
  while (taken.has(`place${number}`)) number++
  settings.value = {
    ...settings.value,
    places: [...settings.value.places, { key: `place${number}`, kind: 'phoneWeCall', label: '', detail: '' }],
  }
}

function remove(index: number): void {
  settings.value = { ...settings.value, places: settings.value.places.filter((_, i) => i !== index) }
}

const details: Partial<Record<PlaceKind, string>> = {
  address: texts.theAddress,
  phoneYouCall: texts.theNumberClientsCall,
  agreed: texts.aNoteForClients,
}
</script>

<template>
  <div>
    <fieldset v-for="(place, index) in settings.places" :key="place.key" class="entry">
      <legend>{{ settings.places.length > 1 ? texts.choice(index + 1) : texts.whereItTakesPlace }}</legend>
      <VSelect
        :model-value="place.kind" :aria-label="texts.kindOfPlace(index + 1)" :items="kinds" hide-details
        @update:model-value="setKind(index, $event)"
      />
      <div class="field">
        <label :for="`place-label-${place.key}`">{{ texts.whatClientsReadBeforeBooking }}</label>
        <VTextField
          :id="`place-label-${place.key}`" :model-value="place.label" :placeholder="placeWords[place.kind]"
          :error-messages="errors[`places.${index}.label`] ?? []" hide-details="auto"
          @update:model-value="change(index, { label: $event })"
        />
      </div>
      <div v-if="details[place.kind]" class="field">
        <label :for="`place-detail-${place.key}`">{{ details[place.kind] }}</label>
        <VTextField
          :id="`place-detail-${place.key}`" :model-value="place.detail"
          :error-messages="errors[`places.${index}.detail`] ?? []" hide-details="auto"
          @update:model-value="change(index, { detail: $event })"
        />
        <p class="quiet hint">{{ texts.placeDetailHint }}</p>
      </div>
      <div class="field">
        <label :for="`place-note-${place.key}`">{{ texts.placeNote }}</label>
        <VTextField
          :id="`place-note-${place.key}`" :model-value="place.note ?? ''" :placeholder="texts.placeNoteExamples[place.kind]"
          :error-messages="errors[`places.${index}.note`] ?? []" hide-details="auto" @update:model-value="change(index, { note: $event })"
        />
      </div>
      <LinkButton v-if="settings.places.length > 1" @click="remove(index)">{{ texts.removeThisChoice }}</LinkButton>
    </fieldset>
    <LinkButton @click="add">{{ texts.addAnotherPlace }}</LinkButton>
    <fieldset v-if="settings.places.some(({ kind }) => kind === 'video')" class="entry rooms">
      <legend>{{ texts.wayToTheRoom }}</legend>
      <VCheckbox
        :model-value="settings.room.ways === null" :label="texts.asTheWorkspace" hide-details density="compact"
        @update:model-value="setRoom({ ways: $event ? null : [...presetWays] })"
      />
      <RoomWays v-if="settings.room.ways" :model-value="settings.room.ways" @update:model-value="setRoom({ ways: $event })" />
      <template v-if="settings.room.ways?.includes('link')">
        <VTextField
          :model-value="settings.room.link" :label="texts.ownRoomLink" :error-messages="errors['room.link'] ?? []" hide-details="auto"
          @update:model-value="setRoom({ link: $event.trim() })"
        />
        <p class="quiet hint">{{ texts.ownRoomLinkHint }}</p>
      </template>
      <RoomOptions :model-value="settings.room.options" :errors="errors" @update:model-value="setRoom({ options: $event })" />
    </fieldset>
  </div>
</template>
