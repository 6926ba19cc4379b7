<script setup lang="ts">
import { texts } from '~/locales/client'
import { VDefaultsProvider, VThemeProvider } from 'vuetify/components'
import ZoneField from '~/components/fields/ZoneField.vue'
import { installVuetify } from '~/ui/vuetify'

/** Finds a zone on a client's page, which has no Vuetify until then. */

defineProps<{ zone: string, near: readonly string[], locale: string, now: number }>()
const emit = defineEmits<{ choose: [zone: string] }>()
installVuetify(useNuxtApp().vueApp)
</script>

<template>
  <VThemeProvider class="zone-search">
    <VDefaultsProvider :defaults="{ VAutocomplete: { autofocus: true, menuProps: { maxHeight: 320 } } }">
      <ZoneField :model-value="zone" :label="texts.cityCountryOrOffset" :near="near" :locale="locale" :now="now" @update:model-value="emit('choose', $event)" />
    </VDefaultsProvider>
  </VThemeProvider>
</template>

<style>
.zone-search {
  display: inline-block;
  width: 260px;
}
</style>
