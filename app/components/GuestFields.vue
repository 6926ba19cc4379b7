<script setup lang="ts">
import { texts } from '~/locales/guests'
import { VTextField } from 'vuetify/components'
import { MOST_GUESTS } from '~~/core/booking/guests'

/** The addresses of people whom a client brings along, one field each. */

/** Faults by place: `guests.0.email`, or `guests` for the list. */
defineProps<{ errors: Record<string, string>, mayAdd: boolean }>()
const guests = defineModel<string[]>({ required: true })

const set = (index: number, text: string) => (guests.value = guests.value.map((guest, at) => (at === index ? text : guest)))
const remove = (index: number) => (guests.value = guests.value.filter((_, at) => at !== index))
</script>

<template>
  <div v-for="(guest, index) in guests" :key="index" class="guest">
    <VTextField
      :model-value="guest" type="email" :aria-label="texts.eMailOfGuest(index + 1)" :placeholder="texts.namePlaceExample"
      :error-messages="errors[`guests.${index}.email`]" maxlength="254" hide-details="auto" @update:model-value="set(index, $event)"
    />
    <button type="button" class="word" :aria-label="texts.removeNamed(guest || texts.guest(index + 1))" @click="remove(index)">{{ texts.remove }}</button>
  </div>
  <p v-if="errors['guests']" class="broken" role="alert">{{ errors['guests'] }}</p>
  <button v-if="mayAdd && guests.length < MOST_GUESTS" type="button" class="word add" @click="guests = [...guests, '']">{{ texts.addAGuest }}</button>
</template>

<style scoped>
.guest {
  display: flex;
  gap: 12px;
  align-items: start;
  margin-bottom: 6px;
}

.guest .word {
  white-space: nowrap;
  margin-top: 8px;
}

.add {
  justify-self: start;
}
</style>
