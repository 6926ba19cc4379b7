import { problemOf } from '~/composables/problem'

/**
 * Calls to the server whose fault a screen shows; null where one did not go through. `act` clears the fault of the one
 * before, and loads anew afterwards where a store gives the way to; `read` leaves the fault of what was done.
 */
export function useCalls(reload?: () => Promise<void>) {
  const fault = ref('')

  async function read<Answer>(work: () => Promise<Answer>): Promise<Answer | null> {
    try {
      return await work()
    } catch (error) {
      fault.value = problemOf(error).message
      return null
    }
  }

  async function act<Answer>(work: () => Promise<Answer>): Promise<Answer | null> {
    fault.value = ''
    const answer = await read(work)
    await reload?.()
    return answer
  }

  return { fault, read, act }
}
