import type { BroughtGuest } from '~~/core/booking/guests'
import { fieldErrors, problemOf } from '~/composables/problem'

/** The guests of a booking while they are edited, by address, and what saving them sends: whom to add and whom to remove. */
export function useGuestChange(path: string, before: readonly BroughtGuest[]) {
  const addresses = ref(before.length > 0 ? before.map(guest => guest.email) : [''])
  const errors = ref<Record<string, string>>({})
  const sending = ref(false)

  /** False where it was refused; why stands beside the fields. */
  async function save(): Promise<boolean> {
    addresses.value = addresses.value.map(address => address.trim()).filter(Boolean)
    const isKnown = (address: string) => before.some(guest => guest.email === address)
    const add = addresses.value.filter(address => !isKnown(address))
    const remove = before.map(guest => guest.email).filter(address => !addresses.value.includes(address))
    errors.value = {}
    sending.value = true
    try {
      if (add.length + remove.length > 0)
        await $fetch(path, { method: 'POST', body: { add: add.map(email => ({ email })), remove } })
      return true
    } catch (error) {
      const { message, document } = problemOf(error)
      const found = Object.entries(fieldErrors(document)).map(([place, text]): [string, string] => {
        const index = /^add\.(\d+)\./.exec(place)?.[1]
        return index === undefined ? ['guests', text] : [`guests.${addresses.value.indexOf(add[Number(index)] ?? '')}.email`, text]
      })
      errors.value = found.length > 0 ? Object.fromEntries(found) : { guests: message }
      return false
    } finally {
      sending.value = false
    }
  }

  return { addresses, errors, sending, save }
}
