/** Puts the entries of a list into another order: by dragging a handle, or with the arrow keys on it. */
export function useReorder<Entry>(entries: () => readonly Entry[], set: (entries: Entry[]) => void) {
  const held = ref<number | null>(null)
  const over = ref<number | null>(null)

  function move(from: number, to: number): void {
    if (to < 0 || to >= entries().length || from === to) return
    const moved = [...entries()]
    const [entry] = moved.splice(from, 1)
    if (entry !== undefined) moved.splice(to, 0, entry)
    set(moved)
  }

  function rowAt(event: PointerEvent): number | null {
    const row = document.elementFromPoint(event.clientX, event.clientY)?.closest<HTMLElement>('[data-row]')
    return row ? Number(row.dataset['row']) : null
  }

  /** What a handle needs. */
  const handle = (index: number) => ({
    onPointerdown: (event: PointerEvent) => {
      held.value = index
      ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
    },
    onPointermove: (event: PointerEvent) => {
      if (held.value !== null) over.value = rowAt(event)
    },
    onPointerup: () => {
      if (held.value !== null && over.value !== null) move(held.value, over.value)
      held.value = over.value = null
    },
    onPointercancel: () => {
      held.value = over.value = null
    },
    onKeydown: async (event: KeyboardEvent) => {
      const to = index + ({ ArrowUp: -1, ArrowDown: 1 }[event.key] ?? 0)
      if (to === index) return
      event.preventDefault()
      const list = (event.currentTarget as HTMLElement).closest('ol, ul')
      move(index, to)
      await nextTick()
      list?.querySelector<HTMLElement>(`[data-row="${to}"] .handle`)?.focus()
    },
  })

  /** What the row of an entry needs. */
  const row = (index: number) => ({
    'data-row': index,
    'class': { over: held.value !== null && over.value === index && held.value !== index },
  })

  return { move, handle, row }
}
