/** Arrow keys, Home and End over the buttons of a table that carry `data-at`; up and down keep to the column. */
export function moveInTable(root: HTMLElement | null, event: KeyboardEvent): void {
  const all = [...(root?.querySelectorAll<HTMLButtonElement>('button[data-at]') ?? [])]
  const here = all.findIndex(button => button === event.target)
  const current = all[here]
  if (!current) return
  const moves: Record<string, () => HTMLButtonElement | undefined> = {
    ArrowRight: () => all[here + 1],
    ArrowLeft: () => all[here - 1],
    Home: () => all[0],
    End: () => all.at(-1),
    ArrowDown: () => inNextRow(all.slice(here + 1), current),
    ArrowUp: () => inNextRow(all.slice(0, here).reverse(), current),
  }
  const target = moves[event.key]?.()
  if (!target) return
  event.preventDefault()
  target.focus()
}

/** The button of the first other row in the list that stands nearest to the current one's column. */
function inNextRow(candidates: HTMLButtonElement[], current: HTMLButtonElement): HTMLButtonElement | undefined {
  const row = candidates.find(button => button.closest('tr') !== current.closest('tr'))?.closest('tr')
  const left = leftOf(current)
  const distance = (button: HTMLButtonElement) => Math.abs(leftOf(button) - left)
  return candidates.filter(button => button.closest('tr') === row).sort((a, b) => distance(a) - distance(b))[0]
}

function leftOf(button: HTMLButtonElement): number {
  return button.getBoundingClientRect().left
}
