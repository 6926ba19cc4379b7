/** The first rows of a list that may be long, and all of them once somebody asks. */
export function useFirstRows<Row>(rows: () => readonly Row[], most = 25) {
  const isWhole = ref(false)
  const shown = computed(() => (isWhole.value ? rows() : rows().slice(0, most)))
  /** How many there are in all, where some are not shown; 0 where all are. */
  const total = computed(() => (shown.value.length < rows().length ? rows().length : 0))
  return reactive({ shown, total, showAll: () => (isWhole.value = true) })
}
