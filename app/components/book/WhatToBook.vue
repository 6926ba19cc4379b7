<script setup lang="ts">
import { texts } from '~/locales/book-for-client'
import { VSelect, VTextField } from 'vuetify/components'
import { capitalise } from '~~/core/catalogue/capitalise'
import { placeWords } from '~~/core/catalogue/event-type'
import { formatDuration } from '~~/core/time/format'
import { type DeskBookingForm, ONE_OFF } from '~/composables/desk-booking'

/** What a client is booked into: an event type, or a session that is described here. */

const props = defineProps<{ booking: DeskBookingForm, errors: Readonly<Record<string, string>>, locale: string }>()
const { form, bookable, eventType, isOneOff, placeKind, hosts, chooseEventType } = props.booking

const items = [
  ...bookable.eventTypes.map(({ id, name, isOpen }) => ({ value: id, title: isOpen ? name : texts.closed(name) })),
  { value: ONE_OFF, title: texts.somethingElse },
]
const durations = computed(() => (eventType.value?.durations ?? []).map(value => ({ value, title: formatDuration(value) })))
const places = computed(() =>
  (eventType.value?.places ?? []).map(({ key, kind, label }) => ({ value: key, title: label || capitalise(placeWords[kind]) })))
const kinds = (['video', 'address', 'phoneWeCall', 'phoneYouCall', 'agreed'] as const).map(value => ({ value, title: capitalise(placeWords[value]) }))
const hostItems = computed(() => hosts.value.map(({ id, name }) => ({ value: id, title: name })))
const needsDetail = computed(() => form.kind === 'address' || form.kind === 'phoneYouCall')
const error = (...paths: string[]) => paths.map(path => props.errors[path]).find(Boolean) ?? []
</script>

<template>
  <fieldset class="part">
    <legend>{{ texts.what }}</legend>
    <VSelect
      :model-value="form.eventType" :items="items" :label="texts.eventType" :error-messages="error('eventType')" hide-details="auto"
      @update:model-value="chooseEventType"
    />
    <template v-if="eventType">
      <VSelect v-if="durations.length > 1" v-model="form.duration" :items="durations" :label="texts.duration" hide-details="auto" />
      <VTextField
        v-if="eventType.mostPeople > 1" :model-value="String(form.people)" inputmode="numeric" :label="texts.howMany" :suffix="texts.people"
        :error-messages="error('people')" hide-details="auto" @update:model-value="form.people = Number($event)"
      />
      <VSelect v-if="places.length > 1" v-model="form.place" :items="places" :label="texts.where" :error-messages="error('place')" hide-details="auto" />
      <VTextField
        v-if="placeKind === 'clientSuggests'" v-model="form.suggestion" :label="texts.where" maxlength="300" :error-messages="error('suggestion')"
        hide-details="auto"
      />
      <VSelect
        v-if="!bookable.onlyOwn && hosts.length > 1" v-model="form.host" :items="[{ value: null, title: texts.byRotation }, ...hostItems]"
        :label="texts.whoHosts" :error-messages="error('host')" hide-details="auto"
      />
      <p v-if="eventType.price" class="quiet">{{ texts.paidThere(eventType.price, locale) }}</p>
    </template>
    <template v-else-if="isOneOff">
      <VTextField
        v-model="form.title" :label="texts.title" :hint="texts.titleHint" persistent-hint maxlength="120" :error-messages="error('oneOff.title')"
        hide-details="auto"
      />
      <VTextField
        :model-value="String(form.duration)" inputmode="numeric" :label="texts.duration" :suffix="texts.minutes"
        :error-messages="error('oneOff.durationMinutes')" hide-details="auto" @update:model-value="form.duration = Number($event)"
      />
      <VSelect v-model="form.kind" :items="kinds" :label="texts.where" hide-details="auto" />
      <VTextField
        v-if="needsDetail" v-model="form.detail" :label="form.kind === 'address' ? texts.address : texts.numberToCall" maxlength="500"
        :error-messages="error('oneOff.place.detail')" hide-details="auto"
      />
      <VTextField v-model="form.note" :label="texts.note" maxlength="500" :error-messages="error('oneOff.place.note')" hide-details="auto" />
      <VSelect
        v-if="!bookable.onlyOwn" v-model="form.hosts" :items="hostItems" multiple :label="texts.whoHostsAll"
        :error-messages="error('oneOff.hosts')" hide-details="auto"
      />
    </template>
  </fieldset>
</template>

<style src="./book.css"></style>
