import { fieldErrors, type ProblemDocument, problemOf } from './problem'

/** A form on its way to the server: whether it is being sent, what is wrong with its fields, and what is wrong otherwise. */
export function useSubmission() {
  const sending = ref(false)
  const errors = ref<Record<string, string>>({})
  const fault = ref('')

  /** Does the work; gives the problem that came of it, null where it went through. */
  async function submit(work: () => Promise<unknown>): Promise<{ document: ProblemDocument | null } | null> {
    sending.value = true
    errors.value = {}
    fault.value = ''
    try {
      await work()
      return null
    } catch (error) {
      const { message, document } = problemOf(error)
      errors.value = fieldErrors(document)
      if (Object.keys(errors.value).length === 0) fault.value = message
      return { document }
    } finally {
      sending.value = false
    }
  }

  return { sending, errors, fault, submit }
}
