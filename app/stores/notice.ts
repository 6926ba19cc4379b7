import { defineStore } from 'pinia'

/** What has just been done, said at the foot of the desk, with the way to take it back where there is one. */
export const useNotice = defineStore('notice', () => {
  const text = ref('')
  const isShown = ref(false)
  const undo = shallowRef<(() => Promise<unknown>) | null>(null)

  function show(done: string, takesBack: (() => Promise<unknown>) | null = null): void {
    text.value = done
    undo.value = takesBack
    isShown.value = true
  }

  async function takeBack(): Promise<void> {
    const work = undo.value
    undo.value = null
    isShown.value = false
    await work?.()
  }

  return { text, isShown, undo, show, takeBack }
})
