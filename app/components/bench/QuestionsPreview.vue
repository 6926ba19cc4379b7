<script setup lang="ts">
import { texts } from '~/locales/bench'
import { clientEventType } from '~~/core/catalogue/event-type-page'
import type { Definition } from '~~/core/event-type/definition'
import { DAY } from '~~/core/time/civil'
import { useBench } from '~/stores/bench'
import { useDesk } from '~/stores/desk'
import BookingForm from '~/components/client/BookingForm.vue'

/** The form as clients meet it, to be tried: the same fields and the same checks. */

const props = defineProps<{ definition: Definition }>()
const bench = useBench()
const desk = useDesk()
const eventType = computed(() => clientEventType(props.definition))
</script>

<template>
  <section class="preview" aria-labelledby="preview">
    <h2 id="preview">{{ texts.theFormAsClientsSeeIt }}</h2>
    <p class="quiet">{{ texts.tryItNothingIsSent }}</p>
    <div class="form">
    <BookingForm
      is-preview path="" :start="bench.now + DAY" :duration="eventType.durations[0] ?? 30" :host="null" :zone="desk.zone"
      :locale="desk.locale" :now="bench.now" :event-type="eventType"
    />
    </div>
  </section>
</template>

<style src="../client/booking-form.css"></style>

<style scoped>
.preview h2 {
  font-size: 17px;
}

.form {
  max-width: 420px;
  border: 1px solid var(--line);
  border-radius: var(--corner);
  background: var(--surface);
  padding: 16px 20px;
  margin-top: 12px;
}
</style>
