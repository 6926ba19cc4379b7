/**
 * Whether what is looked for first has been painted: the rest of a large screen is made only then. `isThere` says that it is
 * about to be.
 */
export function useAfterPaint(isThere: () => boolean) {
  const isPainted = ref(false)
  watch(isThere, async (there) => {
    if (!there || isPainted.value) return
    await nextTick()
    requestAnimationFrame(() => requestAnimationFrame(() => (isPainted.value = true)))
  }, { immediate: true })
  return isPainted
}
