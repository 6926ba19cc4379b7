<script setup lang="ts">
import { texts } from '~/locales/bench'
import { VAutocomplete, VCheckbox, VSelect, VTextField } from 'vuetify/components'
import { formatInputFault } from '~~/core/catalogue/input'
import type { Settings } from '~~/core/event-type/settings'
import { currencies, parseAmount, typedAmount } from '~~/core/payment/money'
import { describeRefund, type Price } from '~~/core/payment/price'
import NumberField from '~/components/bench/NumberField.vue'
import TimeSpanField from '~/components/bench/TimeSpanField.vue'
import { selectItems } from '~/composables/select-items'

/** What a booking costs, when it is paid, and what is paid back. */

const props = defineProps<{ errors: Readonly<Record<string, string>> }>()
const settings = defineModel<Settings>({ required: true })
const emit = defineEmits<{ unread: [field: string, fault: string | null] }>()

const price = computed(() => settings.value.price)
const first: Price = { amount: 5000, currency: 'EUR', per: 'booking', when: 'booking', refund: { allUntilMinutes: 1440, afterPercent: 0 } }
const amount = ref(price.value ? typedAmount(price.value.amount, price.value.currency) : '')

function set(change: Partial<Price> | null): void {
  settings.value = { ...settings.value, price: change && { ...price.value ?? first, ...change } }
}

/** Text that is no amount is refused here, since the draft cannot hold it. */
function read(text: string, currency = price.value?.currency ?? first.currency): void {
  amount.value = text
  const found = parseAmount(text, currency)
  emit('unread', 'price.amount', found ? null : formatInputFault({ code: 'amount', values: {} }))
  if (found) set({ amount: found, currency })
}

function toggle(isPaid: boolean): void {
  set(isPaid ? first : null)
  amount.value = typedAmount(first.amount, first.currency)
  emit('unread', 'price.amount', null)
}

const display = new Intl.DisplayNames('en', { type: 'currency' })
const choices = currencies.map(code => ({ value: code, title: `${code}, ${display.of(code) ?? ''}` }))
const isEverBack = computed(() => price.value?.refund.allUntilMinutes !== null)
</script>

<template>
  <VCheckbox :model-value="price !== null" :label="texts.costsSomething" hide-details @update:model-value="toggle($event === true)" />
  <div v-if="price" class="price">
    <div class="amount">
      <div>
        <label for="price-amount">{{ texts.amount }}</label>
        <VTextField
          id="price-amount" :model-value="amount" inputmode="decimal" :error-messages="props.errors['price.amount'] ?? []" hide-details="auto"
          @update:model-value="read($event)"
        />
      </div>
      <VAutocomplete
        :model-value="price.currency" :label="texts.currency" :items="choices" auto-select-first hide-details
        @update:model-value="$event && read(amount, $event)"
      />
    </div>
    <VSelect
      :model-value="price.per" :label="texts.forWhat" :items="selectItems(texts.perWhat)" hide-details
      @update:model-value="set({ per: $event })"
    />
    <VSelect
      :model-value="price.when" :label="texts.whenPaid" :items="selectItems(texts.paidWhen)" hide-details
      @update:model-value="set({ when: $event })"
    />
    <p class="quiet hint">{{ texts.paidHint[price.when] }}</p>
    <template v-if="price.when === 'booking'">
      <h3>{{ texts.whoCancels }}</h3>
      <VCheckbox
        :model-value="isEverBack" :label="texts.allBack" hide-details
        @update:model-value="set({ refund: { ...price.refund, allUntilMinutes: $event ? 1440 : null } })"
      />
      <TimeSpanField
        v-if="price.refund.allUntilMinutes !== null" :model-value="price.refund.allUntilMinutes" :label="texts.untilBefore"
        :error="props.errors['price.refund.allUntilMinutes']"
        @update:model-value="set({ refund: { ...price.refund, allUntilMinutes: $event } })"
      />
      <NumberField
        :model-value="price.refund.afterPercent" :label="isEverBack ? texts.percentAfter : texts.percentBack" unit="%"
        :error="props.errors['price.refund.afterPercent']" @update:model-value="set({ refund: { ...price.refund, afterPercent: $event } })"
      />
      <p class="quiet hint">{{ describeRefund(price) }} {{ texts.teamCancels }}</p>
    </template>
  </div>
</template>

<style scoped>
.price {
  display: grid;
  gap: 14px;
  margin-top: 8px;
}

.price :deep(.field) {
  margin: 0;
}

label {
  font-weight: 600;
}

.amount {
  display: grid;
  grid-template-columns: 130px minmax(0, 1fr);
  gap: 12px;
  align-items: end;
}

h3 {
  font: 600 14px/1.4 var(--body);
  letter-spacing: 0;
  margin-top: 6px;
}
</style>
